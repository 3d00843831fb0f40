/** Lookouts of this computer: each tells where it is in a file, so that nobody has to copy its token. */
import { readdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { isRunning } from '../../node/is-running.ts';
import { writeAtomically } from '../../node/write-atomically.ts';

const knownSchema = z.strictObject({
  address: z.string(),
  token: z.string(),
  pid: z.int(),
  name: z.string(),
  /** Of a stand-in: where it is told what the tools of a real device do. */
  tools: z.string().optional(),
});
type KnownLookout = z.infer<typeof knownSchema>;

const folderOf = (stateFolder: string): string => join(stateFolder, 'lookouts');
const nameOf = (address: string): string => `${address.replace(/[^\w.-]/g, '_')}.json`;

export const makeKnown = (stateFolder: string, known: KnownLookout): Promise<void> =>
  writeAtomically(folderOf(stateFolder), nameOf(known.address), (staged) =>
    writeFile(staged, JSON.stringify(known), { mode: 0o600 }),
  );

export const forgetKnown = (stateFolder: string, address: string): Promise<void> =>
  rm(join(folderOf(stateFolder), nameOf(address)), { force: true });

/** Those whose process still runs. */
export async function listLookouts(stateFolder: string): Promise<KnownLookout[]> {
  const folder = folderOf(stateFolder);
  const names = await readdir(folder).catch(() => []);
  const read = await Promise.all(
    names.map(async (name) => {
      try {
        return knownSchema.parse(JSON.parse(await readFile(join(folder, name), 'utf8')));
      } catch {
        return undefined;
      }
    }),
  );
  return read.flatMap((known) => (known && isRunning(known.pid) ? [known] : []));
}
