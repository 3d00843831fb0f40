/** What devices pick: written cases, newer qualifiers that the library of Android 10 does not know, and the checks. */
import type { VariedResourceFact } from '../../../src/core/model/fact.ts';
import { parseConfig } from '../../../src/core/platform/android/parse-config.ts';
import { formatConfig } from '../../../src/core/platform/android/resource-config.ts';
import { scaleFactor, selectVariant } from '../../../src/core/platform/android/select-variant.ts';
import { type DeviceSettings, targetDevice } from '../../../src/core/platform/android/target-device.ts';
import { selectLocalization, selectScale } from '../../../src/core/platform/apple/select-localization.ts';
import { explainVariants } from '../../../src/core/reports/variant-table.ts';
import { anIntent } from '../../support/facts.ts';
import { findingsIn, formatFindings } from '../../support/texts.ts';

const phone: DeviceSettings = { locale: 'de', densityDpi: 480 };

test.each<[name: string, device: Partial<DeviceSettings>, variants: string, expected: string]>([
  ['language outranks density', { densityDpi: 120 }, ',ldpi,de-xhdpi', 'de-xhdpi'],
  ['and the cure is both in one', { densityDpi: 120 }, ',ldpi,de-xhdpi,de-ldpi', 'de-ldpi'],
  ['the larger of two is scaled down', { densityDpi: 240 }, 'mdpi,xhdpi', 'xhdpi'],
  ['but not if the smaller is much nearer', { densityDpi: 213 }, 'hdpi,xxxhdpi', 'hdpi'],
  ['what needs no scaling beats them', { densityDpi: 480 }, 'xxhdpi,anydpi', 'anydpi'],
  ['the withdrawn code of a language', { locale: 'he' }, ',iw', 'iw'],
  ['Filipino by its older name', { locale: 'fil-PH' }, ',tl', 'tl'],
  ['another script is another language', { locale: 'sr-Latn' }, ',sr', ''],
  [
    'grammatical gender (Android 14) before the direction',
    { gender: 'feminine' },
    ',ldltr,feminine',
    'feminine',
  ],
  ['of another gender', { gender: 'neuter' }, ',feminine', ''],
  ['gender after the language', { gender: 'feminine' }, 'feminine,de', 'de'],
  ['a car is no television', { uiMode: 'car' }, ',television,car', 'car'],
  ['night after smallest width', { night: true, widthDp: 700, heightDp: 900 }, 'night,sw600dp', 'sw600dp'],
])('%s', (_, device, variants, expected) => {
  const configs = variants.split(',').map((name) => parseConfig(name)!);
  const chosen = selectVariant({ configs: () => configs }, targetDevice({ ...phone, ...device }));
  expect(formatConfig(configs[chosen!]!)).toBe(expected);
});

test('why each other candidate lost, and what would serve the device better', () => {
  const candidates = ['', 'ldpi', 'de-xhdpi', 'night', 'fr'].map((name) => ({
    config: parseConfig(name)!,
    holds: `res/${name}.png`,
    isPicture: true,
  }));
  const { remedy, rows } = explainVariants(
    'drawable/poster',
    candidates,
    targetDevice({ locale: 'de', densityDpi: 120 }),
  );
  expect(rows.map(({ fate, variant, why }) => `${fate} ${variant}: ${why}`)).toEqual([
    'chosen de-xhdpi: this one is used',
    'beaten : density: ldpi has ldpi, this one mdpi (no density), for a device of 120 dpi',
    'beaten ldpi: language: de-xhdpi has de, this one names none',
    'excluded night: night: it is for night, the device has notnight',
    'excluded fr: language: it is for fr, the device has de',
  ]);
  expect(rows[0]!.scale).toBeCloseTo(0.375);
  expect(remedy).toBe(
    'ldpi has the density of this device, but other qualifiers count before density. Add drawable-de-ldpi.',
  );
});

test.each([
  [0, 320, 2],
  [480, 480, 1],
  [640, 320, 0.5],
  [0xfffe, 640, 1],
  [0xffff, 640, 1],
])('a picture of %s on %s dpi is scaled by %s', (picture, device, factor) => {
  expect(scaleFactor(picture, device)).toBe(factor);
});

test.each([
  [['en', 'de', 'fr'], ['de-AT'], 'de'],
  [['en', 'zh-Hant', 'zh-Hans'], ['zh-HK'], 'zh-Hant'],
  [['en', 'pt-BR'], ['pt-PT'], 'pt-BR'],
  [['en', 'zh-Hans'], ['zh-Hant-TW', 'fr'], 'en'],
  [['en', 'fr'], ['ja', 'fr'], 'fr'],
])('iOS: of %s, for %s', (available, preferred, expected) => {
  expect(selectLocalization(available, preferred, 'en')).toBe(expected);
});

test.each([
  [[1, 2, 3], 3, 3],
  [[1, 2], 3, 2],
  [[2, 3], 1, 2],
  [[], 2, undefined],
])('iOS: of scales %s at @%sx', (available, at, expected) => {
  expect(selectScale(available, at)).toBe(expected);
});

type Form = string | [qualifiers: string, widthPx: number, heightPx: number];
const varied = (
  name: string,
  forms: Form[],
  platform: 'android' | 'ios' = 'android',
): VariedResourceFact => ({
  kind: 'varied-resource',
  platform,
  evidence: 'package',
  name,
  minSdk: 26,
  forms: forms.map((form) =>
    typeof form === 'string'
      ? { qualifiers: form }
      : { qualifiers: form[0], file: `res/${form[0]}.png`, widthPx: form[1], heightPx: form[2] },
  ),
});

const LADDER: Form[] = [
  ['ldpi', 36, 36],
  ['mdpi', 48, 48],
  ['tvdpi', 64, 64],
  ['hdpi', 72, 72],
  ['xhdpi', 96, 96],
  ['xxhdpi', 144, 144],
  ['xxxhdpi', 192, 192],
];

test.each<[string, VariedResourceFact, string[]]>([
  ['a whole ladder', varied('d/a', LADDER), []],
  ['a drawing for every density', varied('d/a', ['']), []],
  ['only sideways', varied('d/a', ['land']), ['missing-default d/a']],
  ['only from a later version on', varied('d/a', ['v33']), ['missing-default d/a']],
  ['only one density', varied('d/a', [['mdpi', 48, 48]]), ['blurred-picture d/a']],
  ['one step up is let be', varied('d/a', [['xxhdpi', 144, 144]]), []],
  [
    'sizes that depart',
    varied('d/a', [...LADDER.slice(0, 5), ['xxhdpi', 150, 144]]),
    ['picture-size d/a xxhdpi'],
  ],
  [
    'half pixels are rounded',
    varied('d/a', [
      ['mdpi', 25, 25],
      ['hdpi', 38, 37],
      ['xxxhdpi', 100, 100],
    ]),
    [],
  ],
  [
    'another language may have another size',
    varied('d/a', [...LADDER, ['de-mdpi', 60, 48], ['de-xxxhdpi', 240, 192]]),
    ['lost-variant d/a density'],
  ],
  ['a language without the night', varied('d/a', ['', 'night', 'de']), ['lost-variant d/a night']],
  ['a language with the night', varied('d/a', ['', 'night', 'de', 'de-night']), []],
  [
    'a network without the language',
    varied('string/a', ['', 'de', 'mcc262']),
    ['lost-variant string/a translation'],
  ],
  ['a network with it', varied('string/a', ['', 'de', 'mcc262', 'mcc262-de']), []],
  [
    'iOS scales',
    varied(
      'logo',
      [
        ['@1x', 20, 20],
        ['@2x', 40, 40],
        ['@3x', 66, 60],
      ],
      'ios',
    ),
    ['picture-size logo @3x'],
  ],
])('%s', (_, fact, expected) => {
  const found = findingsIn([fact], 'resources', anIntent({ locales: ['en', 'de'] }));
  expect(formatFindings(found)).toEqual(expected);
});
