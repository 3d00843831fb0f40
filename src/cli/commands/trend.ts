import { writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { trendOf } from '../../core/checklist/trend.ts';
import { trendView } from '../../core/reports/trend-view.ts';
import { listReleases, readKeptJudgement } from '../../node/releases.ts';
import { writeAtomically } from '../../node/write-atomically.ts';
import type { AddCommand } from '../command-table.ts';
import { progress, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { inCwd, inMemory } from './options.ts';

interface TrendOptions {
  in: string;
  svg?: string;
  platform?: string;
  json?: boolean;
}

/** `fenlok trend`: the candidates that were kept, one after the other. */
export const trendCommand: AddCommand = (command, { io }) => {
  inMemory(command)
    .option('--svg <file>', 'draw it: items by outcome and area over the candidates')
    .option('--platform <name>', 'android or ios, where both are kept')
    .option('--json', 'print it as JSON')
    .addHelpText('after', '\nExample:\n  fenlok trend --svg trend.svg')
    .action(async (options: TrendOptions) => {
      const folder = inCwd(io, options.in);
      const all = await listReleases(folder);
      const platforms = [...new Set(all.map(({ platform }) => platform))];
      if (all.length === 0) throw new UsageError(`no candidate is kept in ${options.in}: fenlok keep`);
      if (platforms.length > 1 && !options.platform)
        throw new UsageError(`${platforms.join(' and ')} are kept there: say which with --platform`);
      const kept = all.filter(({ platform }) => !options.platform || platform === options.platform);
      if (kept.length === 0) throw new UsageError(`--platform ${options.platform}: none of it is kept there`);
      const tell = progress(io, 'Reading');
      const candidates = [];
      for (const one of kept) {
        io.signal.throwIfAborted();
        candidates.push({ name: one.name, judgement: await readKeptJudgement(folder, one) });
        tell(candidates.length, kept.length);
      }
      const trend = trendOf(candidates);
      if (options.svg) {
        const file = inCwd(io, options.svg);
        const { drawTrend } = await import('../../node/draw-trend.ts');
        const svg = await drawTrend(trend);
        await writeAtomically(dirname(file), basename(file), (staged) => writeFile(staged, svg));
        io.err(`Drawn in ${file}\n`);
      }
      io.out(
        options.json
          ? `${JSON.stringify(trend, null, 2)}\n`
          : trendView(trend, { style: styleFor(io), widthColumns: io.columns, all: false }),
      );
    });
};
