/** Texts on screens, read without a single key or id: captures of the demo on the stand-in phone, with other texts in them. */
import fc from 'fast-check';
import { indexFacts } from '../../../src/core/areas/check.ts';
import { endsInEllipsis } from '../../../src/core/areas/localization/screens/find-ellipsis.ts';
import { judgeArrows } from '../../../src/core/areas/localization/screens/judge-sides.ts';
import { readTexts } from '../../../src/core/areas/localization/screens/screen-languages.ts';
import { captureObservers, packageObservers } from '../../../src/core/areas/observers-by-evidence.ts';
import { readHierarchy } from '../../../src/core/formats/android/hierarchy.ts';
import type { OpenedPackage } from '../../../src/core/formats/package.ts';
import type { Fact, SideFact } from '../../../src/core/model/fact.ts';
import { unwrap } from '../../../src/core/model/problem.ts';
import { decodeImage } from '../../../src/node/decode-image.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { column, type Element, text } from '../../../src/standins/phone/app-model.ts';
import { kelpline } from '../../../src/standins/phone/apps/kelpline/kelpline.ts';
import { startPhone } from '../../../src/standins/phone/phone.ts';
import { shapes } from '../../../src/standins/phone/shapes.ts';
import { aCell, anIntent, box, ui } from '../../support/facts.ts';
import { demoApk } from '../../support/paths.ts';
import { findingsIn, formatFindings } from '../../support/texts.ts';

const intent = anIntent({ locales: ['en', 'de', 'nb', 'pl', 'ar'] });

/** Facts of one screen, from a tree without ids, in which a test may exchange the texts. */
async function factsOf(
  opened: OpenedPackage,
  screen: string,
  locale: string,
  change: (xml: string) => string = (xml) => xml,
): Promise<Fact[]> {
  const phone = startPhone(shapes.common, opened, kelpline);
  const shown = await phone.show({ screen, locale, theme: 'light', textScale: 1 });
  const xml = change(shown.hierarchyXml.replace(/resource-id="[^"]*"/g, 'resource-id=""'));
  const evidence = {
    digest: `${screen} ${locale}`,
    capture: {
      fenlok: 'capture/1' as const,
      platform: 'android' as const,
      cell: { ...aCell, screen, locale },
      densityDpi: 480,
      picture: 'x.png',
      carries: [],
    },
    buildBasis: 'seen' as const,
    tree: unwrap(await readHierarchy('x.xml', xml)),
    pixels: await decodeImage('x.png', shown.png),
  };
  return captureObservers.flatMap((observer) => [...observer.observe(evidence)]);
}

const textsOf = ({ app }: OpenedPackage): Fact[] =>
  packageObservers.flatMap((observer) => [...observer.observe({ digest: app.digest, app })]);

const originsOf = (facts: Fact[]) =>
  readTexts(indexFacts(facts), intent).map(({ fact, key, origin }) => ({ text: fact.text, origin, key }));

test.each(['timetable', 'booking', 'tickets', 'pass', 'alerts'])(
  '%s: every text is found in the catalogue of its language, or is data',
  async (screen) => {
    await withPackage(demoApk, async (opened) => {
      for (const locale of ['en', 'de', 'ar', 'pl']) {
        const origins = originsOf([...textsOf(opened), ...(await factsOf(opened, screen, locale))]);
        expect(origins.filter(({ origin }) => origin === 'own').length).toBeGreaterThan(4);
        expect(origins.filter(({ origin }) => origin === 'source' || origin === 'hard-coded')).toEqual([]);
        // no text with a sentence in it is taken for data
        for (const { origin, text: shown } of origins)
          if (origin === 'data') expect(shown.split(' ').length).toBeLessThan(4);
      }
    });
  },
);

test('a text put back into the source language is told, with its key, whatever stands in its placeholders', async () => {
  await withPackage(demoApk, async (opened) => {
    const catalogue = textsOf(opened);
    for (const [screen, locale, own, source, key] of [
      [
        'sailing',
        'de',
        /text="Überfahrt dauert 42 Minuten"|text="[^"]*42 Minuten[^"]*"/,
        'text="Crossing time 42 minutes"',
        'sailing_duration',
      ],
      ['timetable', 'ar', /text="متأخرة [^"]*"/, 'text="15 min late"', 'status_late'],
      ['timetable', 'pl', /text="zosta[^"]*"/, 'text="1,204 seats left"', 'plurals/seats_left'],
      ['booking', 'de', /text="[^"]*bezahlen"/, 'text="PAY €17.80"', 'pay_now'],
    ] as const) {
      const facts = await factsOf(opened, screen, locale, (xml) => {
        expect(xml).toMatch(own);
        return xml.replace(own, source);
      });
      const left = originsOf([...catalogue, ...facts]).filter(({ origin }) => origin === 'source');
      expect([screen, left.map((of) => of.key)]).toEqual([screen, expect.arrayContaining([key])]);
    }
  });
});

test('a sentence that no catalogue has is estimated, a name and what was typed are not', async () => {
  await withPackage(demoApk, async (opened) => {
    const facts = await factsOf(opened, 'alerts', 'de', (xml) =>
      xml
        .replace(/text="Winterfahrplan"/, 'text="Das Schiff fährt ab Mittag"')
        .replace(/text="Das Café[^"]*"/, 'text="Ada Fjelde, Skerrin"'),
    );
    const found = findingsIn(
      [...textsOf(opened), ...facts],
      ['hard-coded-text', 'untranslated-on-screen'],
      intent,
    );
    expect(found.map(({ basis, occurrences }) => `${basis} ${occurrences[0]!.shown}`)).toEqual([
      'estimated Das Schiff fährt ab Mittag',
    ]);
  });
});

test('a text of the source language on a screen in German is found where it is drawn, and not on its own screen', async () => {
  await withPackage(demoApk, async (opened) => {
    const inEnglish = await factsOf(opened, 'timetable', 'en');
    const shown = inEnglish.flatMap((fact) =>
      fact.kind === 'screen-text' && fact.text.split(' ').length > 1 ? [fact.text] : [],
    );
    const mixed = await factsOf(opened, 'timetable', 'de', (xml) =>
      xml.replace(/text="[^"]{12,}"/, `text="${shown[0]}"`),
    );
    const found = (facts: Fact[]) =>
      formatFindings(findingsIn([...textsOf(opened), ...facts], ['untranslated-on-screen'], intent));
    expect(found(mixed)).toHaveLength(1);
    expect(found(inEnglish)).toEqual([]);
  });
});

test('an ellipsis is seen in the picture where a line was cut, and nowhere else', async () => {
  const latin = ['Hafen', 'iii...', 'Gültig,', 'Überfahrt', 'morgen:', 'Ring.'];
  const arabic = ['زورق', 'تذكرة', 'رحلة.', 'إلى', 'الرصيف'];
  await withPackage(demoApk, async (opened) => {
    await fc.assert(
      fc.asyncProperty(
        fc
          .constantFrom(latin, arabic)
          .chain((words) => fc.array(fc.constantFrom(...words), { minLength: 2, maxLength: 7 })),
        fc.integer({ min: 70, max: 330 }),
        fc.integer({ min: 11, max: 30 }),
        fc.integer({ min: 1, max: 3 }),
        async (parts, width, sizeSp, maxLines) => {
          const shown = parts.join(' ').replace(/[.…]+$/, '');
          const rtl = /\p{sc=Arabic}/u.test(shown);
          const view = (): Element =>
            column({ padding: 20 }, text(shown, { id: 't', sizeSp, width, maxLines }));
          const phone = startPhone(shapes.common, opened, {
            appId: 'example.kelpline',
            screens: { one: { activity: 'OneActivity', view, first: {} } },
          });
          const { placed, png } = await phone.show({
            screen: 'one',
            locale: rtl ? 'ar' : 'de',
            theme: 'light',
            textScale: 1,
          });
          const [line] = placed.children;
          const isCut = line!.lines.at(-1)!.endsWith('…');
          expect([shown, isCut]).toEqual([
            shown,
            endsInEllipsis(await decodeImage('x.png', png), line!.boundsPx, [], rtl),
          ]);
        },
      ),
      { numRuns: 60 },
    );
  });
});

test('a screen that is not mirrored at all is measured, one row astray is estimated, a mirrored one passes', () => {
  const tree = (mirror: boolean, astray = false) =>
    ui(
      [0, 0, 400, 800],
      {},
      ...[0, 1, 2, 3].map((i) => {
        const x = mirror && !(astray && i === 3) ? 400 - 20 - 100 : 20;
        return ui([x, 50 * i, 100, 40], { id: `row${i}`, text: 'x' });
      }),
      ui([150, 700, 100, 40], { id: 'middle', text: 'x' }),
    );
  const facts = (locale: string, of: ReturnType<typeof tree>): Fact[] => {
    const pixels = { widthPx: 400, heightPx: 800, data: new Uint8Array(400 * 800 * 4).fill(255) };
    const capture = {
      fenlok: 'capture/1' as const,
      platform: 'android' as const,
      cell: { ...aCell, locale },
      densityDpi: 160,
      picture: 'x',
      carries: [],
      tree: of,
    };
    return captureObservers.flatMap((observer) => [
      ...observer.observe({ digest: locale, capture, buildBasis: 'seen', tree: of, pixels }),
    ]);
  };
  const judged = (arabic: ReturnType<typeof tree>) => {
    const found = findingsIn([...facts('en', tree(false)), ...facts('ar', arabic)], ['not-mirrored'], intent);
    return [formatFindings(found), found[0]?.basis];
  };
  expect(judged(tree(false))).toEqual([['not-mirrored layout ar'], 'measured']);
  expect(judged(tree(true, true))).toEqual([['not-mirrored row3 ar'], 'estimated']);
  expect(judged(tree(true))).toEqual([[], undefined]);
});

describe('an arrow on a right-to-left screen', () => {
  const arrow = (points: 'left' | 'right', leftDp: number): SideFact => ({
    kind: 'side',
    cell: { ...aCell, locale: 'ar' },
    evidence: 'e',
    platform: 'ios',
    element: {
      key: 'row > UIImageView[1]',
      className: 'UIImageView',
      shown: '',
      boundsPx: box([0, 0, 9, 9]),
    },
    what: 'arrow',
    points,
    leftDp,
    rightDp: 400 - leftDp,
    topDp: 0,
    bottomDp: 9,
    roomLeftDp: 0,
    roomRightDp: 0,
  });
  test.each<[string, SideFact, SideFact[], string]>([
    ['that leads out of it is mirrored', arrow('left', 10), [], 'passed'],
    ['that leads inwards is perhaps not', arrow('left', 380), [], 'cantTell'],
    ['that led inwards before, the other way, is', arrow('left', 380), [arrow('right', 10)], 'passed'],
    ['that points as it did before is perhaps not', arrow('left', 380), [arrow('left', 10)], 'cantTell'],
  ])('%s', (_, fact, before, expected) => {
    expect([...judgeArrows([fact], before)].map(({ outcome }) => outcome)).toEqual([expected]);
  });
});
