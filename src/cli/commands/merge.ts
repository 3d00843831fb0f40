import { mergeDossier } from '../../node/merge-dossiers.ts';
import type { AddCommand } from '../command-table.ts';
import { inCwd } from './options.ts';

/** `fenlok merge`: the dossiers of machines that shared the work become one. */
export const mergeCommand: AddCommand = (command, { io }) => {
  command
    .argument('<dossiers...>', 'dossiers of the same build')
    .option('--dossier <folder>', 'the one that they are brought into; begun where there is none', 'dossier')
    .option('--json', 'print what was brought in as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok drill --part 1/2 --dossier one          (on one machine)\n  fenlok drill --part 2/2 --dossier two          (on another)\n  fenlok merge one two\n  fenlok judge\nWhat they hold is taken in once. Of two files of one name the newer one stays.',
    )
    .action(async (folders: string[], options: { dossier: string; json?: boolean }) => {
      for (const folder of folders) {
        io.signal.throwIfAborted();
        const { again, differing, taken } = await mergeDossier(inCwd(io, options.dossier), inCwd(io, folder));
        if (options.json) io.out(`${JSON.stringify({ from: folder, taken, again, differing })}\n`);
        else io.out(`${folder}: ${taken.length} taken in, ${again.length} already there\n`);
        for (const { kept, name } of options.json ? [] : differing)
          io.out(
            `  ${name} is another one there; the newer stays, ${kept === 'ours' ? 'which is ours' : 'which is theirs'}\n`,
          );
      }
    });
};
