import { Option } from 'commander';
import { type SignOff, signOffSchema } from '../../core/model/ruling.ts';
import { nearest } from '../../core/platform/text/nearest.ts';
import { openDossier } from '../../node/dossier.ts';
import { readProject } from '../../node/project.ts';
import { writeSignOff } from '../../node/write-rulings.ts';
import type { AddCommand } from '../command-table.ts';
import { UsageError } from '../io.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';
import { whoSays } from './rule/ruling-of.ts';

interface SignOptions extends DossierOptions {
  as: SignOff['outcome'];
  why: string;
  by?: string;
  json?: boolean;
}

/** `fenlok sign`: a person's outcome for an item, for this build only. */
export const signCommand: AddCommand = (command, { io }) => {
  withDossier(command)
    .argument('<item>', 'its id, such as a11y.reader-walk')
    .addOption(
      new Option('--as <outcome>', 'the outcome')
        .choices(['passed', 'failed', 'inapplicable'])
        .makeOptionMandatory(),
    )
    .requiredOption('--why <text>', 'what you did and saw')
    .option('--by <name>', 'who signs (default: FENLOK_NAME)')
    .option('--json', 'print the sign-off as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok sign a11y.reader-walk --as passed --why "Booked and paid a crossing, eyes shut" --by Ada',
    )
    .action(async (item: string, options: SignOptions) => {
      const dossier = await openDossier(inCwd(io, options.dossier));
      const { build } = dossier.candidate;
      const project = await readProject(io.cwd, build.appId, options.intent && inCwd(io, options.intent));
      const ids = project.checklist.items.map(({ id }) => id);
      if (!ids.includes(item)) {
        const meant = nearest(item, ids);
        throw new UsageError(`the checklist has no item ${item}${meant ? `; did you mean ${meant}?` : ''}`);
      }
      const signOff = signOffSchema.parse({
        item,
        outcome: options.as,
        why: options.why,
        by: whoSays(io, options.by),
        at: io.now().toISOString().slice(0, 10),
        build,
      });
      await writeSignOff(project.rulingsFile, signOff);
      io.out(
        options.json
          ? `${JSON.stringify(signOff, null, 2)}\n`
          : `${item} is signed ${options.as} for build ${build.build} in ${project.rulingsFile}; run "fenlok judge" to see what follows\n`,
      );
    });
};
