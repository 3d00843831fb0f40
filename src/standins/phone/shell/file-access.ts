/** What commands about files share. */
import type { FileTrouble } from '../os/phone-files.ts';
import type { Call } from './shell-command.ts';

export const BLOCK_BYTES = 4096;

/** Complains where something is in the way. @returns whether nothing was */
export const told = (call: Call, tool: string, path: string, trouble: FileTrouble | undefined): boolean => {
  if (trouble) call.err(`${tool}: ${path}: ${trouble}\n`);
  return trouble === undefined;
};

/** All that lies in a folder, itself first, each before what is in it. */
export function* within(call: Call, path: string, depth = 0): Generator<{ path: string; depth: number }> {
  yield { path, depth };
  for (const name of call.os.files.mayRead(path) ? (call.os.files.list(path) ?? []) : [])
    yield* within(call, `${path === '/' ? '' : path}/${name}`, depth + 1);
}
