import fc from 'fast-check';
import { colourAlone } from '../../../src/core/areas/contrast/checks/colour-alone.ts';
import { iconContrast } from '../../../src/core/areas/contrast/checks/icon-contrast.ts';
import { invertedContrast } from '../../../src/core/areas/contrast/checks/inverted-contrast.ts';
import { textContrast } from '../../../src/core/areas/contrast/checks/text-contrast.ts';
import { themeContrast } from '../../../src/core/areas/contrast/checks/theme-contrast.ts';
import {
  contrastRatio,
  formatRatio,
  parseHex,
  type Rgb,
  relativeLuminance,
  toHex,
} from '../../../src/core/areas/contrast/colour.ts';
import { invert, viewColour, viewPicture, views } from '../../../src/core/areas/contrast/colour-vision.ts';
import { measureText } from '../../../src/core/areas/contrast/pixels/measure-text.ts';
import { estimateBold, estimateTextSize } from '../../../src/core/areas/contrast/pixels/text-size.ts';
import { lightnessSteps, suggestColour } from '../../../src/core/areas/contrast/suggest-colour.ts';
import { suggestPalette } from '../../../src/core/areas/contrast/suggest-palette.ts';
import type { ColourPairFact, Fact, SeenTextFact, UnseenTextFact } from '../../../src/core/model/fact.ts';
import { limitsSchema } from '../../../src/core/model/limits.ts';
import { aCell, anIntent, box, canvas, departures, observeScreen, run, ui } from '../../support/facts.ts';

const anyRgb: fc.Arbitrary<Rgb> = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255));
const anyHex = () => anyRgb.map(toHex);

describe('ratio', () => {
  // worked by hand from the definitions in WCAG 2.2
  test.each([
    ['#000000', '#ffffff', 21],
    ['#ffffff', '#ffffff', 1],
    ['#777777', '#ffffff', 4.478],
    ['#767676', '#ffffff', 4.542],
    ['#ff0000', '#ffffff', 3.998],
    ['#0000ff', '#ffffff', 8.592],
    ['#00f', '#ff0', 8.001],
  ])('%s on %s is %d', (a, b, ratio) => {
    expect(contrastRatio(parseHex(a)!, parseHex(b)!)).toBeCloseTo(ratio, 2);
  });

  test('is symmetric, from 1 to 21, and grows with the distance in luminance', () => {
    fc.assert(
      fc.property(anyRgb, anyRgb, (a, b) => {
        const ratio = contrastRatio(a, b);
        expect(ratio).toBe(contrastRatio(b, a));
        expect(ratio).toBeGreaterThanOrEqual(1);
        expect(ratio).toBeLessThanOrEqual(21.0000001);
        expect(relativeLuminance(a) > relativeLuminance(b)).toBe(
          contrastRatio(a, [0, 0, 0]) > contrastRatio(b, [0, 0, 0]),
        );
        expect(parseHex(toHex(a))).toEqual(a);
      }),
    );
  });

  test('is never rounded up', () => {
    expect(formatRatio(4.4999)).toBe('4.49');
    expect(formatRatio(3)).toBe('3.00');
    expect(['#12', 'red', '#12345g', ''].map(parseHex)).toEqual([undefined, undefined, undefined, undefined]);
  });
});

describe('suggestion', () => {
  test('passes after rounding to 8 bits, and nothing nearer in lightness does', () => {
    fc.assert(
      fc.property(anyRgb, anyRgb, fc.constantFrom(3, 4.5, 7), (colour, against, required) => {
        const suggestion = suggestColour(colour, against, required);
        if (!suggestion) {
          // neither white nor black would do
          expect(
            Math.max(contrastRatio([0, 0, 0], against), contrastRatio([255, 255, 255], against)),
          ).toBeLessThan(required);
          return;
        }
        expect(contrastRatio(parseHex(suggestion.colour)!, against)).toBeGreaterThanOrEqual(required);
        if (contrastRatio(colour, against) < required) expect(suggestion.lightnessChange).toBeGreaterThan(0);
      }),
    );
  });

  test('tries black and white themselves, where nothing else passes', () => {
    expect(suggestColour([200, 30, 30], [119, 119, 119], 4.686)?.colour).toBe('#000000');
    expect(suggestColour([200, 30, 30], [119, 119, 119], 4.8)).toBeUndefined();
  });

  test('keeps the hue, and stops at the first that passes', () => {
    const suggestion = suggestColour(parseHex('#e08a3c')!, [255, 255, 255], 4.5)!;
    expect(suggestion.ratio).toBeLessThan(4.7);
    const [r, g, b] = parseHex(suggestion.colour)!;
    expect(r > g && g > b).toBe(true);
  });
});

describe('a palette', () => {
  const name = fc.constantFrom('ink', 'soft', 'card', 'page');
  const aPalette = fc.record({
    colours: fc.record({ ink: anyHex(), soft: anyHex(), card: anyHex(), page: anyHex() }),
    pairs: fc
      .array(fc.record({ foreground: name, background: name, required: fc.constantFrom(3, 4.5) }), {
        maxLength: 5,
      })
      .map((pairs) => pairs.filter(({ background, foreground }) => background !== foreground)),
  });

  test('passes in all its pairs afterwards, and no single change would do where several are made', () => {
    fc.assert(
      fc.property(aPalette, (palette) => {
        const found = suggestPalette(palette);
        if (!found) return;
        const after: Record<string, string> = { ...palette.colours };
        for (const { colour, name: of } of found.changes) after[of] = colour;
        const passes = (colours: Record<string, string>) =>
          palette.pairs.every(
            ({ background, foreground, required }) =>
              contrastRatio(parseHex(colours[foreground]!)!, parseHex(colours[background]!)!) >= required,
          );
        expect(passes(after)).toBe(true);
        expect(found.changes.length === 0).toBe(found.failing.length === 0);
        if (found.changes.length > 1)
          for (const of of Object.keys(palette.colours))
            for (const { hex } of lightnessSteps(parseHex(palette.colours[of as 'ink'])!))
              expect(passes({ ...palette.colours, [of]: hex })).toBe(false);
      }),
      { numRuns: 40 },
    );
  });

  test('one background moves rather than three texts, and what is missing is named', () => {
    const colours = { a: '#8a8a8a', b: '#909090', c: '#888f8a', page: '#5a5a5a' };
    const pairs = ['a', 'b', 'c'].map((foreground) => ({ foreground, background: 'page', required: 4.5 }));
    expect(suggestPalette({ colours, pairs })!.changes.map(({ name: of }) => of)).toEqual(['page']);
    expect(() => suggestPalette({ colours, pairs: [{ ...pairs[0]!, background: 'sea' }] })).toThrow(/"sea"/);
  });
});

describe('the two colours of a text', () => {
  /** Bars of a text-like shape: a stem that reaches the colour, and edges half mixed with the background. */
  function bars(foreground: Rgb, background: Rgb, coverage = 1) {
    const pixels = canvas(120, 40, background);
    const mix = (share: number): Rgb =>
      [0, 1, 2].map((c) =>
        Math.round(background[c]! + (foreground[c]! - background[c]!) * share),
      ) as unknown as Rgb;
    for (let x = 10; x < 110; x += 8) {
      pixels.fill(box([x, 12, 1, 16]), mix(0.5 * coverage));
      pixels.fill(box([x + 1, 12, 2, 16]), mix(coverage));
      pixels.fill(box([x + 3, 12, 1, 16]), mix(0.3 * coverage));
    }
    return pixels;
  }

  test('are found behind antialiasing, for any pair that can be told apart', () => {
    fc.assert(
      fc.property(anyRgb, anyRgb, (foreground, background) => {
        fc.pre(Math.hypot(...foreground.map((channel, c) => channel - background[c]!)) > 30);
        const seen = measureText(bars(foreground, background), box([0, 0, 120, 40]), []);
        if (typeof seen === 'string') throw new Error(seen);
        expect(toHex(seen.background)).toBe(toHex(background));
        expect(toHex(seen.foreground)).toBe(toHex(foreground));
        const truth = contrastRatio(foreground, background);
        expect(seen.interval[0]).toBeLessThanOrEqual(truth);
        expect(seen.interval[1]).toBeGreaterThanOrEqual(Math.min(truth, 21));
      }),
    );
  });

  test('an outline around the box and rounded-off corners are not writing', () => {
    const pixels = bars([90, 90, 90], [255, 255, 255]);
    for (const edge of [
      [0, 0, 120, 2],
      [0, 38, 120, 2],
      [0, 0, 2, 40],
      [118, 0, 2, 40],
    ] as const)
      pixels.fill(box([...edge]), [0, 0, 0]);
    const seen = measureText(pixels, box([0, 0, 120, 40]), []);
    expect(typeof seen === 'string' ? seen : toHex(seen.foreground)).toBe('#5a5a5a');
    const rounded = bars([90, 90, 90], [255, 255, 255]);
    for (const [x, y] of [
      [0, 0],
      [116, 0],
      [0, 36],
      [116, 36],
    ] as const)
      rounded.fill(box([x, y, 4, 4]), [200, 0, 0]);
    const inCorners = measureText(rounded, box([0, 0, 120, 40]), []);
    expect(typeof inCorners === 'string' ? inCorners : toHex(inCorners.foreground)).toBe('#5a5a5a');
  });

  test('of two colours in one text the fainter counts', () => {
    const pixels = bars([0, 0, 0], [255, 255, 255]);
    pixels.fill(box([60, 12, 50, 16]), [255, 255, 255]);
    for (let x = 62; x < 106; x += 6) pixels.fill(box([x, 12, 3, 16]), [230, 120, 0]);
    const seen = measureText(pixels, box([0, 0, 120, 40]), []);
    if (typeof seen === 'string') throw new Error(seen);
    expect([toHex(seen.foreground), seen.spanCount]).toEqual(['#e67800', 2]);
  });

  test('over a picture the stretch where it is faintest counts, however it is shifted', () => {
    const white: Rgb = [255, 255, 255];
    const at = (under: (x: number, y: number) => number, shift: number) => {
      const pixels = canvas(400, 60, [0, 0, 0]);
      for (let y = 0; y < 60; y++)
        for (let x = 0; x < 400; x++) {
          const level = under(x, y) + ((x * 31 + y * 17 + x * y) % 9) - 4;
          pixels.fill(box([x, y, 1, 1]), [level, level, level]);
        }
      for (let x = 20 + shift; x < 380; x += 12) pixels.fill(box([x, 18, 3, 24]), white);
      const seen = measureText(pixels, box([0, 0, 400, 60]), []);
      if (typeof seen === 'string') throw new Error(seen);
      return seen;
    };
    const onLight = contrastRatio(white, [150, 150, 150]);
    for (let shift = 0; shift < 12; shift += 3) {
      const patched = at((x) => (x >= 200 && x < 260 ? 150 : 60 + (x % 40)), shift);
      expect(patched).toMatchObject({ behind: 'picture', foreground: white });
      expect(Math.abs(patched.ratio / onLight - 1)).toBeLessThan(0.05);
      expect(patched.meanRatio).toBeGreaterThan(patched.ratio * 1.5);
      expect(patched.interval[1]).toBeLessThan(4.5);
      // dark enough on the whole, but a fifth of each letter lies on something much lighter
      const striped = at((x, y) => Math.round(115 + 95 * Math.sin((x + 2 * y) / 3)), shift);
      expect(striped.behind).toBe('picture');
      expect(striped.interval[0]).toBeLessThan(striped.ratio * 0.8);
    }
  });

  test('over a picture each line is looked at by itself', () => {
    const pixels = canvas(300, 100, [0, 0, 0]);
    for (let y = 0; y < 100; y++)
      for (let x = 0; x < 300; x++) {
        const level = (y < 50 ? 30 : 140) + ((x * 31 + y * 17 + x * y) % 40);
        pixels.fill(box([x, y, 1, 1]), [level, level, level + 5]);
      }
    for (const y of [12, 64])
      for (let x = 20; x < 280; x += 12) pixels.fill(box([x, y, 3, 22]), [255, 250, 230]);
    const seen = measureText(pixels, box([0, 0, 300, 100]), []);
    if (typeof seen === 'string') throw new Error(seen);
    expect(seen.background[0]).toBeGreaterThan(150);
    expect(seen.meanRatio).toBeGreaterThan(seen.ratio * 2);
    expect(seen.glyphHeightsPx.slice(0, 3)).toEqual([22, 22, 22]);
  });

  test('what cannot be seen says why', () => {
    const flat = canvas(100, 40, [250, 250, 250]);
    const noise = canvas(100, 40, [0, 0, 0]);
    for (let i = 0; i < noise.data.length; i++) noise.data[i] = (i * 7919) % 251;
    expect(measureText(flat, box([0, 0, 100, 40]), [])).toBe('no-ink');
    expect(measureText(flat, box([0, 0, 2, 40]), [])).toBe('too-small');
    expect(measureText(noise, box([0, 0, 100, 40]), [])).toBe('busy-background');
    expect(measureText(bars([0, 0, 0], [255, 255, 255]), box([0, 0, 120, 40]), [box([0, 0, 120, 30])])).toBe(
      'covered',
    );
  });
});

// shares of the em as type designs for screens have them: DejaVu, Noto, Heebo, Cairo and Hind Siliguri
test.each([
  ['Timetable', 24, 0.73],
  ['sewer', 13, 0.53],
  ['gangway', 18, 0.74],
  ['€17.80', 20, 0.73],
  ['Quay Nº 4', 22, 0.72],
  ['כרטיס אחד', 20, 0.609],
  ['לילה', 20, 0.75],
  ['תרנגול', 20, 0.75],
  ['العبارة', 30, 0.953],
  ['تذكرة واحدة', 30, 0.969],
  ['नाव', 20, 0.64],
  ['টিকিট কিনুন', 30, 1.11],
  ['ซื้อ', 30, 1.0],
  ['渡船', 27, 0.9],
])('%s of %i px lies within its estimated size', (text, inkPx, em) => {
  const heights = { glyphHeightsPx: [inkPx, inkPx, inkPx], risesPx: [], linePx: inkPx };
  const [lowest, highest] = estimateTextSize(text, heights);
  expect(lowest).toBeLessThanOrEqual(inkPx / em);
  expect(highest).toBeGreaterThanOrEqual(inkPx / em);
});

// stems as type designs have them: regular to 0.1 of the em, semi-bold to 0.137, bold from 0.125
test.each<[text: string, emPx: number, stem: number, bold: boolean | 'unknown']>([
  ['Timetable', 40, 0.07, false],
  ['Timetable', 40, 0.1, false],
  ['Timetable', 40, 0.137, 'unknown'],
  ['Timetable', 40, 0.18, true],
  ['Timetable', 14, 0.09, false],
  ['Timetable', 14, 0.15, 'unknown'],
  ['Билеты', 40, 0.09, false],
  ['המעבורת', 40, 0.09, false],
  ['המעבורת', 40, 0.19, true],
  ['渡船', 40, 0.07, 'unknown'],
  ['ምሳሌ', 40, 0.07, 'unknown'],
])('%s of %i px with stems of %f: bold is %s', (text, emPx, stem, bold) => {
  const strokes = { stemPx: emPx * stem, barPx: emPx * stem, isOnPicture: false };
  expect(estimateBold(text, strokes, [emPx * 0.93, emPx * 1.07])).toBe(bold);
  expect(estimateBold(text, { ...strokes, stemPx: 0 }, [emPx, emPx])).toBe('unknown');
});

describe('check', () => {
  const fact = (of: Partial<SeenTextFact>): SeenTextFact => ({
    kind: 'text-contrast',
    cell: aCell,
    evidence: 'e',
    platform: 'android',
    element: { key: 'label', className: 'TextView', shown: 'Label', boundsPx: box([0, 0, 10, 10]) },
    enabled: true,
    ratio: 5,
    interval: [(of.ratio ?? 5) - 0.02, (of.ratio ?? 5) + 0.02],
    foreground: '#777777',
    background: '#ffffff',
    reached: 0.4,
    behind: 'flat',
    meanRatio: of.ratio ?? 5,
    sizeFrom: 'glyphs',
    textSizeDp: [10, 13],
    bold: 'unknown',
    glyphDp: 8,
    runDp: 30,
    linesDp: [],
    stemDp: 1,
    ...of,
  });

  const inLayout = (textSizeSp: number, bold = false): Fact => ({
    kind: 'colour-pair',
    platform: 'android',
    evidence: 'package',
    layout: 'layout/one',
    view: 'label',
    part: 'text',
    night: false,
    from: 'layout',
    textSizeSp,
    bold,
    textName: 'color/ink',
    backgroundName: 'color/paper',
    foreground: '#777777',
    background: '#ffffff',
    ratio: 5,
  });

  test.each<[string, Partial<SeenTextFact>, Fact[], string]>([
    ['large by its layout', {}, [inLayout(18)], 'passed'],
    ['not large by its layout', {}, [inLayout(16)], 'failed'],
    ['large for being bold by its layout', { textSizeDp: [13, 17] }, [inLayout(14, true)], 'passed'],
    ['of another size than its layout says', {}, [inLayout(30)], 'cantTell'],
    ['of two sizes by two layouts', {}, [inLayout(16), inLayout(18)], 'cantTell'],
    ['of two sizes of which one does not fit', {}, [inLayout(16), inLayout(30)], 'failed'],
    [
      'of another weight than its layout says',
      { bold: true, textSizeDp: [13, 17] },
      [inLayout(14)],
      'cantTell',
    ],
    ['large when enlarged', { cell: { ...aCell, textScale: 1.3 } }, [inLayout(15)], 'passed'],
    ['without a layout', {}, [], 'cantTell'],
  ])('perhaps large, and %s', (_, of, layouts, outcome) => {
    const text = fact({ ratio: 3.6, textSizeDp: [15, 19], ...of });
    expect(run(textContrast, [text, ...layouts]).map((assertion) => assertion.outcome)).toEqual([outcome]);
  });

  test.each<[string, Partial<SeenTextFact>, string, object?]>([
    ['enough', { ratio: 4.6 }, 'passed'],
    ['just too little', { ratio: 4.4 }, 'failed measured'],
    ['on the threshold', { ratio: 4.5 }, 'cantTell estimated'],
    ['enough for large text, and large', { ratio: 3.1, textSizeDp: [19, 24] }, 'passed'],
    ['enough for large text, perhaps large', { ratio: 3.1, textSizeDp: [14, 17] }, 'cantTell estimated'],
    ['too little even for large text', { ratio: 2.5, textSizeDp: [14, 17] }, 'failed measured'],
    ['too little for large text', { ratio: 2.5, textSizeDp: [30, 36] }, 'failed measured'],
    [
      'large in dp, not in points',
      { ratio: 3.5, textSizeDp: [18, 18.5] },
      'failed measured',
      { largeTextCountedIn: 'pt' },
    ],
    ['a wide interval', { ratio: 4, interval: [3.5, 6] }, 'cantTell estimated'],
    ['large because bold', { ratio: 3.5, textSizeDp: [14, 16], bold: true }, 'passed'],
    ['not large because not bold', { ratio: 3.5, textSizeDp: [14, 17], bold: false }, 'failed measured'],
    ['disabled', { ratio: 1.5, enabled: false }, 'inapplicable'],
    ['a team that wants more', { ratio: 5 }, 'failed measured', { textContrast: 7 }],
  ])('%s', (_, of, expected, limits = {}) => {
    const [assertion] = run(textContrast, [fact(of)], anIntent({ limits: limitsSchema.parse(limits) }));
    expect('draft' in assertion! ? `${assertion.outcome} ${assertion.draft.basis}` : assertion!.outcome).toBe(
      expected,
    );
  });

  test.each<[string, Partial<ColourPairFact>, string]>([
    ['enough', { ratio: 4.5 }, 'passed'],
    ['too little for its size', { ratio: 4.4, textSizeSp: 17 }, 'failed measured'],
    ['enough for large text', { ratio: 3, textSizeSp: 18 }, 'passed'],
    ['enough for bold text', { ratio: 3, textSizeSp: 14, bold: true }, 'passed'],
    ['enough if it is large', { ratio: 3.1, textSizeSp: undefined }, 'cantTell estimated'],
    ['too little for any size', { ratio: 2.9, textSizeSp: undefined }, 'failed measured'],
    ['on what the window has', { ratio: 2, from: 'window' }, 'cantTell estimated'],
  ])('theme-contrast: %s', (_, of, expected) => {
    const [assertion] = run(themeContrast, [{ ...(inLayout(16) as ColourPairFact), ...of }]);
    expect('draft' in assertion! ? `${assertion.outcome} ${assertion.draft.basis}` : assertion!.outcome).toBe(
      expected,
    );
  });

  const mark = (foreground: string, of: Partial<SeenTextFact> = {}) => fact({ foreground, ...of });
  test.each<[string, SeenTextFact[], string[]]>([
    ['red and green of one darkness', [mark('#c04000'), mark('#608000')], ['cantTell label light']],
    ['two reds', [mark('#c04000'), mark('#c84808')], []],
    ['light and dark', [mark('#ffd0d0'), mark('#004000')], []],
    ['one alone', [mark('#c04000')], []],
    ['one that is disabled', [mark('#c04000'), mark('#608000', { enabled: false })], []],
    ['on another screen', [mark('#c04000'), mark('#608000', { evidence: 'other' })], []],
  ])('colour-alone: %s', (_, facts, found) => {
    expect(departures(run(colourAlone, facts))).toEqual(found);
  });

  const unseen = (why: UnseenTextFact['unseen'], of: Partial<UnseenTextFact> = {}): UnseenTextFact => {
    const { kind, cell, evidence, platform, element, enabled } = fact({});
    return { kind, cell, evidence, platform, element, enabled, unseen: why, ...of };
  };

  test.each(['no-ink', 'too-small', 'covered', 'busy-background'] as const)('%s: never let pass', (why) => {
    expect(departures(run(textContrast, [unseen(why)]))).toEqual(['cantTell label light']);
    expect(departures(run(textContrast, [unseen(why), fact({ ratio: 6 })]))).toEqual([
      'cantTell label light',
    ]);
    expect(departures(run(textContrast, [unseen(why, { enabled: false })]))).toEqual([]);
  });

  test('what the edge leaves of a row is decided by one like it that can be seen', () => {
    const sliver = unseen('too-small', { cutBy: 'scroll' });
    expect(departures(run(textContrast, [sliver, fact({ ratio: 6 })]))).toEqual([]);
    expect(departures(run(textContrast, [sliver, fact({ ratio: 2 })]))).toEqual(['failed label light']);
    const dark = fact({ ratio: 6, cell: { ...aCell, theme: 'dark' } });
    expect(departures(run(textContrast, [sliver, dark]))).toEqual(['cantTell label light']);
  });

  test('a text of the very colour of its background is found, from the picture on', () => {
    const ghost = ui([0, 0, 200, 100], {}, ui([10, 10, 120, 30], { id: 'ghost', text: 'Not to be seen' }));
    expect(departures(run(textContrast, observeScreen(ghost)))).toEqual(['cantTell ghost light']);
  });

  test('an icon of the very colour of its background is told where it is meant to be seen', () => {
    const icon = (of: object) =>
      ui([0, 0, 200, 100], {}, ui([20, 20, 40, 40], { id: 'icon', className: 'ImageView', ...of }));
    expect(departures(run(iconContrast, observeScreen(icon({ label: 'Help' }))))).toEqual([
      'cantTell icon light',
    ]);
    expect(departures(run(iconContrast, observeScreen(icon({ clickable: true }))))).toEqual([
      'cantTell icon light',
    ]);
    expect(departures(run(iconContrast, observeScreen(icon({}))))).toEqual([]);
  });

  test('light and dark of one element are two findings, each with colours that pass', () => {
    const facts = (['light', 'dark'] as const).map((theme) => fact({ ratio: 2, cell: { ...aCell, theme } }));
    const assertions = run(textContrast, facts);
    expect(departures(assertions)).toEqual(['failed label light', 'failed label dark']);
    for (const assertion of assertions)
      if ('draft' in assertion)
        expect(assertion.draft.occurrence.data.suggestedTextRatio).toBeGreaterThanOrEqual(4.5);
  });
});

describe('with colours inverted', () => {
  const judge = (text: string, background: string, of: Partial<SeenTextFact> = {}) => {
    const ratio = contrastRatio(parseHex(text)!, parseHex(background)!);
    const [assertion] = run(invertedContrast, [
      { ...seen, foreground: text, background, ratio, interval: [ratio - 0.01, ratio + 0.01], ...of },
    ]);
    return assertion?.outcome;
  };
  const seen: SeenTextFact = {
    kind: 'text-contrast',
    cell: { ...aCell, theme: 'dark' },
    evidence: 'e',
    platform: 'android',
    element: { key: 'label', className: 'TextView', shown: 'Label', boundsPx: box([0, 0, 10, 10]) },
    enabled: true,
    ratio: 5,
    interval: [5, 5],
    foreground: '#777777',
    background: '#ffffff',
    reached: 0.4,
    behind: 'flat',
    meanRatio: 5,
    sizeFrom: 'tree',
    textSizeDp: [14, 14],
    bold: false,
    glyphDp: 10,
    stemDp: 1,
    runDp: 30,
    linesDp: [],
  };

  test.each<[string, string, string | undefined, Partial<SeenTextFact>]>([
    ['#ff0000', '#000000', 'failed', {}],
    ['#00ffff', '#ffffff', undefined, {}], // not seen as it is, which is another check's
    ['#ffffff', '#000000', 'passed', {}],
    ['#767676', '#ffffff', 'passed', {}],
    ['#ff5a4d', '#16262b', 'failed', {}],
    ['#ff9d94', '#16262b', 'passed', {}],
    ['#ff0000', '#000000', undefined, { enabled: false }],
    ['#ff0000', '#000000', undefined, { behind: 'picture' }],
    // a thin stroke may not have shown its colour
    ['#ff0000', '#000000', 'cantTell', { interval: [4, 6] }],
  ])('%s on %s: %s', (text, background, outcome, of) => {
    expect(judge(text, background, of)).toBe(outcome);
  });

  test('what is suggested stands out both ways', () => {
    fc.assert(
      fc.property(anyRgb, (text) => {
        const ratio = contrastRatio(text, [0, 0, 0]);
        const fact = { ...seen, foreground: toHex(text), background: '#000000', ratio };
        const [assertion] = run(invertedContrast, [{ ...fact, interval: [ratio, ratio] }]);
        if (!assertion || !('draft' in assertion)) return;
        const { suggestion } = assertion.draft.occurrence.data;
        if (suggestion === undefined) return;
        const found = parseHex(String(suggestion))!;
        expect(contrastRatio(found, [0, 0, 0])).toBeGreaterThanOrEqual(ratio);
        expect(contrastRatio(invert(found), [255, 255, 255])).toBeGreaterThanOrEqual(3);
      }),
    );
  });

  test('a view of a picture is that of each of its colours, its alpha as it was', () => {
    fc.assert(
      fc.property(
        fc.array(anyRgb, { minLength: 1, maxLength: 30 }),
        fc.constantFrom(...views),
        (colours, view) => {
          const data = new Uint8Array(colours.flatMap((rgb, i) => [...rgb, i * 8]));
          const shown = viewPicture({ widthPx: colours.length, heightPx: 1, data }, view);
          colours.forEach((rgb, i) => {
            expect([...shown.data.slice(i * 4, i * 4 + 4)]).toEqual([...viewColour(rgb, view), i * 8]);
          });
          expect([...data]).toEqual(colours.flatMap((rgb, i) => [...rgb, i * 8]));
        },
      ),
    );
  });
});
