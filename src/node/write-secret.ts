import { writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { writeAtomically } from './write-atomically.ts';

/** A file with keys, which only its owner may read, also where another stood there that everybody could. */
export const writeSecret = (path: string, text: string | Uint8Array): Promise<void> =>
  writeAtomically(dirname(path), basename(path), (staged) => writeFile(staged, text, { mode: 0o600 }));
