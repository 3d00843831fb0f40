import { join } from 'node:path';
import { type ComparableJudgement, compareJudgements } from '../../core/checklist/compare/compare.ts';
import { formatBuild } from '../../core/model/candidate.ts';
import type { Comparison } from '../../core/model/comparison.ts';
import { comparisonView } from '../../core/reports/comparison-view.ts';
import { exists, openDossier } from '../../node/dossier.ts';
import { readComparable } from '../../node/read-judgement.ts';
import { writeComparison } from '../../node/write-comparison.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { inCwd } from './options.ts';

interface CompareOptions {
  all?: boolean;
  json?: boolean;
}

/** `fenlok compare`: what is new, worse, fixed and not looked at again in a later candidate. */
export const compareCommand: AddCommand = (command, { io, finish }) => {
  command
    .argument('<before>', 'the dossier of the candidate before, judged; or its judgement.json')
    .argument('<after>', 'the dossier of the later candidate')
    .option('--all', 'print every finding, also those that did not change')
    .option('--json', 'print the comparison as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok compare dossier-rc1 dossier-rc2\nExit codes: 0 not worse, 1 worse: something measured is new or worse, or an item fails that did not',
    )
    .action(async (from: string, to: string, options: CompareOptions) => {
      const before = await readComparable(inCwd(io, from));
      const after = await readComparable(inCwd(io, to));
      if (!isSameApp(before, after))
        throw new UsageError(
          `${from} and ${to} are of different apps: ${formatBuild(before.candidate.build)} and ${formatBuild(after.candidate.build)}`,
        );
      const comparison = compareJudgements(before, after);
      io.out(
        options.json
          ? `${JSON.stringify(comparison, null, 2)}\n`
          : comparisonView(comparison, {
              style: styleFor(io),
              widthColumns: io.columns,
              all: options.all ?? false,
            }),
      );
      if (!options.json) {
        const page = await writePage(
          comparison,
          { path: inCwd(io, from), judgement: before },
          { path: inCwd(io, to), judgement: after },
        );
        if (page) io.err(`\nSide by side  ${page}\n`);
      }
      finish(comparison.isWorse ? exitCode.blocked : exitCode.done);
    });
};

/** Only where both are dossiers, which hold the pictures. */
async function writePage(comparison: Comparison, before: Side, after: Side): Promise<string | undefined> {
  for (const { path } of [before, after]) if (!(await exists(join(path, 'dossier.json')))) return undefined;
  const open = async ({ judgement, path }: Side) => ({ dossier: await openDossier(path), judgement });
  return writeComparison(comparison, await open(before), await open(after), join(after.path, 'comparison'));
}

interface Side {
  path: string;
  judgement: ComparableJudgement;
}

/** One app may go by several ids: `example.app`, `example.app.beta`, `example.app.debug`. */
function isSameApp({ candidate: a }: ComparableJudgement, { candidate: b }: ComparableJudgement): boolean {
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
