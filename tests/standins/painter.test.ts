/** The stand-in phone's screens: what is painted is what was asked for, and what is measured in it is true. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { smallTarget } from '../../src/core/areas/accessibility/checks/small-target.ts';
import type { Check } from '../../src/core/areas/check.ts';
import { textContrast } from '../../src/core/areas/contrast/checks/text-contrast.ts';
import { contrastRatio, parseHex, type Rgb } from '../../src/core/areas/contrast/colour.ts';
import { measureText } from '../../src/core/areas/contrast/pixels/measure-text.ts';
import { estimateTextSize } from '../../src/core/areas/contrast/pixels/text-size.ts';
import { readHierarchy } from '../../src/core/formats/android/hierarchy.ts';
import type { Cell } from '../../src/core/model/cell.ts';
import type { Fact } from '../../src/core/model/fact.ts';
import { placeNodes } from '../../src/core/model/ui-tree.ts';
import { decodeImage } from '../../src/node/decode-image.ts';
import { withPackage } from '../../src/node/read-package.ts';
import { kelpline } from '../../src/standins/phone/apps/kelpline/kelpline.ts';
import { type Phone, startPhone } from '../../src/standins/phone/phone.ts';
import type { Placed } from '../../src/standins/phone/screen/layout.ts';
import { shapes } from '../../src/standins/phone/shapes.ts';
import { departures, observeScreen, run } from '../support/facts.ts';
import { demoApk, demoFolder } from '../support/paths.ts';

const cells = kelplineCells([
  ['en', 'light'],
  ['en', 'dark'],
  ['pl', 'light'],
  ['ar', 'dark'],
]);

function kelplineCells(settings: [locale: string, theme: Cell['theme']][]) {
  return Object.keys(kelpline.screens).flatMap((screen) =>
    settings.map(([locale, theme]) => ({ screen, locale, theme, textScale: 1 })),
  );
}

const onPhone = <T>(use: (phone: Phone) => Promise<T>, shape: keyof typeof shapes = 'common') =>
  withPackage(demoApk, (apk) => use(startPhone(shapes[shape], apk, kelpline)));

/** Colours as the sources write them, not as the package reader reads them. */
function sourceColours(theme: Cell['theme']): Map<string, Rgb> {
  const read = (folder: string) =>
    [
      ...readFileSync(join(demoFolder, `android/res/${folder}/colors.xml`), 'utf8').matchAll(
        /<color name="(\w+)">(#\w+)</g,
      ),
    ].map(([, name, hex]) => [name!, parseHex(hex!)!] as const);
  return new Map([...read('values'), ...(theme === 'dark' ? read('values-night') : [])]);
}

/** Every text of a screen with the colour resource behind it: that of its nearest ancestor, or its own. */
function textsOf(placed: Placed, background = 'surface'): { placed: Placed; background: string }[] {
  const own = placed.element.style.background ?? background;
  const here = placed.element.kind === 'text' ? [{ placed, background: own }] : [];
  return [...here, ...placed.children.flatMap((child) => textsOf(child, own))];
}

test('flat text of 12 dp and more measures within 2 % of the ratio of its colours, on every screen', async () => {
  const errors: { where: string; errorPercent: number }[] = [];
  await onPhone(async (phone) => {
    for (const cell of cells) {
      const { png, placed } = await phone.show(cell);
      const pixels = await decodeImage('screen.png', png);
      const colours = sourceColours(cell.theme);
      for (const { placed: text, background } of textsOf(placed)) {
        if (text.element.kind !== 'text' || text.element.text === '' || text.element.sizeSp < 12) continue;
        const truth = contrastRatio(colours.get(text.element.colour)!, colours.get(background)!);
        const seen = measureText(pixels, text.boundsPx, []);
        const ratio = typeof seen === 'string' ? Number.NaN : seen.ratio;
        errors.push({
          where: `${cell.screen} ${cell.theme} ${cell.locale} “${text.element.text}”`,
          errorPercent: Math.abs(ratio / truth - 1) * 100,
        });
      }
    }
  });
  expect(errors.length).toBeGreaterThan(250);
  expect(errors.filter(({ errorPercent }) => !(errorPercent <= 2))).toEqual([]);
});

test('on a small phone, where rows are cut, nothing is measured wrongly: only planted colours fail', async () => {
  const facts: Fact[] = [];
  await onPhone(async (phone) => {
    for (const cell of cells) {
      const { hierarchyXml, png } = await phone.show(cell);
      const tree = await readHierarchy('screen.xml', hierarchyXml);
      if (!tree.ok) throw new Error(tree.problem.found);
      const pixels = await decodeImage('screen.png', png);
      facts.push(...observeScreen(tree.value, { pixels, cell, densityDpi: phone.shape.densityDpi }));
    }
  }, 'small');
  const failed = (check: Check) =>
    [...new Set(departures(run(check, facts)).filter((departure) => departure.startsWith('failed')))].sort();
  expect(failed(textContrast)).toEqual([
    'failed badge light',
    'failed notice_text dark',
    'failed ticket_deck light',
  ]);
  expect(failed(smallTarget)).toEqual(['failed passengers_minus', 'failed passengers_plus']);
});

test('the estimated size of nearly every Latin text holds its true size', async () => {
  let held = 0;
  let all = 0;
  await onPhone(async (phone) => {
    for (const cell of kelplineCells([
      ['en', 'light'],
      ['pl', 'light'],
    ])) {
      const { png, placed } = await phone.show(cell);
      const pixels = await decodeImage('screen.png', png);
      for (const { placed: text } of textsOf(placed)) {
        const seen = measureText(
          pixels,
          text.boundsPx,
          [],
          text.element.kind === 'text' ? text.element.text : '',
        );
        if (text.element.kind !== 'text' || typeof seen === 'string') continue;
        const [lowest, highest] = estimateTextSize(text.element.text, seen).map((px) => px / 3) as [
          number,
          number,
        ];
        all += 1;
        if (lowest <= text.element.sizeSp && text.element.sizeSp <= highest) held += 1;
      }
    }
  });
  expect(held / all).toBeGreaterThan(0.97);
});

test('the dump says what is on the screen, in pixels, in every language and on every shape', async () => {
  for (const shape of ['common', 'small'] as const)
    await onPhone(async (phone) => {
      for (const locale of ['en', 'ar']) {
        const { hierarchyXml, placed, png } = await phone.show({
          screen: 'booking',
          locale,
          theme: 'light',
          textScale: 1,
        });
        const result = await readHierarchy('screen.xml', hierarchyXml);
        if (!result.ok) throw new Error(result.problem.found);
        const texts = placeNodes(result.value).filter(({ node }) => node.text);
        expect(texts.length).toBeGreaterThan(8);
        for (const { placed: text } of textsOf(placed).filter(
          ({ placed: { element } }) => element.id && element.kind === 'text',
        ))
          expect(texts.find(({ node }) => node.id === text.element.id)?.node.bounds ?? text.boundsPx).toEqual(
            text.boundsPx,
          );
        const pixels = await decodeImage('screen.png', png);
        expect([pixels.widthPx, pixels.heightPx]).toEqual([phone.shape.widthPx, phone.shape.heightPx]);
      }
    }, shape);
});

test('Arabic is mirrored, larger text takes more room, and night swaps the colours', async () => {
  await onPhone(async (phone) => {
    const swap = async (settings: Partial<Cell>) => {
      const { hierarchyXml } = await phone.show({
        screen: 'timetable',
        locale: 'en',
        theme: 'light',
        textScale: 1,
        ...settings,
      });
      const tree = await readHierarchy('x', hierarchyXml);
      if (!tree.ok) throw new Error(tree.problem.found);
      const find = (id: string) => placeNodes(tree.value).find(({ node }) => node.id === id)!.node.bounds;
      return { swap: find('swap_direction'), title: find('title') };
    };
    const [english, arabic, large] = [
      await swap({}),
      await swap({ locale: 'ar' }),
      await swap({ textScale: 2 }),
    ];
    expect(english.swap.x).toBeGreaterThan(540);
    expect(arabic.swap.x + arabic.swap.width).toBeLessThan(540);
    expect(large.title.height).toBeGreaterThan(english.title.height * 1.9);
    const [light, dark] = await Promise.all(
      (['light', 'dark'] as const).map(async (theme) =>
        decodeImage('x', (await phone.show({ screen: 'sailing', locale: 'en', theme, textScale: 1 })).png),
      ),
    );
    expect([...light!.data.slice(0, 3)]).toEqual([...parseHex('#f3f7f6')!]);
    expect([...dark!.data.slice(0, 3)]).toEqual([...parseHex('#0d1719')!]);
  });
});

test('a screen that the app does not have is refused by name', async () => {
  await expect(
    onPhone((phone) => phone.show({ screen: 'nowhere', locale: 'en', theme: 'light', textScale: 1 })),
  ).rejects.toThrow(/no screen nowhere; it has timetable/);
});

test('what lies beyond the display is not drawn: every screen, small, sideways and at 200 %', async () => {
  await onPhone(async (phone) => {
    for (const screen of phone.screens)
      for (const orientation of ['portrait', 'landscape'] as const) {
        const shown = await phone.show({ screen, locale: 'de', theme: 'dark', textScale: 2, orientation });
        const { heightPx, widthPx } = await decodeImage('screen.png', shown.png);
        const [short, long] = [shapes.small.widthPx, shapes.small.heightPx];
        expect([screen, widthPx, heightPx]).toEqual([
          screen,
          ...(orientation === 'portrait' ? [short, long] : [long, short]),
        ]);
      }
  }, 'small');
});
