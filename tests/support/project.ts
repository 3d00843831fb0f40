/** A folder as a team has it: the demo's intent file, and the files that it names. */
import { createHash } from 'node:crypto';
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoFolder } from './paths.ts';

export function copyIntent(folder: string, change: (text: string) => string = (text) => text): void {
  mkdirSync(folder, { recursive: true });
  cpSync(join(demoFolder, 'networks'), join(folder, 'networks'), { recursive: true });
  writeFileSync(join(folder, 'fenlok.yaml'), change(readFileSync(join(demoFolder, 'fenlok.yaml'), 'utf8')));
}

/** Changes the build that a dossier is of, as if another had begun it. */
export function pretendBuild(dossier: string, change: object): void {
  const file = join(dossier, 'dossier.json');
  const { build, digest: _, ...rest } = JSON.parse(readFileSync(file, 'utf8'));
  writeFileSync(file, JSON.stringify({ ...rest, build: { ...build, ...change } }));
}

/** Changes a file of kept facts, its head included, so that nothing shows it. */
export function changeFacts(file: string, changeLines: (lines: string) => string, head: object = {}): void {
  const [first = '', ...lines] = readFileSync(file, 'utf8').split('\n');
  const changed = changeLines(lines.join('\n'));
  const { count, key, ...rest } = { ...JSON.parse(first), ...head };
  const digest = createHash('sha256').update(`${key}\n${count}\n${changed}`).digest('hex');
  writeFileSync(file, `${JSON.stringify({ ...rest, key, count, digest })}\n${changed}`);
}
