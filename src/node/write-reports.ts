/** Reports of a judgement: the page with its proofs, JSON, JUnit XML. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import type { Judgement } from '../core/model/judgement.ts';
import { htmlReport } from '../core/reports/html/page.ts';
import { junitReport } from '../core/reports/junit.ts';
import { roamSvg } from '../core/reports/roam-svg.ts';
import { cutProofs, type Pictures, picturesOf } from './cut-proofs.ts';
import { type Dossier, json, listTraces } from './dossier.ts';
import type { ReportFormat } from './extensions.ts';
import { fontFaces } from './font-faces.ts';
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
