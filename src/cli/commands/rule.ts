import { Option } from 'commander';
import { applyRulings, outcomeOf } from '../../core/checklist/apply-rulings.ts';
import type { Finding } from '../../core/model/finding.ts';
import type { Judgement } from '../../core/model/judgement.ts';
import type { Ruling } from '../../core/model/ruling.ts';
import { printableText } from '../../core/reports/escape.ts';
import { openDossier } from '../../node/dossier.ts';
import { readProject, rulingsFileBeside } from '../../node/project.ts';
import { readJudgement } from '../../node/read-judgement.ts';
import { settleRulings, writeRulings } from '../../node/write-rulings.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { findFindings } from './find-findings.ts';
import { type DossierOptions, inCwd, wholeNumber, withDossier } from './options.ts';
import { rulingOf } from './rule/ruling-of.ts';

interface RuleOptions extends DossierOptions {
  as?: Ruling['ruling'];
  why?: string;
  by?: string;
  until?: string;
  untilBuild?: string;
  only?: boolean;
  check?: string;
  screen?: string;
  element?: string;
  count?: number;
  settle?: boolean;
  json?: boolean;
}

/** `fenlok rule`: a person's decisions on findings, kept in rulings.yaml. */
export const ruleCommand: AddCommand = (command, { io }) => {
  withDossier(command)
    .argument(
      '[finding]',
      'its name, such as k3f9-02ab; without one, in a terminal, the findings that wait come one by one',
    )
    .addOption(new Option('--as <ruling>', 'the decision').choices(['false-alarm', 'accepted', 'real']))
    .option('--why <text>', 'the reason, for those who read it later')
    .option('--by <name>', 'who decides (default: FENLOK_NAME)')
    .option('--until <date>', 'accepted until this day, YYYY-MM-DD')
    .option('--until-build <number>', 'accepted until this build')
    .option('--only', 'this place alone, where the finding has several')
    .option('--check <id>', 'all findings of this check that are open')
    .option('--screen <id>', 'of them, those on this screen')
    .option(
      '--element <pattern>',
      'of them, those on these elements, texts or resources; * stands for anything',
    )
    .option('--count <number>', 'how many you mean to rule on, so that it is not more', wholeNumber)
    .option('--settle', 'bring both sides of a merge in rulings.yaml together: no decision is lost')
    .option('--json', 'print the rulings as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok rule\n  fenlok rule k3f9-02ab --as false-alarm --why "The label is bold, so 3 : 1 is enough" --by Ada\n  fenlok rule --check small-target --screen booking --as accepted --until-build 260 --why "Redrawn in 2.6" --count 4',
    )
    .action(async (name: string | undefined, options: RuleOptions) => {
      const intentFile = options.intent && inCwd(io, options.intent);
      if (options.settle) {
        await settle(io, await rulingsFileBeside(io.cwd, intentFile));
        return;
      }
      const isWalk = name === undefined && !isBulk(options);
      if (!isWalk && (options.as === undefined || options.why === undefined))
        throw new UsageError('say what you decide, with --as false-alarm, accepted or real, and --why TEXT');
      const dossier = await openDossier(inCwd(io, options.dossier));
      const project = await readProject(io.cwd, dossier.candidate.build.appId, intentFile);
      const judgement = decidedSince(await readJudgement(dossier.folder), project.rulings.rulings, io);
      if (isWalk) {
        const { walkFindings } = await import('./rule/walk-findings.ts');
        await walkFindings({ judgement, dossier, file: project.rulingsFile, by: options.by }, io);
        return;
      }
      if (options.as !== 'accepted' && (options.until || options.untilBuild))
        throw new UsageError(`--until and --until-build go with --as accepted, not with ${options.as}`);
      const found =
        name === undefined
          ? openFindings(judgement, options)
          : await namedFindings(dossier.folder, name, options);
      const rulings = found.map((finding) =>
        rulingOf(finding, { ...options, as: options.as!, why: options.why! }, io),
      );
      await writeRulings(project.rulingsFile, rulings);
      io.out(
        options.json ? `${JSON.stringify(rulings, null, 2)}\n` : said(rulings, name, project.rulingsFile),
      );
    });
};

/** What was decided after the dossier was judged counts, so that nothing is decided over it. */
function decidedSince(judgement: Judgement, rulings: readonly Ruling[], io: Io): Judgement {
  const undecided = judgement.findings.map(({ ruling: _, ...finding }) => finding);
  const today = io.now().toISOString().slice(0, 10);
  return {
    ...judgement,
    findings: applyRulings(undecided, rulings, judgement.candidate.build, today).findings,
  };
}

async function settle(io: Io, file: string): Promise<void> {
  const { gaveWay, kept } = await settleRulings(file);
  io.out(`${file} is settled: ${kept} decisions are kept; run "fenlok judge" to see what follows\n`);
  for (const { by, of, to } of gaveWay)
    io.out(
      `${printableText(
        `${of}: ${to} and ${by} decided otherwise. What ${to} said holds; the other stands as a comment.`,
      )}\n`,
    );
}

const isBulk = ({ check, element, screen }: RuleOptions): boolean =>
  check !== undefined || element !== undefined || screen !== undefined;

async function namedFindings(folder: string, name: string, options: RuleOptions): Promise<Finding[]> {
  if (isBulk(options))
    throw new UsageError('name a finding, or say --check, --screen and --element; not both');
  const found = await findFindings(folder, name);
  return options.only ? found.slice(0, 1) : found;
}

/** Those that wait for a decision. @throws UsageError where they are not as many as was said */
function openFindings({ findings, strict }: Judgement, options: RuleOptions): Finding[] {
  const { check, count, element, screen } = options;
  const pattern = element === undefined ? undefined : patternOf(element);
  const found = findings.filter(
    (finding) =>
      !finding.ruling &&
      outcomeOf(finding, strict) !== 'passed' &&
      (check === undefined || finding.check === check) &&
      (screen === undefined || finding.identity.screen === screen) &&
      (pattern === undefined || pattern.test(finding.identity.subject)),
  );
  if (found.length === 0) throw new UsageError('no open finding is meant by that');
  if (count !== found.length) {
    const names = found.slice(0, 8).map(({ id, words }) => `\n  ${id}  ${printableText(words.what)}`);
    const more = found.length > names.length ? `\n  … and ${found.length - names.length} more` : '';
    throw new UsageError(
      `that means ${found.length} ${found.length === 1 ? 'finding' : 'findings'}${count === undefined ? '' : `, not ${count}`}; to rule on all of them say --count ${found.length}:${names.join('')}${more}`,
    );
  }
  return found;
}

const patternOf = (text: string): RegExp =>
  new RegExp(
    `^${text
      .split('*')
      .map((part) => part.replace(/[.+?^${}()|[\]\\]/g, '\\$&'))
      .join('.*')}$`,
    'i',
  );

function said(rulings: readonly Ruling[], name: string | undefined, file: string): string {
  const [first] = rulings;
  const places = rulings.length > 1 && name ? ` in ${rulings.length} places (--only for one)` : '';
  const what = name ? `${first!.finding} is` : `${rulings.length} findings are`;
  return `${what} ruled ${first!.ruling}${places} in ${file}; run "fenlok judge" to see what follows\n`;
}
