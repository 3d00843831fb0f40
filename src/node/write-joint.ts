/** The report of a release of both platforms: a page that leads to those of each, and JSON. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join, relative, sep } from 'node:path';
import type { JointJudgement } from '../core/model/joint.ts';
import { jointPage } from '../core/reports/html/joint-page.ts';
import { json } from './dossier.ts';
import { fontFaces } from './font-faces.ts';
import { writeAtomically } from './write-atomically.ts';

/** @param pages of each platform's own report; @returns the page's file */
export async function writeJoint(
  joint: JointJudgement,
  folder: string,
  pages: { android: string; ios: string },
): Promise<string> {
  await mkdir(folder, { recursive: true });
  const href = (file: string) => relative(folder, file).split(sep).map(encodeURIComponent).join('/');
  const page = jointPage(joint, {
    fontCss: await fontFaces(),
    links: { android: href(pages.android), ios: href(pages.ios) },
  });
  await writeAtomically(folder, 'joint.json', (staged) => writeFile(staged, json(joint)));
  await writeAtomically(folder, 'index.html', (staged) => writeFile(staged, page));
  return join(folder, 'index.html');
}
