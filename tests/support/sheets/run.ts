/** All sheets of a plan, painted and scored; what a test and the command for the tables share. */
import type { Browser } from 'playwright-core';
import { drawSheets } from './draw.ts';
import { type Finish, finish } from './finish.ts';
import { type Manner, manners } from './manners.ts';
import { browserPainter, phonePainter } from './painters.ts';
import type { Painter } from './scene.ts';
import { type Scored, scoreSheet } from './score.ts';

export interface TruthPlan {
  seeds: readonly number[];
  /** Slots of each family and seed. */
  count: number;
  /** Of the toolkits' manners, how many each sheet is written down in; they take turns. */
  mannersEach: number;
  /** Each sheet also as if it had been packed so; of the first seeds alone where a number is given. */
  finishes?: readonly Finish[];
  finishedSeeds?: number;
}

export async function scoreSheets(browser: Browser, plan: TruthPlan): Promise<Scored[]> {
  const painters = { browser: await browserPainter(browser), phone: phonePainter };
  // while one paints, the other's sheets are scored
  const ofEach = await Promise.all(
    Object.entries(painters).map(([name, painter]) => scoreOf(name, painter, plan)),
  );
  return ofEach.flat();
}

async function scoreOf(
  name: string,
  painter: Painter,
  { count, finishedSeeds = Number.POSITIVE_INFINITY, finishes = [], mannersEach, seeds }: TruthPlan,
): Promise<Scored[]> {
  const scored: Scored[] = [];
  let turn = 0;
  for (const [i, seed] of seeds.entries())
    for await (const sheet of drawSheets({ seed, count }, painter)) {
      for (let n = 0; n < mannersEach; n++) {
        const manner: Manner = manners[turn++ % manners.length]!;
        scored.push(...scoreSheet(sheet, manner, name));
      }
      for (const how of i < finishedSeeds ? finishes : [])
        scored.push(...scoreSheet(sheet, 'export', name, await finish(sheet.pixels, how), how));
    }
  return scored;
}
