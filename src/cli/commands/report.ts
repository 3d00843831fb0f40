import { mkdir, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { Option } from 'commander';
import { compareJudgements } from '../../core/checklist/compare/compare.ts';
import type { Judgement } from '../../core/model/judgement.ts';
import type { Patch, SourceFile } from '../../core/model/patch.ts';
import { isPatchable, patchFinding } from '../../core/patches/patch-finding.ts';
import { type TextReportName, textReports } from '../../core/reports/formats.ts';
import { failOnChoices, type ReportContext, type TextReport } from '../../core/reports/report-format.ts';
import { SourcePlaces } from '../../core/reports/source-places.ts';
import { type Dossier, openDossier } from '../../node/dossier.ts';
import { observeDossier } from '../../node/observe.ts';
import { fenlokVersion } from '../../node/own-files.ts';
import { type Project, readProject } from '../../node/project.ts';
import { readComparable, readJudgement } from '../../node/read-judgement.ts';
import { readSources } from '../../node/source-files.ts';
import { writeAtomically } from '../../node/write-atomically.ts';
import { writeReports } from '../../node/write-reports.ts';
import type { AddCommand } from '../command-table.ts';
import { type Io, UsageError } from '../io.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';

interface ReportOptions extends DossierOptions {
  out?: string;
  before?: string;
  source?: string;
  pictures?: string;
  failOn?: ReportContext['failOn'];
  stdout?: boolean;
}

const ASKED = [...Object.keys(textReports), 'html'];

/** `fenlok report`: the last judgement in other forms, without judging again. */
export const reportCommand: AddCommand = (command, { io }) => {
  withDossier(command)
    .argument('<formats...>', ASKED.join(', '))
    .option('--out <folder>', 'where to write them (default: report/ in the dossier)')
    .option('--stdout', 'print the one that is asked for, and write nothing')
    .option('--before <dossier>', 'of the candidate before: say what is new since (sarif, markdown, csv)')
    .option(
      '--source <folder>',
      "the app's sources: say in which file and line (sarif, markdown, csv), and what would fix it (sarif)",
    )
    .option('--pictures <url>', 'where readers reach the pictures of the report: a link to each (markdown)')
    .addOption(
      new Option('--fail-on <what>', 'what makes a CI red (junit)')
        .choices(failOnChoices)
        .default('blocking'),
    )
    .addHelpText(
      'after',
      `\nFormats:\n${Object.entries(textReports)
        .map(([name, { about, file }]) => `  ${name.padEnd(9)} ${about}; ${file}`)
        .join(
          '\n',
        )}\n  html      the page; index.html\n\nExample:\n  fenlok report sarif markdown --before dossier-rc1 --source app/src/main`,
    )
    .action(async (formats: string[], options: ReportOptions) => {
      const unknown = formats.find((format) => !ASKED.includes(format));
      if (unknown) throw new UsageError(`there is no report "${unknown}"; there are ${ASKED.join(', ')}`);
      if (options.stdout && (formats.length > 1 || formats[0] === 'html'))
        throw new UsageError('--stdout prints one report that is text: name one of them');
      const dossier = await openDossier(inCwd(io, options.dossier));
      const judgement = await readJudgement(dossier.folder);
      const project = await readProject(
        io.cwd,
        dossier.candidate.build.appId,
        options.intent && inCwd(io, options.intent),
      );
      const context = await contextOf(judgement, dossier, project, options, io);
      const folder = options.out ? inCwd(io, options.out) : join(dossier.folder, 'report');
      for (const format of new Set(formats)) {
        if (format === 'html') {
          io.out(`${(await writeReports(dossier, judgement, folder)).html}\n`);
          continue;
        }
        const { file, write }: TextReport = textReports[format as TextReportName];
        const text = write(judgement, context);
        if (options.stdout) io.out(text);
        else {
          await mkdir(folder, { recursive: true });
          await writeAtomically(folder, file, (staged) => writeFile(staged, text));
          io.out(`${join(folder, file)}\n`);
        }
      }
    });
};

async function contextOf(
  judgement: Judgement,
  dossier: Dossier,
  project: Project,
  { before, failOn, pictures, source }: ReportOptions,
  io: Io,
): Promise<ReportContext> {
  const files = source === undefined ? [] : await sourcesIn(inCwd(io, source), dossier);
  const places = new SourcePlaces(files);
  return {
    version: fenlokVersion(),
    checks: project.checks,
    pictures,
    failOn,
    ...(before !== undefined && {
      comparison: compareJudgements(
        await readComparable(inCwd(io, before)),
        await readComparable(dossier.folder),
      ),
    }),
    ...(source !== undefined && {
      places: new Map(
        judgement.findings.flatMap((finding) => {
          const place = places.placeOf(finding);
          return place ? [[finding.id, place] as const] : [];
        }),
      ),
      patches: await patchesFor(judgement, files, dossier, project, io),
    }),
  };
}

const SOURCE = /\.(xml|kt|java|swift|strings)$/;

/** By their paths from the folder of the sources, which is what a report's reader has. */
async function sourcesIn(folder: string, dossier: Dossier): Promise<SourceFile[]> {
  const files = await readSources(
    folder,
    folder,
    (path) => SOURCE.test(path) || isPatchable(path),
    dossier.folder,
  );
  if (files.length === 0) throw new UsageError(`--source: ${basename(folder)} holds no sources of an app`);
  return files;
}

/** Each on the sources as they are: a reader takes one or another. */
async function patchesFor(
  { findings }: Judgement,
  files: readonly SourceFile[],
  dossier: Dossier,
  { intent }: Project,
  io: Io,
): Promise<Map<string, Patch>> {
  const facts = await observeDossier(dossier, intent, { signal: io.signal });
  return new Map(
    findings.flatMap((finding) => {
      const patch = patchFinding(finding, files, facts, intent);
      return 'edits' in patch ? [[finding.id, patch] as const] : [];
    }),
  );
}
