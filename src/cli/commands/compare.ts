import { join } from 'node:path';
import { compareJudgements } from '../../core/checklist/compare/compare.ts';
import { formatBuild } from '../../core/model/candidate.ts';
import type { Judgement } from '../../core/model/judgement.ts';
import { comparisonView } from '../../core/reports/comparison-view.ts';
import { exists, openDossier } from '../../node/dossier.ts';
import { readComparable } from '../../node/read-judgement.ts';
import { findRelease, readKeptComparable, readKeptProofs } from '../../node/releases.ts';
import { type Side, writeComparison } from '../../node/write-comparison.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type Io, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { inCwd, inMemory } from './options.ts';

interface CompareOptions {
  with?: string;
  in: string;
  all?: boolean;
  json?: boolean;
}

/** `fenlok compare`: what is new, worse, fixed and not looked at again in a later candidate. */
export const compareCommand: AddCommand = (command, { io, finish }) => {
  inMemory(command)
    .argument(
      '<candidates...>',
      'two dossiers that were judged, the earlier first; with --with the later one alone',
    )
    .option('--with <name>', 'hold it against a candidate that was kept under this name (fenlok keep)')
    .option('--all', 'print every finding, also those that did not change')
    .option('--json', 'print the comparison as JSON, and write no page')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok compare dossier-rc1 dossier-rc2\n  fenlok compare --with 2.4.0-rc1 dossier\nExit codes: 0 not worse, 1 worse: something measured is new or worse, or an item fails that did not',
    )
    .action(async (paths: string[], options: CompareOptions) => {
      const [before, after] = await sidesOf(paths, options, io);
      if (!isSameApp(before.judgement, after.judgement))
        throw new UsageError(
          `these are different apps: ${formatBuild(before.judgement.candidate.build)} and ${formatBuild(after.judgement.candidate.build)}`,
        );
      const comparison = compareJudgements(before.judgement, after.judgement);
      io.out(
        options.json
          ? `${JSON.stringify(comparison, null, 2)}\n`
          : comparisonView(comparison, {
              style: styleFor(io),
              widthColumns: io.columns,
              all: options.all ?? false,
            }),
      );
      if (!options.json && after.dossier) {
        const folder = join(after.dossier.folder, 'comparison');
        io.err(`\nSide by side  ${await writeComparison(comparison, before, after, folder)}\n`);
      }
      finish(comparison.isWorse ? exitCode.blocked : exitCode.done);
    });
};

async function sidesOf(paths: readonly string[], options: CompareOptions, io: Io): Promise<[Side, Side]> {
  if (paths.length !== (options.with === undefined ? 2 : 1))
    throw new UsageError(
      options.with === undefined
        ? 'name two candidates, the earlier first; or one, and --with the name of one that was kept'
        : 'with --with name one candidate, the later one',
    );
  const sides = await Promise.all(paths.map((path) => sideIn(inCwd(io, path))));
  if (options.with === undefined) return sides as [Side, Side];
  const folder = inCwd(io, options.in);
  const kept = await findRelease(folder, options.with);
  const judgement = await readKeptComparable(folder, kept);
  return [{ judgement, kept: (ids) => readKeptProofs(folder, kept, ids) }, sides[0]!];
}

async function sideIn(path: string): Promise<Side> {
  const judgement = await readComparable(path);
  return (await exists(join(path, 'dossier.json')))
    ? { judgement, dossier: await openDossier(path) }
    : { judgement };
}

/** One app may go by several ids: `example.app`, `example.app.beta`, `example.app.debug`. */
function isSameApp({ candidate: a }: Judgement, { candidate: b }: Judgement): boolean {
  if (a.platform !== b.platform) return false;
  const [one, other] = [a.build.appId.split('.'), b.build.appId.split('.')];
  if (a.build.appId === b.build.appId) return true;
  const [short, long] = one.length <= other.length ? [one, other] : [other, one];
  const isSuffixed = long.length === short.length + 1 && short.every((part, i) => long[i] === part);
  const isSibling =
    one.length > 2 &&
    one.length === other.length &&
    a.name === b.name &&
    one.slice(0, -1).join() === other.slice(0, -1).join();
  return isSuffixed || isSibling;
}
