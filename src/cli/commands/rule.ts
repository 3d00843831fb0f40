import { Option } from 'commander';
import type { Finding } from '../../core/model/finding.ts';
import { type Ruling, rulingSchema } from '../../core/model/ruling.ts';
import { formatPlaces } from '../../core/reports/outline.ts';
import { openDossier } from '../../node/dossier.ts';
import { readProject } from '../../node/project.ts';
import { writeRulings } from '../../node/write-rulings.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { findFindings } from './find-findings.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';

interface RuleOptions extends DossierOptions {
  as: Ruling['ruling'];
  why: string;
  by?: string;
  until?: string;
  untilBuild?: string;
  only?: boolean;
  json?: boolean;
}

/** `fenlok rule`: a person's decision on one finding, kept in rulings.yaml. */
export const ruleCommand: AddCommand = (command, { io }) => {
  withDossier(command)
    .argument('<finding>', 'its name, such as k3f9-02ab')
    .addOption(
      new Option('--as <ruling>', 'the decision')
        .choices(['false-alarm', 'accepted', 'real'])
        .makeOptionMandatory(),
    )
    .requiredOption('--why <text>', 'the reason, for those who read it later')
    .option('--by <name>', 'who decides (default: FENLOK_NAME)')
    .option('--until <date>', 'accepted until this day, YYYY-MM-DD')
    .option('--until-build <number>', 'accepted until this build')
    .option('--only', 'this place alone, where the finding has several')
    .option('--json', 'print the rulings as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok rule k3f9-02ab --as false-alarm --why "The label is bold, so 3 : 1 is enough" --by Ada',
    )
    .action(async (name: string, options: RuleOptions) => {
      const dossier = await openDossier(inCwd(io, options.dossier));
      const project = await readProject(
        io.cwd,
        dossier.candidate.build.appId,
        options.intent && inCwd(io, options.intent),
      );
      const found = await findFindings(dossier.folder, name);
      if (options.as !== 'accepted' && (options.until || options.untilBuild))
        throw new UsageError(`--until and --until-build go with --as accepted, not with ${options.as}`);
      const rulings = (options.only ? found.slice(0, 1) : found).map((finding) =>
        rulingOf(finding, options, io),
      );
      await writeRulings(project.rulingsFile, rulings);
      const places = rulings.length > 1 ? ` in ${rulings.length} places (--only for one)` : '';
      io.out(
        options.json
          ? `${JSON.stringify(rulings, null, 2)}\n`
          : `${found[0]!.id} is ruled ${options.as}${places} in ${project.rulingsFile}; run "fenlok judge" to see what follows\n`,
      );
    });
};

function rulingOf(finding: Finding, options: RuleOptions, io: Io): Ruling {
  const parsed = rulingSchema.safeParse({
    finding: finding.id,
    about: `${finding.check}: ${formatPlaces(finding)}`,
    digest: finding.digest,
    ruling: options.as,
    why: options.why,
    by: whoSays(io, options.by),
    at: io.now().toISOString().slice(0, 10),
    until: options.until,
    untilBuild: options.untilBuild,
  });
  if (!parsed.success)
    throw new UsageError(`--${String(parsed.error.issues[0]!.path[0])}: ${parsed.error.issues[0]!.message}`);
  return parsed.data;
}

export function whoSays(io: Io, given: string | undefined): string {
  const name = given ?? io.env.FENLOK_NAME;
  if (!name) throw new UsageError('say who decides, with --by NAME or the environment variable FENLOK_NAME');
  return name;
}
