/** Takes evidence in as it is dropped into a folder: captures with their pictures, traces. */
import { readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { formatProblem, UnreadableError } from '../../../core/model/problem.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { addCapture } from '../../../node/captures.ts';
import { addTrace, openDossier } from '../../../node/dossier.ts';
import { type Io, UsageError } from '../../io.ts';

const EVERY_MS = 250;
const MOST_FILES = 20_000;

/**
 * Looks again and again, since not every file system reports changes. A file is taken once it has stayed the same from one look to
 * the next; one that cannot be read yet, because its picture is missing, is tried again when anything changes.
 */
export async function watchFolder(folder: string, dossierFolder: string, io: Io): Promise<void> {
  const dossier = await openDossier(dossierFolder);
  if (!(await stat(folder).catch(() => undefined))?.isDirectory())
    throw new UsageError(`--watch ${folder}: no such folder`);
  io.err(`Watching ${folder}: captures (.json with what they name) and traces (.jsonl). Ctrl-C ends it.\n`);
  const handled = new Map<string, string>();
  let before = new Map<string, string>();
  let taken = 0;
  while (!io.signal.aborted) {
    const now = await listFiles(folder);
    const hasSettled = (path: string) => before.get(path) === now.get(path);
    const all = [...now].map(([path, state]) => `${path} ${state}`).join('\n');
    for (const [path, state] of now) {
      if (!/\.jsonl?$/.test(path) || !hasSettled(path)) continue;
      // what failed is worth another look only once something else is there
      if (handled.get(path) === state || handled.get(path) === all) continue;
      try {
        const one = path.endsWith('.jsonl') ? await addTrace(dossier, path) : await addCapture(dossier, path);
        handled.set(path, state);
        if (one.again) continue;
        taken += 1;
        io.out(`taken in  ${one.kind} ${one.name}  ${one.digest.slice(0, 16)}\n`);
      } catch (error) {
        if (!(error instanceof UnreadableError)) throw error;
        handled.set(path, all);
        io.err(`fenlok: ${printableText(formatProblem(error.problem))}\n`);
      }
    }
    before = now;
    await pause(EVERY_MS, undefined, { signal: io.signal }).catch(() => {});
  }
  io.err(`\n${taken} taken in\n`);
}

/** Size and time of each file below the folder. */
async function listFiles(folder: string): Promise<Map<string, string>> {
  const files = new Map<string, string>();
  for (const name of (await readdir(folder, { recursive: true })).slice(0, MOST_FILES)) {
    const path = join(folder, name);
    const info = await stat(path).catch(() => undefined);
    if (info?.isFile()) files.set(path, `${info.size} ${info.mtimeMs}`);
  }
  return files;
}
