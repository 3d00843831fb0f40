/** What became of a text at 200 %, sideways, or under a setting: two captures of one screen, as their facts tell. */
import { displaySetting } from '../../../src/core/areas/accessibility/checks/display-setting.ts';
import { rotatedScreen } from '../../../src/core/areas/accessibility/checks/rotated-screen.ts';
import { textScaling } from '../../../src/core/areas/accessibility/checks/text-scaling.ts';
import { type Check, indexFacts } from '../../../src/core/areas/check.ts';
import { textContrast } from '../../../src/core/areas/contrast/checks/text-contrast.ts';
import { cutText } from '../../../src/core/areas/localization/checks/cut-text.ts';
import { collectFindings } from '../../../src/core/checklist/collect-findings.ts';
import { sortUnproven } from '../../../src/core/checklist/unproven-captures.ts';
import type { Cell } from '../../../src/core/model/cell.ts';
import type { CaptureFact, Fact, ScreenTextFact, SeenTextFact } from '../../../src/core/model/fact.ts';
import { aCell, anIntent, box, departures, run } from '../../support/facts.ts';

type Place = [number, number, number, number];
interface Text {
  text?: Partial<ScreenTextFact>;
  ink?: Partial<SeenTextFact>;
  at?: Place;
}

const AT: Place = [0, 0, 100, 40];

function screen(cell: Cell, texts: Record<string, Text>): Fact[] {
  const of = { cell, evidence: `at ${cell.textScale} ${cell.step}`, platform: 'android' as const };
  const capture: CaptureFact = {
    ...of,
    kind: 'capture',
    widthPx: 400,
    heightPx: 800,
    densityDpi: 160,
    elementCount: 3,
    toolkit: 'views',
    buildBasis: 'seen',
  };
  const elements = Object.entries(texts).flatMap(([key, { at = AT, ink, text }], order): Fact[] => {
    const element = { key, className: 'TextView', shown: key, boundsPx: box(at) };
    const written: ScreenTextFact = {
      ...of,
      kind: 'screen-text',
      element,
      text: key,
      from: 'text',
      isField: false,
      order,
    };
    const drawn: SeenTextFact = {
      ...of,
      kind: 'text-contrast',
      element,
      enabled: true,
      ratio: 9,
      interval: [9, 9],
      foreground: '#000000',
      background: '#ffffff',
      reached: 0.5,
      behind: 'flat',
      meanRatio: 9,
      sizeFrom: 'tree',
      textSizeDp: [14, 14],
      bold: false,
      glyphDp: 10 * cell.textScale,
      linesDp: [12 * cell.textScale],
      stemDp: 1.5 * cell.textScale,
      runDp: 80 * cell.textScale,
    };
    return [
      { ...written, ...text },
      { ...drawn, ...ink },
    ];
  });
  return [capture, ...elements];
}

const judge = (before: Record<string, Text>, after: Record<string, Text>): string[] =>
  departures(run(textScaling, [...screen(aCell, before), ...screen({ ...aCell, textScale: 2 }, after)]));

const SCROLLER = box([0, 0, 400, 300]);
const CUT = { edge: { at: 'bottom' as const, count: 3, share: 0.5 } };
const UNSEEN = { unseen: 'no-ink' } as unknown as Partial<SeenTextFact>;
const beside: Text = { at: [0, 100, 100, 40] };

test.each<[name: string, before: Text, after: Text | undefined, found: string[]]>([
  ['grows and stays whole', {}, {}, []],
  ['is gone', {}, undefined, ['failed it lost']],
  ['may have scrolled away', { text: { scrollerPx: SCROLLER } }, undefined, []],
  ['ends in an ellipsis', {}, { text: { ellipsized: true } }, ['failed it ellipsized']],
  [
    'ended in an ellipsis before',
    { text: { ellipsized: true } },
    { text: { ellipsized: true }, ink: { runDp: 20 } },
    [],
  ],
  ['reaches beyond the screen', {}, { ink: { cutBy: 'screen', ...CUT } }, ['failed it cut']],
  ['is lost in part beyond the screen', {}, { ink: { cutBy: 'screen', runDp: 80 } }, ['failed it cut']],
  ['reaches the edge of the screen and is whole', {}, { ink: { cutBy: 'screen' } }, []],
  ['lost half of its words', {}, { ink: { runDp: 85 } }, ['failed it clipped']],
  [
    'lost half of its words, as a field may',
    {},
    { ink: { runDp: 85 }, text: { isField: true } },
    ['cantTell it clipped'],
  ],
  [
    'lost half of its words to the edge of a scroller',
    {},
    { ink: { runDp: 85 }, text: { scrollerPx: box([20, 0, 300, 300]) } },
    [],
  ],
  [
    'ends at the edge by a letter, and is a little low',
    {},
    { ink: { linesDp: [21.8], edge: { at: 'top', count: 1, share: 0.1 } } },
    ['failed it clipped'],
  ],
  ['is a little low', {}, { ink: { linesDp: [21.8] } }, []],
  ['is not as high as it is wide', {}, { ink: { linesDp: [19] } }, ['failed it clipped']],
  ['has no room for a line', {}, { at: [0, 0, 100, 8], ink: UNSEEN }, ['failed it clipped']],
  [
    'has no room at the edge of its scroller',
    {},
    { at: [0, 0, 100, 8], ink: UNSEEN, text: { scrollerPx: SCROLLER } },
    [],
  ],
  ['is covered by another', {}, { ink: { unseen: 'covered' } as never }, []],
  ['is wider or narrower by a little', {}, { ink: { runDp: 135 } }, []],
  ['has its words not told apart', {}, { ink: { runDp: 0 } }, []],
  ['ends at the edge of its box', {}, { ink: CUT }, ['failed it clipped']],
  ['ended there before', { ink: CUT }, { ink: CUT }, []],
  [
    'ends at the edge of its scroller',
    {},
    { ink: CUT, at: [0, 260, 100, 40], text: { scrollerPx: SCROLLER } },
    [],
  ],
  ['does not grow', {}, { ink: { glyphDp: 10, stemDp: 1.5, runDp: 80 } }, ['failed it not-grown']],
  [
    'does not grow, in a bar of the system',
    {},
    { ink: { glyphDp: 10, stemDp: 1.5, runDp: 80, inBar: true } },
    [],
  ],
  ['grows by its strokes, where letters hang together', {}, { ink: { glyphDp: 9 } }, []],
  ['lies over another', {}, { at: [0, 80, 100, 60] }, ['failed it overlapped', 'failed beside overlapped']],
])('a text that %s', (_, before, after, found) => {
  expect(judge({ it: before, beside }, { ...(after && { it: after }), beside }).sort()).toEqual(
    [...found].sort(),
  );
});

test('without a capture at 100 % nothing is said of the one at 200 %', () => {
  const large = screen({ ...aCell, textScale: 2 }, { it: {} });
  expect(run(textScaling, large)).toEqual([]);
  const other = screen({ ...aCell, locale: 'de' }, { it: {} });
  expect(run(textScaling, [...large, ...other])).toEqual([]);
});

test('what stands between two that are left was not scrolled away', () => {
  const scrolled: Text = { text: { scrollerPx: SCROLLER } };
  const all = { first: scrolled, it: scrolled, last: { ...scrolled, at: [0, 100, 100, 40] as Place } };
  const { it: _, ...left } = all;
  expect(judge(all, left)).toEqual(['failed it lost']);
  expect(judge(all, { first: scrolled })).toEqual([]);
  const outcomes = run(textScaling, [
    ...screen(aCell, all),
    ...screen({ ...aCell, textScale: 2 }, { first: scrolled }),
  ]);
  expect(outcomes.filter(({ outcome }) => outcome === 'untested')).toHaveLength(2);
  const scrolledOn = screen(
    { ...aCell, textScale: 2, step: 'scrolled on' },
    { it: scrolled, last: scrolled },
  );
  const found = run(textScaling, [
    ...screen(aCell, all),
    ...screen({ ...aCell, textScale: 2 }, { first: scrolled }),
    ...scrolledOn,
  ]);
  expect(found.map(({ outcome }) => outcome)).not.toContain('untested');
});

test('where a list was scrolled, a row is not taken for the one that had its place', () => {
  const row = (text: string, y: number): Text => ({
    text: { text, scrollerPx: SCROLLER, holderPx: box([0, y, 400, 60]) },
    at: [0, y, 100, 40],
  });
  const before = { first: row('one', 20), it: row('two', 100), last: row('three', 180) };
  const after = { first: row('two', 20), last: row('four', 180) };
  expect(judge(before, after)).toEqual([]);
  // seen whole, and its own
  const card = { title: row('one', 20), it: row('two', 20) };
  expect(judge(card, { title: row('one', 20) })).toEqual(['failed it lost']);
});

test.each<
  [name: string, check: Check, settings: Partial<Cell>, after: Record<string, Text>, found: string[]]
>([
  ['rotated-screen: whole', rotatedScreen, { orientation: 'landscape' }, { it: {} }, []],
  ['rotated-screen: gone', rotatedScreen, { orientation: 'landscape' }, {}, ['failed it lost']],
  ['rotated-screen: not turned', rotatedScreen, { textScale: 2 }, {}, []],
  [
    'display-setting: whole, with wider strokes',
    displaySetting,
    { procedure: 'bold-text' },
    { it: { ink: { stemDp: 1.6 } } },
    [],
  ],
  [
    'display-setting: as thin as before',
    displaySetting,
    { procedure: 'bold-text' },
    { it: { ink: { stemDp: 1.55 } } },
    ['cantTell screen weight'],
  ],
  [
    'display-setting: as thin, where no wider strokes were asked for',
    displaySetting,
    { procedure: 'display-large' },
    { it: {} },
    [],
  ],
  ['display-setting: gone', displaySetting, { procedure: 'high-contrast-text' }, {}, ['failed it lost']],
  ['display-setting: not a setting', displaySetting, { procedure: 'try' }, {}, []],
])('%s', (_, check, settings, after, found) => {
  const facts = [...screen(aCell, { it: {} }), ...screen({ ...aCell, ...settings }, after)];
  // their evidence is told apart
  for (const fact of facts) if ('cell' in fact) fact.evidence = JSON.stringify(fact.cell);
  expect(departures(run(check, facts))).toEqual(found);
});

test.each<[name: string, settings: Partial<Cell>, text: Partial<ScreenTextFact>, found: string[]]>([
  ['cut', {}, { ellipsized: true }, ['failed it en']],
  ['whole', {}, {}, []],
  ['a description, which nobody sees', {}, { ellipsized: true, from: 'label' }, []],
  ['cut at 200 %, which its pair tells', { textScale: 2 }, { ellipsized: true }, []],
  [
    'cut at 200 % in a language of its own',
    { textScale: 2, locale: 'de' },
    { ellipsized: true },
    ['failed it de'],
  ],
])('cut-text: %s', (_, settings, text, found) => {
  const facts = [...screen(aCell, {}), ...screen({ ...aCell, ...settings, step: 'next' }, { it: { text } })];
  expect(departures(run(cutText, facts))).toEqual(found);
});

test('what is not sure of a text is decided by the same one in the same colours, and else said to be so', () => {
  const whole = screen(aCell, { it: {} });
  const cut = { ratio: 12, interval: [12, 12] as [number, number], doubtful: true as const };
  const large = (ink: Partial<SeenTextFact>) => screen({ ...aCell, textScale: 2 }, { it: { ink } });
  const judgeContrast = (...of: Parameters<typeof run>[1][]) =>
    run(textContrast, of.flat()).filter(({ outcome }) => outcome !== 'passed');
  expect(judgeContrast(whole, large(cut))).toMatchObject([{ outcome: 'inapplicable' }]);
  for (const facts of [[large(cut)], [whole, large({ ...cut, foreground: '#202020' })]]) {
    const [open] = collectFindings([textContrast], indexFacts(facts.flat()), anIntent());
    expect(open!.findings.map(({ words }) => words.what)).toEqual([
      expect.stringMatching(/^It is not sure that “it” itself was measured/),
    ]);
  }
});

test('of a text size that nothing tells and no text shows, nothing is judged', () => {
  const unproven = (ink: Partial<SeenTextFact>) =>
    screen({ ...aCell, textScale: 2 }, { it: { ink } }).map((fact) =>
      fact.kind === 'capture' ? { ...fact, unproven: ['textScale' as const] } : fact,
    );
  const same = { glyphDp: 10, stemDp: 1.5, runDp: 80 };
  const left = (...facts: Fact[][]) => sortUnproven(facts.flat(), 'en').unproven.map(({ why }) => why);
  expect(left(screen(aCell, { it: {} }), unproven(same))).toEqual([
    expect.stringMatching(/no text is larger/),
  ]);
  expect(left(screen(aCell, { it: {} }), unproven({}))).toEqual([]);
  expect(left(unproven({}))).toHaveLength(1);
});
