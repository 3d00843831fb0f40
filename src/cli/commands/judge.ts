import { Option } from 'commander';
import { joinJudgements } from '../../core/checklist/joint/join-judgements.ts';
import type { Judgement } from '../../core/model/judgement.ts';
import type { Part } from '../../core/model/part.ts';
import { jointView } from '../../core/reports/joint-view.ts';
import { tableReport, textReport } from '../../core/reports/text.ts';
import { type Dossier, openDossier } from '../../node/dossier.ts';
import { judgeDossier } from '../../node/judge-dossier.ts';
import { observeDossier } from '../../node/observe.ts';
import { readProject } from '../../node/project.ts';
import { writeJoint } from '../../node/write-joint.ts';
import { type WrittenReports, writeReports } from '../../node/write-reports.ts';
import type { AddCommand } from '../command-table.ts';
import { type ExitCode, exitCode } from '../exit-code.ts';
import { type Io, progress, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { type DossierOptions, inCwd, partIn, renamedOption, withDossier } from './options.ts';

interface JudgeOptions extends DossierOptions {
  strict?: boolean;
  json?: boolean;
  all?: boolean;
  filter?: string[];
  report?: string;
  part?: Part;
}

/** `fenlok judge`: measures what is new, judges everything, writes the reports. */
export const judgeCommand: AddCommand = (command, { io, finish }) => {
  renamedOption(withDossier(command), '--rows', '--filter')
    .argument('[dossiers...]', 'two of them, Android and iOS: one verdict for a release of both')
    .addOption(
      new Option(
        '--part <i/n>',
        'only measure this part of the evidence, where several machines share it: 2/4',
      )
        .argParser(partIn)
        .conflicts(['filter', 'all', 'report']),
    )
    .option('--strict', 'estimated findings fail their items too')
    .option('--all', 'print every item and finding')
    .addOption(
      new Option(
        '--filter <words...>',
        'print only rows of the tables with these words, and what fails in them: a placement, a network, a format, a route',
      ).conflicts(['json', 'all']),
    )
    .option(
      '--report <folder>',
      'where to write the reports (default: report/ in the dossier; of two, release-report/ here)',
    )
    .option('--json', 'print the judgement as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok judge --dossier dossier --intent fenlok.yaml\n  fenlok judge --filter northmast interstitial\n  fenlok judge dossier-android dossier-ios\nExit codes: 0 clear, 1 blocked, 4 open',
    )
    .action(async (dossiers: string[], options: JudgeOptions) => {
      if (dossiers.length > 0) {
        finish(await judgeBoth(io, dossiers, options));
        return;
      }
      if (options.part) {
        await measurePart(io, options, options.part);
        return;
      }
      const { judgement, reports } = await judgeAndReport(io, options);
      if (options.json) io.out(`${JSON.stringify(judgement, null, 2)}\n`);
      else printJudgement(io, judgement, options);
      printReports(io, reports);
      finish(verdictCode(judgement));
    });
};

/** Each by itself, with its own reports; then both beside each other. */
async function judgeBoth(io: Io, dossiers: readonly string[], options: JudgeOptions): Promise<ExitCode> {
  const [first, second] = dossiers;
  if (first === undefined || second === undefined || dossiers.length > 2)
    throw new UsageError(
      `judge ${dossiers.join(' ')}: give two dossiers, one of each platform, or one with --dossier`,
    );
  const [own, other] = [
    await judgeAndReport(io, { ...options, report: undefined, dossier: first }),
    await judgeAndReport(io, { ...options, report: undefined, dossier: second }),
  ];
  const platforms = [own, other].map(({ judgement }) => judgement.candidate.platform);
  if (platforms[0] === platforms[1])
    throw new UsageError(
      `${first} and ${second} are both of ${platforms[0]}. Two candidates of one platform are held against each other by  fenlok compare`,
    );
  const joint = joinJudgements([own.judgement, other.judgement]);
  const pageOf = (platform: string) => [own, other][platforms.indexOf(platform as 'ios')]!.reports.html;
  const folder = inCwd(io, options.report ?? 'release-report');
  const page = await writeJoint(joint, folder, { android: pageOf('android'), ios: pageOf('ios') });
  const set = { style: styleFor(io), widthColumns: io.columns, all: options.all ?? false };
  io.out(options.json ? `${JSON.stringify(joint, null, 2)}\n` : jointView(joint, set));
  io.err(`\nBoth beside each other  ${page}\n`);
  return verdictCode(joint);
}

/** A verdict is always on the whole: a part is measured, and kept for a dossier that it is merged into. */
async function measurePart(io: Io, options: JudgeOptions, part: Part): Promise<void> {
  const dossier = await openForJudging(io, options);
  const project = await readProject(
    io.cwd,
    dossier.candidate.build.appId,
    options.intent && inCwd(io, options.intent),
  );
  let measured = 0;
  const tell = progress(io, `Measuring part ${part.index} of ${part.of}`);
  await observeDossier(dossier, project.intent, {
    part,
    signal: io.signal,
    onProgress: (done, total) => {
      measured = total;
      tell(done, total);
    },
  });
  io.out(
    options.json
      ? `${JSON.stringify({ part, measured })}\n`
      : `Part ${part.index} of ${part.of}: ${measured} pieces of evidence are measured. Bring the parts together with  fenlok merge,  then  fenlok judge\n`,
  );
}

const openForJudging = async (io: Io, options: DossierOptions): Promise<Dossier> => ({
  ...(await openDossier(inCwd(io, options.dossier))),
  onDamage: (file) => io.err(`${file} was damaged, so what it held is measured again\n`),
});

function printJudgement(io: Io, judgement: Judgement, { all = false, filter: rows }: JudgeOptions): void {
  const options = { style: styleFor(io), widthColumns: io.columns, all };
  if (!rows) io.out(textReport(judgement, options));
  else
    io.out(
      tableReport(judgement, { ...options, rows }) ||
        `No row of links, push messages, purchases or ads holds ${rows.map((word) => `“${word}”`).join(' and ')}.\n`,
    );
}

export async function judgeAndReport(
  io: Io,
  options: JudgeOptions,
): Promise<{ judgement: Judgement; reports: WrittenReports }> {
  const dossier = await openForJudging(io, options);
  const project = await readProject(
    io.cwd,
    dossier.candidate.build.appId,
    options.intent && inCwd(io, options.intent),
  );
  if (!project.intentFile)
    io.err(
      'No intent file (fenlok.yaml) here, so nothing is known of what the app intends: screens, languages, links.\n',
    );
  const judgement = await judgeDossier(dossier, project, {
    strict: options.strict ?? false,
    now: io.now(),
    onProgress: progress(io, 'Measuring'),
    signal: io.signal,
  });
  const own = project.extensions.flatMap((extension) => extension.reports);
  const reports = await writeReports(dossier, judgement, options.report && inCwd(io, options.report), own);
  return { judgement, reports };
}

export function printReports(io: Io, reports: WrittenReports): void {
  io.err(`\nReport page  ${reports.html}\nJSON         ${reports.json}\nJUnit XML    ${reports.junit}\n`);
  for (const file of reports.own) io.err(`Own report   ${file}\n`);
}

const verdictCode = ({ verdict }: Pick<Judgement, 'verdict'>): ExitCode =>
  ({ clear: exitCode.done, blocked: exitCode.blocked, open: exitCode.open })[verdict];
