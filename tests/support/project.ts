/** A folder as a team has it: the demo's intent file, and the files that it names. */
import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { demoFolder } from './paths.ts';

export function copyIntent(folder: string, change: (text: string) => string = (text) => text): void {
  mkdirSync(folder, { recursive: true });
  cpSync(join(demoFolder, 'networks'), join(folder, 'networks'), { recursive: true });
  writeFileSync(join(folder, 'fenlok.yaml'), change(readFileSync(join(demoFolder, 'fenlok.yaml'), 'utf8')));
}
