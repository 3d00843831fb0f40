/** Reports of a judgement: the page with its proofs, JSON, JUnit XML. */
import { copyFile, mkdir, readFile, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join, relative, sep } from 'node:path';
import sharp from 'sharp';
import { parseCapture } from '../core/formats/capture.ts';
import type { Finding } from '../core/model/finding.ts';
import type { Box } from '../core/model/geometry.ts';
import type { Judgement } from '../core/model/judgement.ts';
import { isRightToLeft } from '../core/model/locale.ts';
import { htmlReport } from '../core/reports/html/page.ts';
import type { Proof, ProofPicture } from '../core/reports/html/proof.ts';
import { junitReport } from '../core/reports/junit.ts';
import { roamSvg } from '../core/reports/roam-svg.ts';
import { listCaptures } from './captures.ts';
import { type Dossier, type EvidenceEntry, exists, json, listTraces } from './dossier.ts';
import type { ReportFormat } from './extensions.ts';
import { readTextFile } from './read-yaml.ts';
import { listMaps } from './roam-map.ts';
import { writeAtomically } from './write-atomically.ts';

export interface WrittenReports {
  html: string;
  json: string;
  junit: string;
  /** Those of the team's own formats. */
  own: string[];
}

// Beyond this, findings keep the link to their whole picture and lose the embedded one.
const EMBEDDED_BYTES_CAP = 12 * 2 ** 20;

/** Writes the reports; each replaces the one before as a whole. */
export async function writeReports(
  dossier: Dossier,
  judgement: Judgement,
  folder = join(dossier.folder, 'report'),
  own: readonly ReportFormat[] = [],
): Promise<WrittenReports> {
  await mkdir(folder, { recursive: true });
  const proofs = await cutProofs(dossier, judgement.findings, folder);
  const page = htmlReport(judgement, {
    proofs,
    fontCss: await fontFaces(),
    evidenceHref: await evidenceHrefs(dossier, folder),
    maps: (await listMaps(dossier.folder)).map((map) => roamSvg(map, false)),
  });
  const write = async (name: string, text: string) => {
    await writeAtomically(folder, name, (staged) => writeFile(staged, text));
    return join(folder, name);
  };
  return {
    html: await write('index.html', page),
    json: await write('judgement.json', json(judgement)),
    junit: await write('junit.xml', junitReport(judgement)),
    own: await Promise.all(own.map((format) => write(format.file, format.write(judgement)))),
  };
}

/** Pictures and traces of the dossier, as the page reaches them. */
async function evidenceHrefs(dossier: Dossier, folder: string): Promise<Map<string, string>> {
  const hrefs = new Map<string, string>();
  const add = (digest: string, file: string) =>
    hrefs.set(digest, relative(folder, file).split(sep).map(encodeURIComponent).join('/'));
  for (const entry of await listCaptures(dossier)) add(entry.digest, await pictureOf(entry));
  for (const { digest, file } of await listTraces(dossier)) add(digest, file);
  return hrefs;
}

/** Cuts the worst occurrence of each finding out of its capture again. */
async function cutProofs(
  dossier: Dossier,
  findings: readonly Finding[],
  folder: string,
): Promise<Map<string, Proof>> {
  const pictures = await picturesOf(dossier);
  const proofs = new Map<string, Proof>();
  const screens = new Map<string, Omit<ProofPicture, 'elementPx'>>();
  let embedded = 0;
  await mkdir(join(folder, 'pictures'), { recursive: true });
  for (const finding of findings) {
    const { boundsPx, cell, evidence } = finding.occurrences[0]!;
    const picture = pictures.get(evidence.slice(0, DIGEST_CHARS));
    if (!boundsPx || !picture || embedded > EMBEDDED_BYTES_CAP) continue;
    const pictureHref = `pictures/${evidence.slice(0, DIGEST_CHARS)}.png`;
    await copyFile(picture, join(folder, pictureHref));
    const screen = screens.get(picture) ?? (await cut(picture, undefined, 240));
    screens.set(picture, screen);
    const crop = await cut(
      picture,
      around(boundsPx, screen.showsPx, cell !== undefined && isRightToLeft(cell.locale)),
      CROP_WIDTH_PX,
    );
    proofs.set(finding.id, {
      screen: { ...screen, elementPx: boundsPx },
      crop: { ...crop, elementPx: boundsPx },
      pictureHref,
    });
    embedded += screen.dataUri.length + crop.dataUri.length;
  }
  return proofs;
}

const DIGEST_CHARS = 16;

/** Of captures, and of runs that a drill took a picture of. */
async function picturesOf(dossier: Dossier): Promise<Map<string, string>> {
  const pictures = new Map<string, string>();
  for (const entry of await listCaptures(dossier)) pictures.set(entry.digest, await pictureOf(entry));
  for (const entry of await listTraces(dossier)) {
    const file = PICTURED.exec(await readFile(entry.file, 'utf8'))?.[1];
    const path = file && join(dossier.folder, file);
    if (path && (await exists(path))) pictures.set(entry.digest, path);
  }
  return pictures;
}

// only names that `addPicture` gives, so that a trace from elsewhere leads nowhere else
const PICTURED = /"kind":"screen\.pictured"[^}]*"file":"(files\/[0-9a-f]{16}-[\w.-]+)"/;

const pictureOf = async ({ file }: EvidenceEntry): Promise<string> =>
  join(dirname(file), parseCapture(file, await readTextFile(file)).picture);

// Wider than this, a crop would be scaled down until its text cannot be read.
const CROP_WIDTH_PX = 620;

/** The element with its surroundings; of a wide one the side where its text begins. */
function around(element: Box, screen: Box, rtl: boolean): Box {
  const width = Math.min(screen.width, CROP_WIDTH_PX, Math.max(360, Math.round(element.width + 60)));
  const height = Math.min(screen.height, Math.max(200, Math.round(element.height + 60)));
  const clamp = (value: number, max: number) => Math.round(Math.min(Math.max(0, value), max));
  const fits = element.width <= width;
  const x = fits
    ? element.x + element.width / 2 - width / 2
    : rtl
      ? element.x + element.width + 30 - width
      : element.x - 30;
  return {
    x: clamp(x, screen.width - width),
    y: clamp(element.y + element.height / 2 - height / 2, screen.height - height),
    width,
    height,
  };
}

async function cut(
  picture: string,
  box: Box | undefined,
  maxWidthPx: number,
): Promise<Omit<ProofPicture, 'elementPx'>> {
  const { width, height } = await sharp(picture).metadata();
  const showsPx = box ?? { x: 0, y: 0, width, height };
  const image = sharp(picture).extract({
    left: showsPx.x,
    top: showsPx.y,
    width: showsPx.width,
    height: showsPx.height,
  });
  const bytes = await image
    .resize({ width: Math.min(showsPx.width, maxWidthPx) })
    .webp({ quality: 88 })
    .toBuffer();
  return { dataUri: `data:image/webp;base64,${bytes.toString('base64')}`, showsPx };
}

const FONTS = [
  {
    family: 'Atkinson Hyperlegible Next',
    file: '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    range: 'U+0000-00FF, U+2000-22FF, U+25A0-25FF',
  },
  {
    family: 'Atkinson Hyperlegible Next',
    file: '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2',
    range: 'U+0100-024F, U+1E00-1EFF',
  },
  {
    family: 'Atkinson Hyperlegible Mono',
    file: '@fontsource-variable/atkinson-hyperlegible-mono/files/atkinson-hyperlegible-mono-latin-wght-normal.woff2',
    range: 'U+0000-00FF, U+2000-22FF',
  },
  {
    family: 'Noto Kufi Arabic',
    file: '@fontsource-variable/noto-kufi-arabic/files/noto-kufi-arabic-arabic-wght-normal.woff2',
    range: 'U+0600-06FF, U+0750-077F, U+200C-200F',
  },
];

async function fontFaces(): Promise<string> {
  const require = createRequire(import.meta.url);
  const rules = FONTS.map(async ({ family, file, range }) => {
    const data = (await readFile(require.resolve(file))).toString('base64');
    return `@font-face{font-family:"${family}";font-weight:200 800;src:url(data:font/woff2;base64,${data}) format("woff2");unicode-range:${range}}`;
  });
  return (await Promise.all(rules)).join('');
}
