/** All reading and measuring of the page, away from its own thread. */
import { expose, transfer } from 'comlink';
import {
  type CaptureEvidence,
  contrastRatio,
  type Fact,
  factsOfCapture,
  findOnScreens,
  formatCell,
  formatRatio,
  isRightToLeft,
  type Pixels,
  parseCapture,
  parseHex,
  type Rgb,
  type Stop,
  suggestColours,
  toHex,
  treeOfCapture,
  type View,
  viewPicture,
  walkStops,
} from 'fenlok';
import type {
  BenchElement,
  BenchScreen,
  BenchStop,
  BenchWorker,
  CaptureParts,
  Weighed,
} from './bench-screen.ts';

interface Opened {
  screen: BenchScreen;
  facts: Fact[];
  pixels: Pixels;
  /** The view shown last. */
  viewed: { view: View; pixels: Pixels };
}

// A picture is 10 MB when decoded; two sides of a pair and their neighbours are enough.
const KEPT = 6;
const MAX_PICTURE_PX = 40_000_000;
const opened = new Map<string, Opened>();

async function open(id: string, parts: CaptureParts): Promise<BenchScreen> {
  const known = opened.get(id);
  if (known) return known.screen;
  const capture = parseCapture(parts.name, parts.capture);
  const pixels = await decode(parts.picture, capture.picture);
  const tree = await treeOfCapture(parts.name, capture, parts.hierarchyXml, pixels);
  const { cell, densityDpi, platform } = capture;
  const walk = walkStops(tree, pixels, { platform, rtl: isRightToLeft(cell.locale) });
  const evidence: CaptureEvidence = { digest: id, capture, buildBasis: 'asserted', tree, pixels };
  const facts = factsOfCapture(evidence);
  const screen: BenchScreen = {
    id,
    title: formatCell(cell),
    platform,
    cell,
    widthPx: pixels.widthPx,
    heightPx: pixels.heightPx,
    densityDpi,
    stops: walk.stops.map(plainStop),
    unreachable: walk.unreachable.map(plainStop),
    elements: elementsOf(facts),
    findings: findOnScreens(facts),
  };
  opened.set(id, { screen, facts, pixels, viewed: { view: 'plain', pixels } });
  for (const oldest of opened.keys()) if (opened.size > KEPT) opened.delete(oldest);
  return screen;
}

async function decode(picture: Blob, name: string): Promise<Pixels> {
  const bitmap = await createImageBitmap(picture).catch(() => {
    throw new Error(`${name}: not a picture that can be read; expected PNG, WebP or JPEG`);
  });
  const { height, width } = bitmap;
  if (width * height > MAX_PICTURE_PX)
    throw new Error(
      `${name}: ${width} × ${height} px, more than the ${MAX_PICTURE_PX / 1e6} million that are read`,
    );
  const context = new OffscreenCanvas(width, height).getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  return { widthPx: width, heightPx: height, data: context.getImageData(0, 0, width, height).data };
}

const plainStop = ({
  actionable,
  boundsPx,
  drawn,
  enabled,
  heading,
  key,
  name,
  nameFrom,
  spoken,
}: Stop): BenchStop => ({
  key,
  boundsPx,
  actionable,
  enabled,
  name,
  nameFrom,
  rest: name ? spoken.slice(1) : spoken,
  heading,
  drawn,
});

/** One entry an element, of all that was measured on it. */
function elementsOf(facts: readonly Fact[]): BenchElement[] {
  const elements = new Map<string, BenchElement & { key: string }>();
  for (const fact of facts) {
    if (fact.kind !== 'text-contrast' && fact.kind !== 'icon-contrast' && fact.kind !== 'stop') continue;
    const { boundsPx, key, shown } = fact.element;
    const at = `${key} ${boundsPx.x} ${boundsPx.y}`;
    const element = elements.get(at) ?? { key, ref: '', boundsPx, shown };
    elements.set(at, element);
    if (fact.kind === 'stop' || fact.unseen !== undefined) continue;
    const { background, foreground, interval, ratio } = fact;
    element.contrast = { ratio, interval, foreground, background };
    if (fact.kind === 'text-contrast') element.glyphDp = fact.glyphDp;
  }
  const counts = new Map<string, number>();
  return [...elements.values()]
    .sort((a, b) => a.boundsPx.y - b.boundsPx.y || a.boundsPx.x - b.boundsPx.x)
    .map(({ key, ...element }) => {
      const number = (counts.get(key) ?? 0) + 1;
      counts.set(key, number);
      return { ...element, ref: `${key}#${number}` };
    });
}

function openedOf(id: string): Opened {
  const found = opened.get(id);
  if (!found) throw new Error('the capture is no longer held; open it again');
  return found;
}

function viewOf(id: string, view: View): Pixels {
  const held = openedOf(id);
  if (view === 'plain') return held.pixels;
  if (held.viewed.view !== view) held.viewed = { view, pixels: viewPicture(held.pixels, view) };
  return held.viewed.pixels;
}

async function picture(id: string, view: View): Promise<ImageBitmap> {
  const { data, heightPx, widthPx } = viewOf(id, view);
  const image = new ImageData(data as Uint8ClampedArray<ArrayBuffer>, widthPx, heightPx);
  const bitmap = await createImageBitmap(image);
  return transfer(bitmap, [bitmap]);
}

function colourAt(id: string, view: View, x: number, y: number): string {
  const { data, widthPx } = viewOf(id, view);
  const at = (Math.floor(y) * widthPx + Math.floor(x)) * 4;
  return toHex([data[at]!, data[at + 1]!, data[at + 2]!]);
}

function weigh(text: string, background: string, required: number): Weighed {
  const [front, behind] = [parse(text), parse(background)];
  const ratio = contrastRatio(front, behind);
  const near = ratio < required ? suggestColours(front, behind, required) : {};
  const say = (found: { colour: string; ratio: number } | undefined) =>
    found && { colour: found.colour, said: formatRatio(found.ratio) };
  return { ratio, said: formatRatio(ratio), text: say(near.text), background: say(near.background) };
}

function parse(hex: string): Rgb {
  const colour = parseHex(hex);
  if (!colour) throw new Error(`"${hex}" is no colour; write it as #1c2630`);
  return colour;
}

const worker: {
  [K in keyof BenchWorker]: (
    ...args: Parameters<BenchWorker[K]>
  ) => Promise<Awaited<ReturnType<BenchWorker[K]>>>;
} = {
  open,
  picture,
  colourAt: async (...args) => colourAt(...args),
  pick: async (id, view, { other, required, side, x, y }) => {
    const colour = colourAt(id, view, x, y);
    return {
      colour,
      weighed: side === 'text' ? weigh(colour, other, required) : weigh(other, colour, required),
    };
  },
  weigh: async (...args) => weigh(...args),
  compare: async (id, counterpart) => {
    const facts = [...openedOf(id).facts, ...openedOf(counterpart).facts];
    const alone = new Set(
      [...openedOf(id).screen.findings, ...openedOf(counterpart).screen.findings].map((one) => one.id),
    );
    return findOnScreens(facts).filter((finding) => !alone.has(finding.id));
  },
};

expose(worker);
