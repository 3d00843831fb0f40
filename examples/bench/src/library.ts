/** The captures that can be opened: those that the server offers, and those that were dropped on the page. */
import { type Cell, formatCell } from 'fenlok';
import type { ServedCapture } from '../serve-captures.ts';
import type { CaptureParts } from './worker/bench-screen.ts';

export interface Entry {
  id: string;
  title: string;
  platform: 'android' | 'ios';
  cell: Cell;
  load(): Promise<CaptureParts>;
  /** Its density was guessed from the picture's width. */
  guessedDpi?: number;
}

interface PlainCapture {
  platform: 'android' | 'ios';
  cell: Cell;
  picture: string;
  hierarchy?: string;
}

const token = new URLSearchParams(location.search).get('token') ?? '';
const get = async (path: string): Promise<Response> => {
  const response = await fetch(`captures/${path}?token=${encodeURIComponent(token)}`);
  if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
  return response;
};

export async function servedCaptures(): Promise<Entry[]> {
  const served = (await (await get('index.json')).json()) as ServedCapture[];
  return served
    .map(({ capture, path }) => {
      const { cell, hierarchy, picture, platform } = capture as PlainCapture;
      const beside = (name: string) => get(path.replace(/[^/]*$/, encodeURIComponent(name)));
      const load = async (): Promise<CaptureParts> => ({
        name: path,
        capture: await (await get(path)).text(),
        picture: await (await beside(picture)).blob(),
        hierarchyXml: hierarchy ? await (await beside(hierarchy)).text() : '',
      });
      return { id: path, title: formatCell(cell), platform, cell, load };
    })
    .sort((a, b) => oddness(a) - oddness(b) || (a.title < b.title ? -1 : 1));
}

const oddness = ({ cell, platform }: Entry): number =>
  Number(platform === 'ios') * 32 +
  Number(cell.procedure !== 'as-is') * 16 +
  Number(cell.orientation !== 'portrait') * 8 +
  Number(cell.textScale !== 1) * 4 +
  Number(cell.locale !== 'en') * 2 +
  Number(cell.theme !== 'light');

const stem = (name: string): string => name.replace(/\.[^.]*$/, '');
const isPicture = ({ name }: File): boolean => /\.(png|webp|jpe?g)$/i.test(name);

/**
 * Captures (.json with what they name), pictures with the dump of the same name beside them, or one picture with one dump.
 *
 * @returns what cannot be opened, as sentences that say why
 */
export async function captureFiles(
  files: readonly File[],
): Promise<{ entries: Entry[]; problems: string[] }> {
  const entries: Entry[] = [];
  const problems: string[] = [];
  const byName = new Map(files.map((file) => [file.name, file]));
  const used = new Set<File>();
  for (const file of files.filter(({ name }) => /\.json$/i.test(name))) {
    const text = await file.text();
    const { cell, hierarchy, picture, platform } = readPlain(text);
    const image = byName.get(picture ?? '');
    const dump = hierarchy ? byName.get(hierarchy) : undefined;
    used.add(file);
    if (!cell || !platform || !picture)
      problems.push(`${file.name}: this is no capture; see docs/captures.md`);
    else if (!image) problems.push(`${file.name}: drop its picture ${picture} together with it`);
    else if (hierarchy && !dump) problems.push(`${file.name}: drop its dump ${hierarchy} together with it`);
    else {
      used.add(image);
      if (dump) used.add(dump);
      entries.push(entryOf(file.name, text, { platform, cell }, image, dump));
    }
  }
  const pictures = files.filter((file) => isPicture(file) && !used.has(file));
  const dumps = files.filter((file) => /\.xml$/i.test(file.name) && !used.has(file));
  for (const image of pictures) {
    const dump =
      dumps.find(({ name }) => stem(name) === stem(image.name)) ??
      (pictures.length === 1 && dumps.length === 1 ? dumps[0] : undefined);
    if (dump) used.add(dump);
    entries.push(await entryOfPicture(image, dump));
  }
  for (const dump of dumps)
    if (!used.has(dump))
      problems.push(`${dump.name}: a dump alone shows nothing; drop the picture of the same name with it`);
  return { entries, problems };
}

function readPlain(text: string): Partial<PlainCapture> {
  try {
    return (JSON.parse(text) ?? {}) as Partial<PlainCapture>;
  } catch {
    return {};
  }
}

const DENSITIES_DPI = [160, 240, 320, 420, 480, 560, 640];

/** A picture with no word about its device: a phone's width is some 400 dp. */
async function entryOfPicture(image: File, dump: File | undefined): Promise<Entry> {
  const bitmap = await createImageBitmap(image).catch(() => undefined);
  const shorter = Math.min(bitmap?.width ?? 1080, bitmap?.height ?? 1080);
  const guessedDpi = DENSITIES_DPI.reduce((a, b) =>
    Math.abs((shorter * 160) / b - 400) < Math.abs((shorter * 160) / a - 400) ? b : a,
  );
  const cell: Cell = {
    screen: stem(image.name),
    procedure: 'as-is',
    step: '',
    device: 'unnamed',
    locale: 'en',
    theme: 'light',
    textScale: 1,
    orientation: 'portrait',
  };
  const nothing = { bounds: { x: 0, y: 0, width: bitmap?.width ?? 0, height: bitmap?.height ?? 0 } };
  const capture = {
    fenlok: 'capture/1',
    platform: 'android' as const,
    cell,
    densityDpi: guessedDpi,
    picture: image.name,
    ...(dump ? { hierarchy: dump.name } : { tree: nothing }),
  };
  bitmap?.close();
  return { ...entryOf(image.name, JSON.stringify(capture), capture, image, dump), guessedDpi };
}

let dropped = 0;

function entryOf(
  name: string,
  capture: string,
  { cell, platform }: Pick<PlainCapture, 'cell' | 'platform'>,
  picture: File,
  dump: File | undefined,
): Entry {
  dropped += 1;
  return {
    id: `dropped ${dropped} ${name}`,
    title: formatCell(cell),
    platform,
    cell,
    load: async () => ({ name, capture, picture, hierarchyXml: (await dump?.text()) ?? '' }),
  };
}

export const facets = [
  'platform',
  'screen',
  'locale',
  'theme',
  'textScale',
  'procedure',
  'orientation',
] as const;
export type Facet = (typeof facets)[number];

export const facetOf = ({ cell, platform }: Entry, facet: Facet): string =>
  facet === 'platform' ? platform : String(cell[facet]);

/** The entry with that facet which is like the other one in most of the rest. */
export function nearest(
  entries: readonly Entry[],
  to: Entry,
  facet: Facet,
  value: string,
): Entry | undefined {
  const similarity = (entry: Entry) =>
    facets.reduce(
      (sum, one, i) => sum + (facetOf(entry, one) === facetOf(to, one) ? 2 ** (facets.length - i) : 0),
      0,
    );
  return entries
    .filter((entry) => facetOf(entry, facet) === value)
    .reduce<Entry | undefined>(
      (best, entry) => (!best || similarity(entry) > similarity(best) ? entry : best),
      undefined,
    );
}

/** Those that differ from it in the one facet alone. */
export const counterpartsOf = (entries: readonly Entry[], entry: Entry, facet: Facet): Entry[] =>
  entries.filter((other) =>
    facets.every((one) => (facetOf(other, one) === facetOf(entry, one)) === (one !== facet)),
  );
