/** Edges of fields, light areas of dark screens and pictures, on pages that Chromium paints from colours that the test chose. */
import fc from 'fast-check';
import type { Browser, Page } from 'playwright-core';
import { unnamedPicture } from '../../src/core/areas/accessibility/checks/unnamed-picture.ts';
import { observePictures } from '../../src/core/areas/accessibility/observers/observe-pictures.ts';
import { observeFieldEdges } from '../../src/core/areas/contrast/observers/observe-field-edges.ts';
import { observeLightAreas } from '../../src/core/areas/contrast/observers/observe-light-areas.ts';
import { launchChromium } from '../support/browser.ts';
import { departures, run } from '../support/facts.ts';
import { capturePage } from '../support/page-capture.ts';
import { describeWith } from '../support/paths.ts';

type Rgb = readonly [number, number, number];

/** WCAG 2.2, relative luminance and contrast ratio, written out here again. */
function ratioOf(one: Rgb, other: Rgb): number {
  const luminance = (rgb: Rgb) => {
    const [r, g, b] = rgb.map((level) => {
      const share = level / 255;
      return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
    });
    return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
  };
  const [light, dark] = [luminance(one), luminance(other)].sort((a, b) => b - a) as [number, number];
  return (light + 0.05) / (dark + 0.05);
}

/** Colours that are nearer to each other than this may be one, which losses made two of. */
const APART_LEVELS = 20;
const areApart = (colours: readonly Rgb[]): boolean =>
  colours.every((one, i) =>
    colours
      .slice(i + 1)
      .every((other) => one.some((level, at) => Math.abs(level - other[at]!) > APART_LEVELS)),
  );

const colour = fc.tuple(fc.nat(255), fc.nat(255), fc.nat(255));
const css = (rgb: Rgb): string => `rgb(${rgb.join(' ')})`;
const fieldStyle = fc.record({
  fill: colour,
  line: colour,
  how: fc.constantFrom('frame', 'underline', 'bare'),
  heightPx: fc.integer({ min: 32, max: 72 }),
  written: fc.boolean(),
});

describeWith('chromium')('looks', () => {
  let browser: Browser;
  let page: Page;
  beforeAll(async () => {
    browser = await launchChromium();
    page = await browser.newPage({ viewport: { width: 400, height: 800 } });
  });
  afterAll(() => browser.close());

  const show = async (body: string, theme: 'light' | 'dark', style = '') => {
    await page.setContent(`<style>*{box-sizing:border-box;margin:0} ${style}</style><body>${body}</body>`);
    return capturePage(page, theme);
  };

  test('what shows a field is what was drawn there', async () => {
    const sheet = fc.record({ ground: colour, fields: fc.array(fieldStyle, { minLength: 5, maxLength: 6 }) });
    await fc.assert(
      fc.asyncProperty(sheet, async ({ fields, ground }) => {
        fc.pre(
          areApart([
            ground,
            ...fields.flatMap(({ fill, how, line }) => (how === 'bare' ? [fill] : [fill, line])),
          ]),
        );
        const body = fields
          .map(({ fill, heightPx, how, line, written }, i) => {
            const border = { frame: 'border', underline: 'border-bottom', bare: 'outline' }[how];
            return `<input id="f${i}" ${written ? 'value="Ada"' : ''} style="display:block;width:300px;height:${heightPx}px;margin:24px;border:0;outline:0;border-radius:0;background:${css(fill)};${border}:${how === 'bare' ? '0' : `2px solid ${css(line)}`};color:${css(fill)}">`;
          })
          .join('');
        const evidence = await show(body, 'light', `body{background:${css(ground)}}`);
        const seen = [...observeFieldEdges.observe(evidence)];
        expect(seen.map(({ isWritten }) => isWritten)).toEqual(fields.map(({ written }) => written));
        for (const [i, { fill, how, line }] of fields.entries()) {
          const shown = [fill, ...(how === 'bare' ? [] : [line])].map((rgb) => ratioOf(rgb, ground));
          expect(seen[i]!.ratio).toBeCloseTo(Math.max(...shown), 6);
        }
      }),
      { numRuns: Number(process.env.FIELD_SHEETS ?? 15) },
    );
  });

  test.each<[what: string, body: string, found: string[]]>([
    [
      'a light panel',
      '<div id="panel" style="height:200px;background:#f4f4f4"><p>Tides</p></div>',
      ['panel'],
    ],
    [
      'a panel within a panel',
      '<div id="panel" style="height:300px;padding:20px;background:#fff"><div id="inner" style="height:150px;background:#fff"></div></div>',
      ['panel'],
    ],
    ['a dark panel', '<div id="panel" style="height:200px;background:#26323c"><p>Tides</p></div>', []],
    [
      'a button',
      '<button id="go" style="width:360px;height:56px;background:#bfe3f7;border:0"><span style="display:block;height:100%">Go</span></button>',
      [],
    ],
    [
      'a picture',
      '<div id="paper" role="img" aria-label="A code" style="width:300px;height:300px;background:#fff"></div>',
      [],
    ],
    [
      'a list of texts',
      '<p style="color:#fff;font-size:40px">Tides and times of all harbours of the isles</p>',
      [],
    ],
    [
      'a screen that is light as a whole',
      '<style>body{background:#fff !important}</style><p>Tides</p>',
      ['root'],
    ],
    [
      'a screen that is covered by a dark sheet',
      '<div id="sheet" style="height:800px;background:#111"></div><style>body{background:#fff !important}</style>',
      [],
    ],
  ])('dark theme: %s', async (_, body, found) => {
    const evidence = await show(body, 'dark', 'body{background:#10161b;color:#ddd;min-height:800px}');
    expect([...observeLightAreas.observe(evidence)].map(({ element }) => element.key)).toEqual(found);
    expect([...observeLightAreas.observe(await show(body, 'light', 'body{background:#fff}'))]).toEqual([]);
  });

  const drawn = 'background:linear-gradient(90deg,#135,#9cf 50%,#fed);';
  test.each<[what: string, body: string, found: string[]]>([
    [
      'a chart without a name',
      `<div><p>Tides</p><div id="chart" role="img" style="${drawn}width:300px;height:120px"></div></div>`,
      ['cantTell chart no-name'],
    ],
    [
      'a chart with a name',
      `<div><p>Tides</p><div role="img" aria-label="High water at two" style="${drawn}width:300px;height:120px"></div></div>`,
      [],
    ],
    [
      'a chart that is kept from readers',
      `<div><p>Tides</p><div role="img" aria-hidden="true" style="${drawn}width:300px;height:120px"></div></div>`,
      [],
    ],
    [
      'an icon beside a text',
      `<div><div id="i" role="img" style="${drawn}width:20px;height:20px"></div><p>Tides</p></div>`,
      [],
    ],
    [
      'an icon that stands alone',
      `<div><div id="i" role="img" style="${drawn}width:20px;height:20px"></div></div>`,
      ['cantTell i no-name'],
    ],
    [
      'an icon that repeats its text',
      `<div><div id="i" role="img" aria-label="tides" style="${drawn}width:20px;height:20px"></div><p>Tides</p></div>`,
      ['cantTell i read-twice'],
    ],
    [
      'a ground',
      `<div style="position:relative"><div id="g" role="img" style="${drawn}width:300px;height:120px"></div><p style="position:absolute;top:40px;left:20px">Tides</p></div>`,
      [],
    ],
    [
      'a box of one colour',
      '<div><div id="g" role="img" style="background:#eee;width:300px;height:120px"></div></div>',
      [],
    ],
    [
      'what a button holds',
      `<button aria-label="Tides"><div id="g" role="img" style="${drawn}width:300px;height:120px"></div></button>`,
      [],
    ],
  ])('pictures: %s', async (_, body, found) => {
    const evidence = await show(`<main>${body}</main>`, 'light');
    expect(departures(run(unnamedPicture, [...observePictures.observe(evidence)]))).toEqual(found);
  });
});
