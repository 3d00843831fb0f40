/** Reports of a judgement: the page with its proofs, JSON, JUnit XML. */
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { join, relative, sep } from 'node:path';
import type { Judgement } from '../core/model/judgement.ts';
import { htmlReport } from '../core/reports/html/page.ts';
import { junitReport } from '../core/reports/junit.ts';
import { roamSvg } from '../core/reports/roam-svg.ts';
import { cutProofs, type Pictures, picturesOf } from './cut-proofs.ts';
import { type Dossier, json, listTraces } from './dossier.ts';
import type { ReportFormat } from './extensions.ts';
import { listMaps } from './roam-map.ts';
import { writeAtomically } from './write-atomically.ts';

export interface WrittenReports {
  html: string;
  json: string;
  junit: string;
  /** Those of the team's own formats. */
  own: string[];
}

/** Writes the reports; each replaces the one before as a whole. */
export async function writeReports(
  dossier: Dossier,
  judgement: Judgement,
  folder = join(dossier.folder, 'report'),
  own: readonly ReportFormat[] = [],
): Promise<WrittenReports> {
  await mkdir(folder, { recursive: true });
  const pictures = await picturesOf(dossier);
  const proofs = await cutProofs(dossier, pictures, judgement.findings, folder);
  const page = htmlReport(judgement, {
    proofs,
    fontCss: await fontFaces(),
    evidenceHref: await evidenceHrefs(dossier, pictures, folder),
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
async function evidenceHrefs(
  dossier: Dossier,
  pictures: Pictures,
  folder: string,
): Promise<Map<string, string>> {
  const files = new Map(pictures);
  // the run itself, also where a picture of it was taken
  for (const { digest, file } of await listTraces(dossier)) files.set(digest, file);
  const href = (file: string) => relative(folder, file).split(sep).map(encodeURIComponent).join('/');
  return new Map([...files].map(([digest, file]) => [digest, href(file)]));
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
