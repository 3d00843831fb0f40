/**
 * Contrast on sheets of many families, painted by a browser and by what the stand-in phone paints with, written down as six
 * toolkits do, against truth that is read from separate paintings. `npm run bench -- truth` runs more seeds of the same.
 */
import { writeFileSync } from 'node:fs';
import type { Browser } from 'playwright-core';
import { launchChromium } from '../support/browser.ts';
import { describeWith } from '../support/paths.ts';
import { finishes } from '../support/sheets/finish.ts';
import { scoreSheets } from '../support/sheets/run.ts';
import {
  isDecided,
  isFar,
  isHeld,
  isRight,
  isWrong,
  type Scored,
  tabulate,
} from '../support/sheets/score.ts';

const groupBy = (list: readonly Scored[], keyOf: (of: Scored) => string): Map<string, Scored[]> => {
  const groups = new Map<string, Scored[]>();
  for (const one of list) groups.set(keyOf(one), [...(groups.get(keyOf(one)) ?? []), one]);
  return groups;
};
const isPacked = (family: string): boolean => /^(jpeg|webp)/.test(family);
const { TRUTH_COUNT, TRUTH_MANNERS, TRUTH_OUT, TRUTH_SEEDS } = process.env;
const seeds = (TRUTH_SEEDS ?? '20261129,7,90125').split(',').map(Number);

describeWith('chromium')('contrast on sheets whose truth was painted apart', () => {
  let browser: Browser;
  let all: Scored[];
  let clean: Scored[];

  beforeAll(async () => {
    browser = await launchChromium();
    all = await scoreSheets(browser, {
      seeds,
      count: Number(TRUTH_COUNT ?? 5),
      mannersEach: Number(TRUTH_MANNERS ?? 2),
      finishes: TRUTH_OUT ? finishes : ['jpeg 70'],
      finishedSeeds: TRUTH_OUT ? seeds.length : 1,
    });
    clean = all.filter(({ family }) => !isPacked(family));
    if (TRUTH_OUT) {
      const tables = {
        byFamily: tabulate(all, ({ family, kind }) => `${family}, ${kind}`),
        byManner: tabulate(clean, ({ manner }) => manner),
        byPainter: tabulate(clean, ({ painter }) => painter),
      };
      writeFileSync(TRUTH_OUT, JSON.stringify({ tables, wrong: all.filter(isWrong) }));
    }
  }, 3_600_000);
  afterAll(() => browser.close());

  test('every family has sixty verdicts and more, on either side of its limit', () => {
    const counts = groupBy(clean, ({ family }) => family);
    for (const of of counts.values()) expect(of.length).toBeGreaterThanOrEqual(TRUTH_COUNT ? 1 : 60);
    for (const outcome of ['passed', 'failed'])
      expect(clean.filter((one) => one.outcome === outcome).length).toBeGreaterThan(clean.length / 5);
  });

  test('no verdict on clean pictures is wrong', () => {
    expect(clean.filter(isWrong)).toEqual([]);
  });

  test('where size and weight are known, 97 in 100 are decided, and rightly', () => {
    const known = clean.filter((one) => one.manner === 'export' && isFar(one));
    expect(known.filter(isRight).length / known.length).toBeGreaterThanOrEqual(0.97);
  });

  test('the interval holds the truth in 97 of 100, and is narrow on one colour', () => {
    const seen = clean.filter(({ interval }) => interval);
    expect(seen.filter(isHeld).length / seen.length).toBeGreaterThanOrEqual(0.97);
    const flat = seen.filter(({ family }) => family === 'flat' || family === 'button');
    const halves = flat
      .map(({ interval: [least, most] = [0, 0], ratio = 1 }) => (most - least) / 2 / ratio)
      .sort((a, b) => a - b);
    expect(halves[halves.length >> 1]).toBeLessThan(0.02);
  });

  test('of any toolkit most is looked at, and most of that decided', () => {
    for (const [manner, of] of groupBy(clean.filter(isFar), (one) => one.manner)) {
      const lookedAt = of.filter(({ outcome }) => outcome !== 'not looked at');
      expect([manner, lookedAt.filter(isDecided).length / lookedAt.length > 0.85]).toEqual([manner, true]);
    }
  });

  test('on pictures that were packed with losses no verdict is wrong, and a third and more are given', () => {
    const packed = all.filter(({ family }) => isPacked(family));
    expect(packed.length).toBeGreaterThan(100);
    expect(packed.filter(isWrong)).toEqual([]);
    expect(packed.filter(isDecided).length / packed.length).toBeGreaterThan(0.35);
  });
});
