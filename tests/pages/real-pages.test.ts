/**
 * Contrast on pages that nobody here drew: their pictures, gradients, icons and typefaces are those of sample sites that npm
 * packages bring. What is true is read from separate paintings. `npm run bench -- real-pages` takes all of them.
 */
import { writeFileSync } from 'node:fs';
import type { Browser } from 'playwright-core';
import { launchChromium } from '../support/browser.ts';
import { describeWith } from '../support/paths.ts';
import { corpora, pagesOf } from '../support/real-pages/corpus.ts';
import { scorePage } from '../support/real-pages/score-page.ts';
import { isFar, isHeld, isRight, isWrong, type Scored, tabulate } from '../support/sheets/score.ts';

const { REAL_PAGES, TRUTH_OUT } = process.env;
const names = REAL_PAGES === 'all' ? corpora : (REAL_PAGES ?? 'pages-creative').split(',');
// none where no registry can be reached
const pages = names.flatMap(pagesOf);
const describeOnPages = pages.length === 0 ? describe.skip : describeWith('chromium');
const SCREENS = Number(process.env.REAL_SCREENS ?? 3);

describeOnPages('contrast on pages that others drew', () => {
  let browser: Browser;
  const all: Scored[] = [];

  beforeAll(async () => {
    browser = await launchChromium();
    for (const page of pages)
      for await (const { scored } of scorePage(browser, page, SCREENS)) all.push(...scored);
    if (TRUTH_OUT) {
      const tables = { byPage: tabulate(all, ({ family, kind }) => `${family}, ${kind}`) };
      writeFileSync(TRUTH_OUT, JSON.stringify({ tables, wrong: all.filter(isWrong) }));
    }
  }, 3_600_000);
  afterAll(() => browser.close());

  test('no verdict is wrong, and what is told holds what is true', () => {
    expect(all.length).toBeGreaterThan(5);
    expect(all.filter(isWrong)).toEqual([]);
    const told = all.filter(({ interval }) => interval);
    expect(told.filter(isHeld).length / told.length).toBeGreaterThan(0.9);
    const far = all.filter(isFar);
    expect(far.filter(isRight).length / far.length).toBeGreaterThan(0.8);
  });
});
