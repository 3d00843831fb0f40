import { resolve } from 'node:path';
import { type Command, Option } from 'commander';
import type { Part } from '../../core/model/part.ts';
import { type Io, UsageError } from '../io.ts';

export interface DossierOptions {
  dossier: string;
  intent?: string;
}

/** Options of every command that works on a dossier. */
export const withDossier = (command: Command): Command =>
  command
    .option('--dossier <folder>', 'the folder of this candidate', 'dossier')
    .option('--intent <file>', 'the intent file (default: fenlok.yaml in this folder, if there is one)');

/** Option of every command that works on what was kept. */
export const inMemory = (command: Command): Command =>
  command.option('--in <folder>', 'where candidates are kept', 'releases');

/** An option that was called otherwise before: it ends with one line that gives the name of now. */
export const renamedOption = (command: Command, former: string, now: string): Command =>
  command
    .addOption(new Option(`${former} [words...]`).hideHelp())
    .on(`option:${former.replace(/^--/, '')}`, () => {
      throw new UsageError(`${former} is now called ${now}`);
    });

export const inCwd = (io: Io, path: string): string => resolve(io.cwd, path);

/** `2/4`: the second of four parts. */
export function partIn(text: string): Part {
  const [, index, of] = (/^(\d{1,4})\/(\d{1,4})$/.exec(text) ?? []).map(Number);
  if (!index || !of || index > of)
    throw new UsageError(`--part ${text}: say 2/4 for the second of four parts`);
  return { index, of };
}

/** Of options that take a number: refused with a clear word where it is none. */
export const wholeNumber = (text: string): number => {
  const number = Number(text);
  if (!Number.isInteger(number) || number < 0) throw new UsageError(`"${text}" is not a whole number`);
  return number;
};
