/** Files of this package itself, wherever its code was built to. */
import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

let root: string | undefined;

/** The path of a file of this package, given from where its package.json lies. */
export function ownFile(path: string): string {
  root ??= findRoot(dirname(fileURLToPath(import.meta.url)));
  return join(root, path);
}

const findRoot = (folder: string): string =>
  existsSync(join(folder, 'package.json')) ? folder : findRoot(dirname(folder));

export const fenlokVersion = (): string =>
  (JSON.parse(readFileSync(ownFile('package.json'), 'utf8')) as { version: string }).version;
