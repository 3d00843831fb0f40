/** All sheets of a plan, painted and scored; what a test and the command for the tables share. */
import type { Browser } from 'playwright-core';
import { drawSheets } from './draw.ts';
import { type Finish, finish } from './finish.ts';
import { type Manner, manners } from './manners.ts';
import { browserPainter, phonePainter } from './painters.ts';
import { type Scored, scoreSheet } from './score.ts';

export interface TruthPlan {
  seeds: readonly number[];
  /** Slots of each family and seed. */
  count: number;
  /** Of the toolkits' manners, how many each sheet is written down in; they take turns. */
  mannersEach: number;
  /** Each sheet also as if it had been packed so. */
  finishes?: readonly Finish[];
}

export async function scoreSheets(browser: Browser, plan: TruthPlan): Promise<Scored[]> {
  const scored: Scored[] = [];
  const painters = { browser: await browserPainter(browser), phone: phonePainter };
  let turn = 0;
  for (const seed of plan.seeds)
    for (const [name, painter] of Object.entries(painters))
      for await (const sheet of drawSheets({ seed, count: plan.count }, painter)) {
        for (let n = 0; n < plan.mannersEach; n++) {
          const manner: Manner = manners[turn++ % manners.length]!;
          scored.push(...scoreSheet(sheet, manner, name));
        }
        for (const how of plan.finishes ?? [])
          scored.push(...scoreSheet(sheet, 'export', name, await finish(sheet.pixels, how), how));
      }
  return scored;
}
