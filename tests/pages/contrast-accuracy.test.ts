/**
 * Contrast measured on sheets that a browser drew, against what their styles say. The measuring was tuned on other
 * rasterisers and other typefaces than these. SHEET_SEED draws other sheets, SHEET_TABLE prints the figures by kind.
 */
import type { Browser } from 'playwright-core';
import type { Assertion } from '../../src/core/areas/check.ts';
import { iconContrast } from '../../src/core/areas/contrast/checks/icon-contrast.ts';
import { textContrast } from '../../src/core/areas/contrast/checks/text-contrast.ts';
import { observeIconContrast } from '../../src/core/areas/contrast/observers/observe-icon-contrast.ts';
import { observeTextContrast } from '../../src/core/areas/contrast/observers/observe-text-contrast.ts';
import type { IconContrastFact, TextContrastFact } from '../../src/core/model/fact.ts';
import { launchChromium } from '../support/browser.ts';
import { drawSheets, type Family, type Sheet, type SheetElement } from '../support/contrast-sheet.ts';
import { run, screenEvidence, ui } from '../support/facts.ts';
import { describeWith } from '../support/paths.ts';

const LATIN = [
  'Leaves at 12:40',
  'Fares from €3.50',
  'Harbour',
  'Reserve a berth',
  'seven',
  'Över bron (söder)',
  'Quay Nº 4',
];
const families: Family[] = [
  {
    name: 'Figtree',
    script: 'Latin',
    weights: [300, 400, 700, 800],
    file: '@fontsource-variable/figtree/files/figtree-latin-wght-normal.woff2',
    texts: LATIN,
  },
  {
    name: 'Atkinson Hyperlegible',
    script: 'Latin',
    weights: [200, 400, 500, 700],
    file: '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2',
    texts: LATIN,
  },
  {
    name: 'Lora',
    script: 'Latin',
    weights: [400, 700],
    file: '@fontsource-variable/lora/files/lora-latin-wght-normal.woff2',
    texts: LATIN,
  },
  {
    name: 'Lora Cyrillic',
    script: 'Cyrillic',
    weights: [400, 700],
    file: '@fontsource-variable/lora/files/lora-cyrillic-wght-normal.woff2',
    texts: ['Причал открыт', 'Билеты', 'ещё семь мест'],
  },
  {
    name: 'Noto Sans Devanagari',
    script: 'Devanagari',
    weights: [300, 400, 700],
    file: '@fontsource-variable/noto-sans-devanagari/files/noto-sans-devanagari-devanagari-wght-normal.woff2',
    texts: ['नाव आज शाम को', 'टिकट खरीदें'],
  },
  {
    name: 'Noto Sans Hebrew',
    script: 'Hebrew',
    weights: [300, 400, 700],
    file: '@fontsource-variable/noto-sans-hebrew/files/noto-sans-hebrew-hebrew-wght-normal.woff2',
    texts: ['המעבורת יוצאת', 'כרטיס אחד'],
  },
  {
    name: 'Noto Kufi Arabic',
    script: 'Arabic',
    weights: [300, 400, 700],
    file: '@fontsource-variable/noto-kufi-arabic/files/noto-kufi-arabic-arabic-wght-normal.woff2',
    texts: ['العبارة تغادر', 'تذكرة واحدة'],
  },
];

interface Judged {
  element: SheetElement;
  outcome: Assertion['outcome'];
  required: number;
  measured?: number;
}

function judge({ dpr, elements, pixels }: Sheet): Judged[] {
  return elements.map((element, i) => {
    const { box, cover, kind, sizeDp, text, weight } = element;
    const node = ui([box.x, box.y, box.width, box.height], {
      id: 'it',
      className: kind === 'icon' ? 'ImageView' : kind === 'placeholder' ? 'EditText' : 'TextView',
      ...(kind === 'placeholder' ? { hint: text } : { text }),
      // three trees in four say the size; of the fourth it must be told from its glyphs
      ...(i % 4 !== 0 && kind !== 'icon' && { textSizeDp: sizeDp, bold: weight >= 700 }),
    });
    const above = cover ? [ui([cover.x, cover.y, cover.width, cover.height], { text: 'x' })] : [];
    const tree = ui([0, 0, pixels.widthPx, pixels.heightPx], {}, node, ...above);
    const evidence = screenEvidence(tree, { pixels, densityDpi: 160 * dpr });
    const observer = kind === 'icon' ? observeIconContrast : observeTextContrast;
    const fact = [...observer.observe(evidence)].find((of) => of.element.key === 'it') as
      | TextContrastFact
      | IconContrastFact;
    const [assertion] = run(kind === 'icon' ? iconContrast : textContrast, [fact]);
    const isLarge = kind === 'icon' || sizeDp >= 18 || (sizeDp >= 14 && weight >= 700);
    return {
      element,
      outcome: assertion!.outcome,
      required: isLarge ? 3 : 4.5,
      ...(fact.unseen === undefined && { measured: fact.ratio }),
    };
  });
}

const isRight = ({ element, outcome, required }: Judged): boolean =>
  outcome === (element.ratio >= required ? 'passed' : 'failed');
const isFar = ({ element, required }: Judged): boolean => Math.abs(element.ratio / required - 1) > 0.05;
const errorOf = ({ element, measured }: Judged): number =>
  Math.abs((measured ?? Number.NaN) / element.ratio - 1);
const median = (list: number[]): number => [...list].sort((a, b) => a - b)[list.length >> 1] ?? 0;
const isFlat = ({ element }: Judged): boolean => !['gradient', 'photo'].includes(element.kind);

function tabulate(judged: readonly Judged[]): string {
  const row = (name: string, of: readonly Judged[]) => {
    const far = of.filter(isFar);
    return [
      name.padEnd(13),
      of.length,
      far.length,
      far.filter(isRight).length,
      far.filter(({ outcome }) => outcome === 'cantTell').length,
      far.filter((one) => one.outcome !== 'cantTell' && !isRight(one)).length,
      `${(100 * median(of.flatMap((one) => (one.measured ? [errorOf(one)] : [])))).toFixed(2)} %`,
    ].join('\t');
  };
  const kinds = [...new Set(judged.map(({ element }) => element.kind))].sort();
  return [
    'kind\tn\tfar\tright\tcantTell\twrong\tmedian error',
    ...kinds.map((kind) =>
      row(
        kind,
        judged.filter(({ element }) => element.kind === kind),
      ),
    ),
    row('all', judged),
  ].join('\n');
}

describeWith('chromium')('contrast of what a browser drew', () => {
  let browser: Browser;
  let judged: Judged[];
  let table: string;

  beforeAll(async () => {
    browser = await launchChromium();
    const seed = Number(process.env.SHEET_SEED ?? 20261123);
    const count = Number(process.env.SHEET_COUNT ?? 352);
    judged = (await drawSheets(browser, { count, families, seed })).flatMap(judge);
    table = tabulate(judged);
    if (process.env.SHEET_TABLE) {
      const wrong = judged
        .filter((one) => isFar(one) && !isRight(one))
        .map(({ element: { box, cover, ...element }, ...one }) => JSON.stringify({ ...element, ...one }));
      process.stderr.write(`${table}\n${wrong.join('\n')}\n`);
    }
  });
  afterAll(() => browser.close());

  test('there are enough, on either side of the thresholds', () => {
    expect(judged.length).toBeGreaterThanOrEqual(300);
    for (const outcome of ['passed', 'failed'])
      expect(judged.filter((one) => one.outcome === outcome).length).toBeGreaterThan(60);
  });

  test('99 in 100 that lie more than 5 % from their threshold are decided, and none wrongly', () => {
    const far = judged.filter(isFar);
    expect([table, far.filter((one) => one.outcome !== 'cantTell' && !isRight(one))]).toEqual([table, []]);
    expect(far.filter(isRight).length / far.length).toBeGreaterThanOrEqual(0.99);
  });

  test('the median error is below 1 %, and at most a tenth of those on one colour stay undecided', () => {
    expect(median(judged.flatMap((one) => (one.measured ? [errorOf(one)] : [])))).toBeLessThan(0.01);
    const flat = judged.filter(isFlat);
    expect(flat.filter(({ outcome }) => outcome === 'cantTell').length / flat.length).toBeLessThanOrEqual(
      0.1,
    );
  });
});
