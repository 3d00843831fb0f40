/** Plants on screens, judged as the command would judge them, and what was found and what was not. */
import type { Browser } from 'playwright-core';
import { type Assertion, type Check, indexFacts } from '../../../src/core/areas/check.ts';
import { checks } from '../../../src/core/areas/checks.ts';
import type { CaptureEvidence } from '../../../src/core/areas/observer.ts';
import { observers } from '../../../src/core/areas/observers.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import { anIntent } from '../facts.ts';
import { type Choice, choices, seeded } from '../sheets/families.ts';
import { fontFaceCss } from '../sheets/typefaces.ts';
import { dumpPage } from './dump-page.ts';
import { type Plant, plants } from './plants.ts';
import { lookOf, pageOf, type Snapshot } from './screens.ts';

export interface Planted {
  kind: string;
  screen: string;
  isDefect: boolean;
  value: string;
  found: boolean;
  /** What the page itself says was hidden of the marked texts, 0 to 1, where a text was to grow. */
  hidden?: number;
  /** All that was found besides. */
  false: string[];
  evidence: CaptureEvidence[];
  /** Where it shows. */
  marks: string[];
}

// What is asked here: names, controls, text sizes, directions, languages; and contrast, which is in order on all of them.
const judging: readonly Check[] = checks.filter(({ area }) =>
  ['accessibility', 'contrast', 'localization'].includes(area),
);

export async function* plantAll(
  browser: Browser,
  of: { seed: number; count: number; kinds?: RegExp },
): AsyncGenerator<Planted> {
  for (const [n, plant] of plants.entries()) {
    if (of.kinds && !of.kinds.test(plant.kind)) continue;
    const choice = choices(seeded(of.seed * 1000 + n), '');
    for (let shown = 0, tried = 0; shown < of.count && tried < of.count * 4; tried++) {
      const planted = await plantOne(browser, plant, choice);
      if (plant.hides && (planted.hidden ?? 0) < LEAST_HIDDEN) continue;
      shown += 1;
      yield planted;
    }
  }
}

// Of a text's lines: less is the room that a typeface leaves above and below its letters.
const LEAST_HIDDEN = 0.25;

async function plantOne(browser: Browser, plant: Plant, of: Choice): Promise<Planted> {
  const screen = of.pick(plant.on);
  const look = lookOf(of, plant.language ?? 'en');
  const value = plant.choose?.(of) ?? '';
  const at = Math.floor(of.random() * 60);
  const density = of.pick([2, 2.625, 3]);
  const curve = of.pick([linear, flattened]);
  const page = await browser.newPage({
    viewport: { width: of.pick([360, 392, 411]), height: 812 },
    deviceScaleFactor: density,
  });
  const manner = plant.scales && of.chance(0.3) ? 'described' : 'views';
  const evidence: CaptureEvidence[] = [];
  const marks = new Set<string>();
  let hidden: number | undefined;
  const show = async (as: Snapshot, scale: number) => {
    await page.setContent(pageOf(screen, as, (size) => curve(size, scale), fontFaceCss(as.font)));
    await page.evaluate(() => Promise.all([...document.fonts].map((font) => font.load())));
    if (scale !== 1)
      await page.evaluate(
        (base) => document.documentElement.style.setProperty('--base', `${base}`),
        curve(16, scale) / 16,
      );
  };
  const cellOf = (language: string, textScale: number) => ({
    screen,
    locale: language,
    textScale,
    theme: look.dark ? ('dark' as const) : ('light' as const),
  });
  if (plant.withSource) {
    await show({ ...look, language: 'en' }, 1);
    evidence.push(await dumpPage(page, density, cellOf('en', 1)));
  }
  const english = plant.withSource
    ? await page.evaluate(() =>
        Object.fromEntries(
          [...document.querySelectorAll<HTMLElement>('.t')].map((text) => [
            text.getAttribute('n-id')!,
            text.textContent,
          ]),
        ),
      )
    : {};
  for (const scale of plant.scales ?? [1]) {
    await show(look, scale);
    await page.evaluate((texts) => Object.assign(window, { english: texts }), english);
    for (const id of await page.evaluate(plant.change, { value, at })) marks.add(id);
    if (scale > 1) hidden = await page.evaluate(hiddenShare, [...marks]);
    evidence.push(await dumpPage(page, density, cellOf(look.language, scale), manner));
  }
  await page.close();
  return {
    ...judge(plant, evidence, marks),
    screen,
    value,
    evidence,
    marks: [...marks],
    ...(hidden !== undefined && { hidden }),
  };
}

/** Runs in the page: how much of a text's lines lies where its box, or one around it, cuts. The most of all. */
function hiddenShare(ids: readonly string[]): number {
  const shares = ids.map((id) => {
    const text = document.querySelector(`[n-id="${id}"]`);
    if (!text) return 0;
    const range = document.createRange();
    range.selectNodeContents(text);
    const written = [...range.getClientRects()].filter(({ height, width }) => height > 0 && width > 0);
    let [all, seen] = [0, 0];
    for (const { bottom, left, right, top } of written) {
      let box = { left, top, right, bottom };
      for (let around: Element | null = text; around; around = around.parentElement) {
        if (getComputedStyle(around).overflow === 'visible') continue;
        const cut = around.getBoundingClientRect();
        box = {
          left: Math.max(box.left, cut.left),
          top: Math.max(box.top, cut.top),
          right: Math.min(box.right, cut.right),
          bottom: Math.min(box.bottom, cut.bottom),
        };
      }
      all += (right - left) * (bottom - top);
      seen += Math.max(0, box.right - box.left) * Math.max(0, box.bottom - box.top);
    }
    return all > 0 ? 1 - seen / all : 0;
  });
  return Math.max(0, ...shares);
}

const linear = (size: number, scale: number): number => size * scale;
/** Large text grows less than small text, as newer systems have it. */
const flattened = (size: number, scale: number): number =>
  size * (1 + (scale - 1) * (size < 14 ? 1 : size < 20 ? 0.86 : 0.6));

function judge(plant: Plant, evidence: readonly CaptureEvidence[], marks: ReadonlySet<string>) {
  const facts: Fact[] = evidence.flatMap((one) =>
    observers.flatMap((observer) => (observer.reads === 'capture' ? [...observer.observe(one)] : [])),
  );
  const index = indexFacts(facts);
  const found = new Set<string>();
  const wrong: string[] = [];
  for (const check of judging)
    for (const assertion of check.run(index, anIntent())) {
      if (!('draft' in assertion)) continue;
      if (isPlanted(plant, check.id, assertion, marks)) found.add(check.id);
      else if (!(plant.also?.includes(check.id) && marks.has(assertion.draft.identity.subject)))
        wrong.push(describe(check.id, assertion));
    }
  return { kind: plant.kind, isDefect: plant.expect !== undefined, found: found.size > 0, false: wrong };
}

type Departed = Extract<Assertion, { draft: unknown }>;

/** In the place and by a check that was asked for; or a neighbour that the same change also harms. */
function isPlanted(
  { expect = [] }: Plant,
  check: string,
  { draft }: Departed,
  marks: ReadonlySet<string>,
): boolean {
  const { identity, occurrence } = draft;
  const isThere = marks.has(identity.subject) || marks.has('screen');
  if (expect.includes('cut')) return isThere && occurrence.data.cutBy === 'scroll';
  return isThere && expect.includes(check);
}

const describe = (check: string, { draft, outcome }: Departed): string =>
  `${check} ${outcome} ${draft.identity.subject} ${draft.identity.aspect ?? ''} “${draft.occurrence.shown}” ${JSON.stringify(draft.occurrence.data)}`;
