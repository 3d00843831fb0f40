import { openDossier } from '../../node/dossier.ts';
import { rulingsFileBeside } from '../../node/project.ts';
import { keepRelease } from '../../node/releases.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { type DossierOptions, inCwd, inMemory, withDossier } from './options.ts';

interface KeepOptions extends DossierOptions {
  name?: string;
  in: string;
  pictures?: boolean;
  json?: boolean;
}

/** `fenlok keep`: what a candidate came to, for a later comparison and for the trend. */
export const keepCommand: AddCommand = (command, { io }) => {
  inMemory(withDossier(command))
    .option('--name <name>', 'what it is called: a tag, a version (default: its version and build)')
    .option('--pictures', 'keep the whole screenshots too')
    .option('--json', 'print what was kept as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok keep --name 2.4.0-rc1\n  fenlok compare --with 2.4.0-rc1 dossier\nKept are the judgement, what was measured, the rulings and small pictures of the findings.',
    )
    .action(async (options: KeepOptions) => {
      const dossier = await openDossier(inCwd(io, options.dossier));
      const { build } = dossier.candidate;
      const name = nameOf(options.name ?? `${build.version}-${build.build}`);
      const { addedBytes, again, kept } = await keepRelease(dossier, {
        folder: inCwd(io, options.in),
        name,
        rulingsFile: await rulingsFileOf(options, io),
        pictures: options.pictures ?? false,
      });
      io.out(
        options.json
          ? `${JSON.stringify({ ...kept, addedBytes }, null, 2)}\n`
          : again
            ? `${name} is kept already, and nothing about it has changed\n`
            : `${name} is kept in ${options.in}: ${Object.keys(kept.files).length} files, ${(addedBytes / 1024).toFixed(0)} KB that were not there before\n`,
      );
    });
};

const rulingsFileOf = ({ intent }: KeepOptions, io: Io): Promise<string> =>
  rulingsFileBeside(io.cwd, intent && inCwd(io, intent));

function nameOf(text: string): string {
  if (!/^[\w][\w.+-]{0,79}$/.test(text))
    throw new UsageError(`--name ${text}: say letters, digits, dots and dashes, at most 80`);
  return text;
}
