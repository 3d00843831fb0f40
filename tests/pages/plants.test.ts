/**
 * Defects planted on ordinary screens, and what only looks like one, laid out and drawn by a browser: names, controls, focus,
 * text at 200 %, directions and languages. `npm run bench -- plants` runs more seeds of the same.
 */
import { writeFileSync } from 'node:fs';
import type { Browser } from 'playwright-core';
import { launchChromium } from '../support/browser.ts';
import { describeWith } from '../support/paths.ts';
import { plants } from '../support/plants/plants.ts';
import { type Planted, plantAll } from '../support/plants/run.ts';

const { TRUTH_COUNT, TRUTH_OUT, TRUTH_SEEDS } = process.env;
const seeds = (TRUTH_SEEDS ?? '20261129').split(',').map(Number);

function tabulate(planted: readonly Omit<Planted, 'evidence'>[]): string {
  const row = (name: string, of: typeof planted) =>
    [
      name,
      of.length,
      of.some(({ isDefect }) => isDefect)
        ? of.filter(({ found, isDefect }) => found && isDefect).length
        : '-',
      of.flatMap((one) => one.false).length,
    ].join('\t');
  const kinds = [...new Set(planted.map(({ kind }) => kind))];
  return [
    'planted\tn\tfound\tfalse',
    ...kinds.map((kind) =>
      row(
        kind,
        planted.filter((one) => one.kind === kind),
      ),
    ),
    row(
      'defects',
      planted.filter(({ isDefect }) => isDefect),
    ),
    row(
      'look-alikes',
      planted.filter(({ isDefect }) => !isDefect),
    ),
  ].join('\n');
}

describeWith('chromium')('planted defects', () => {
  let browser: Browser;
  const all: Omit<Planted, 'evidence'>[] = [];

  beforeAll(async () => {
    browser = await launchChromium();
    for (const seed of seeds)
      for await (const { evidence: _, ...planted } of plantAll(browser, {
        seed,
        count: Number(TRUTH_COUNT ?? 1),
      }))
        all.push(planted);
    if (TRUTH_OUT) {
      const wrong = all.flatMap((one) => [
        ...(one.isDefect && !one.found ? [`${one.kind} ${one.value} on ${one.screen} was missed`] : []),
        ...one.false,
      ]);
      writeFileSync(TRUTH_OUT, JSON.stringify({ tables: { byPlant: tabulate(all) }, wrong }));
    }
  }, 3_600_000);
  afterAll(() => browser.close());

  test('each kind shows', () => {
    for (const { kind } of plants) expect([kind, all.some((one) => one.kind === kind)]).toEqual([kind, true]);
  });

  test('98 in 100 are found', () => {
    const defects = all.filter(({ isDefect }) => isDefect);
    const missed = defects.filter(({ found }) => !found);
    expect(missed.length <= defects.length * 0.02 ? [] : missed).toEqual([]);
  });

  test('of what is found, 98 in 100 were planted', () => {
    const found = all.filter((one) => one.found).length;
    const others = all.flatMap(({ false: of }) => of);
    expect(others.length <= (found + others.length) * 0.02 ? [] : others).toEqual([]);
  });
});
