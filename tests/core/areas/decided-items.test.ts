/** Items that waited for a person and are decided by a check now: by a defect, without it, and without evidence. */
import fc from 'fast-check';
import { declaredUnseen } from '../../../src/core/areas/candidate/checks/declared-unseen.ts';
import { seenUndeclared } from '../../../src/core/areas/candidate/checks/seen-undeclared.ts';
import { localFormat } from '../../../src/core/areas/localization/checks/local-format.ts';
import { judgeFacts } from '../../../src/core/checklist/judge-facts.ts';
import type { CaptureFact, Fact, ScreenTextFact, StopFact } from '../../../src/core/model/fact.ts';
import type { PushRunFact } from '../../../src/core/model/facts/push.ts';
import { type Intent, intentSchema } from '../../../src/core/model/intent.ts';
import { aBuild, aCell, anIntent, box, departures, observeApp, run } from '../../support/facts.ts';

const at = (of: Partial<typeof aCell>) => ({
  cell: { ...aCell, ...of },
  evidence: 'e1',
  platform: 'android' as const,
});

const capture = (of: Partial<CaptureFact> = {}): CaptureFact => ({
  kind: 'capture',
  ...at({}),
  widthPx: 720,
  heightPx: 1280,
  densityDpi: 320,
  elementCount: 3,
  toolkit: 'views',
  buildBasis: 'seen',
  ...of,
});

const stop = (
  name: string,
  order: number,
  bounds: [number, number, number, number],
  locale = 'en',
): StopFact => ({
  kind: 'stop',
  ...at({ locale }),
  element: { key: name, className: 'TextView', shown: name, boundsPx: box(bounds) },
  toolkit: 'views',
  order,
  actionable: false,
  enabled: true,
  name,
  nameFrom: 'text',
  roles: [],
  states: [],
  drawn: [name],
  isField: false,
  isPicture: false,
  hasState: false,
});

const text = (words: string, locale: string, of: Partial<ScreenTextFact> = {}): ScreenTextFact => ({
  kind: 'screen-text',
  ...at({ locale }),
  element: { key: 'price', className: 'TextView', shown: words, boundsPx: box([0, 0, 99, 20]) },
  text: words,
  from: 'text',
  isField: false,
  order: 0,
  ...of,
});

const push = (status: number, reason?: string): PushRunFact => ({
  kind: 'push-run',
  ...at({ procedure: 'push' }),
  at: '2026-11-20T10:00:00Z',
  deviceId: 'd',
  message: 'delay',
  state: 'front',
  status,
  ...(reason !== undefined && { reason }),
  told: true,
  tapped: false,
  landed: '',
  inApp: true,
  left: 0,
});

const element = (key: string) => ({ key, className: 'View', shown: '', boundsPx: box([0, 0, 99, 20]) });

const icon = (ratio: number): Fact => ({
  kind: 'icon-contrast',
  ...at({}),
  element: element('star'),
  enabled: true,
  meant: true,
  ratio,
  interval: [ratio, ratio],
  foreground: '#777777',
  background: '#ffffff',
});

const field = (ratio: number, isWritten: boolean): Fact => ({
  kind: 'field-edge',
  ...at({}),
  element: element('note'),
  enabled: true,
  isWritten,
  ratio,
  shownBy: 'line',
  colour: '#cccccc',
  around: '#ffffff',
});

const lightArea: Fact = {
  kind: 'light-area',
  ...at({ theme: 'dark' }),
  evidence: 'dark',
  element: element('panel'),
  colour: '#ffffff',
  luminance: 1,
  share: 0.3,
};
const dark = capture({ ...at({ theme: 'dark' }), evidence: 'dark' });

const picture = (name: string): Fact => ({
  kind: 'picture',
  ...at({}),
  element: element('chart'),
  name,
  isHidden: false,
  widthDp: 300,
  heightDp: 120,
  beside: ['Tides'],
  over: 0,
  isDrawn: true,
});

/** On one colour, so that it is as it was chosen. */
const word = (foreground: string, background: string, ratio: number): Fact => ({
  kind: 'text-contrast',
  ...at({}),
  element: { ...element('mark'), shown: 'late' },
  enabled: true,
  ratio,
  interval: [ratio, ratio],
  foreground,
  background,
  reached: 1,
  behind: 'flat',
  meanRatio: ratio,
  sizeFrom: 'tree',
  textSizeDp: [16, 16],
  bold: false,
  glyphDp: 12,
  stemDp: 1,
  runDp: 40,
  linesDp: [12],
});

const shownIn = (channel: string): PushRunFact => ({
  ...push(200),
  shown: { channel, title: 'Late', text: '', actions: [] },
});
/** An app with activities of these full names. */
const app = (...names: string[]): Fact[] =>
  observeApp({
    components: names.map((name) => ({
      type: 'activity',
      name,
      exported: false,
      enabled: true,
      filters: [],
      metaData: [],
    })),
  });

const phone = { name: 'small phone', densityDpi: 320, widthDp: 360, heightDp: 640 };
const tablet = { name: 'tablet', densityDpi: 240, widthDp: 800, heightDp: 1280 };
const planned: Partial<Intent> = {
  locales: ['en', 'de'],
  coverage: intentSchema.parse({
    fenlok: 'intent/1',
    app: { id: aBuild.appId },
    screens: [{ id: 'home' }],
    coverage: [{ locales: ['en'], themes: ['light'] }],
  }).coverage,
  screens: intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId }, screens: [{ id: 'home' }] })
    .screens,
};

const table: [item: string, defect: Fact[], sound: Fact[], intent?: Partial<Intent>][] = [
  ['candidate.evidence-of-this-build', [capture({ buildBasis: 'asserted' })], [capture()]],
  [
    'candidate.devices',
    [capture()],
    [capture(), capture({ widthPx: 1920, heightPx: 1200, densityDpi: 240 })],
    { devices: [phone, tablet] },
  ],
  [
    'a11y.reading-order',
    [capture(), stop('price', 1, [0, 100, 200, 40]), stop('title', 2, [0, 20, 200, 40])],
    [capture(), stop('title', 1, [0, 20, 200, 40]), stop('price', 2, [0, 100, 200, 40])],
  ],
  ['l10n.formats', [capture(), text('€17.80', 'de')], [capture(), text('17,80 €', 'de')]],
  ['a11y.images', [capture(), picture('')], [capture(), picture('High water at two')]],
  [
    'a11y.inversion',
    // red on black is cyan on white
    [capture(), word('#ff0000', '#000000', 5.25)],
    [capture(), word('#ffffff', '#000000', 21)],
  ],
  [
    'a11y.colour-vision',
    [capture(), word('#c00000', '#ffffff', 6.5), word('#5a6a00', '#ffffff', 6)],
    [capture(), word('#000000', '#ffffff', 21), word('#0000c0', '#ffffff', 12)],
  ],
  ['contrast.icons', [capture(), icon(5), field(1.5, false)], [capture(), icon(5), field(3.5, false)]],
  ['contrast.dark-theme', [...app(), capture(), dark, lightArea], [...app(), capture(), dark]],
  ['candidate.as-declared', [...app(), capture()], [...app(), capture(), capture(at({ locale: 'de' }))]],
  ['push.scripted', [push(403, 'SENDER_ID_MISMATCH')], [push(200)]],
];

test.each(table)('%s', (item, defect, sound, ...[intent]) => {
  const outcomeOf = (facts: Fact[]) =>
    judgeFacts(facts, {
      candidate: { platform: 'android', name: 'App', build: aBuild },
      intent: anIntent({ ...planned, ...intent }),
    }).items.find(({ id }) => id === item)!.outcome;
  expect(['failed', 'cantTell']).toContain(outcomeOf(defect));
  expect(outcomeOf(sound)).toBe('passed');
  expect(outcomeOf([])).toBe('untested');
});

const withIntent = (of: object): Intent =>
  intentSchema.parse({ fenlok: 'intent/1', app: { id: aBuild.appId }, ...of });
const oneScreen = { screens: [{ id: aCell.screen, activity: 'HomeActivity' }] };
const linkRun = (route: string) => ({ kind: 'link-run', ...at({}), route }) as Fact;
const adLoad = (placement: string) => ({ kind: 'ad-load', ...at({}), placement }) as Fact;

test.each<[what: string, facts: Fact[], intent: object, unseen: string[], undeclared: string[]]>([
  ['all as declared', [capture(), ...app('example.app.HomeActivity')], oneScreen, [], []],
  [
    'a screen that nobody captured, and one that nobody declared',
    [capture(at({ screen: 'refund' }))],
    { screens: [{ id: 'refunds' }] },
    ['cantTell screen refunds'],
    ['cantTell screen refund'],
  ],
  ['another language, where the intent file names none', [capture(at({ locale: 'de' }))], oneScreen, [], []],
  [
    'a region of a language that is declared',
    [capture(at({ locale: 'de-AT' })), capture(at({ locale: 'en-US' }))],
    { ...oneScreen, locales: ['en', 'de'] },
    [],
    [],
  ],
  [
    'a language that nobody declared',
    [capture(), capture(at({ locale: 'fr' }))],
    { ...oneScreen, locales: ['en'] },
    [],
    ['cantTell language fr'],
  ],
  ['captures without an intent file', [capture(at({ screen: 'refund' }))], {}, [], []],
  [
    'an activity of its own, and one of a library',
    [capture(), ...app('example.app.HomeActivity', 'example.app.RefundActivity', 'com.ads.AdActivity')],
    oneScreen,
    [],
    ['cantTell activity example.app.RefundActivity'],
  ],
  [
    'an app of one activity',
    [capture(), ...app('example.app.MainActivity')],
    { screens: [{ id: aCell.screen }] },
    [],
    [],
  ],
  [
    'a route and a placement of another name',
    [capture(), linkRun('tickets'), adLoad('banner')],
    {
      ...oneScreen,
      links: { routes: [{ id: 'ticket', url: '/t', screen: aCell.screen }] },
      ads: { placements: [{ id: 'top', format: 'banner', waterfall: [{ network: 'n' }] }] },
    },
    ['cantTell route ticket', 'cantTell ad placement top'],
    ['cantTell route tickets', 'cantTell ad placement banner'],
  ],
  [
    'a channel',
    [capture(), shownIn('misc')],
    { ...oneScreen, push: { channels: ['delays'] } },
    ['cantTell channel delays'],
    ['cantTell channel misc'],
  ],
  [
    'no drill of links yet',
    [capture()],
    { ...oneScreen, links: { routes: [{ id: 't', url: '/t', screen: aCell.screen }] } },
    [],
    [],
  ],
])('intent against evidence: %s', (_, facts, intent, unseen, undeclared) => {
  expect(departures(run(declaredUnseen, facts, withIntent(intent)))).toEqual(unseen);
  expect(departures(run(seenUndeclared, facts, withIntent(intent)))).toEqual(undeclared);
});

test('what nobody looked for is untested, and not unseen', () => {
  const routes = { links: { routes: [{ id: 't', url: '/t', screen: aCell.screen }] } };
  expect(run(declaredUnseen, [capture()], withIntent({ ...oneScreen, ...routes }))).toContainEqual({
    outcome: 'untested',
    because: expect.stringContaining('fenlok drill links'),
  });
});

test('without devices in the intent file nothing is said of them', () => {
  const { items } = judgeFacts([capture()], {
    candidate: { platform: 'android', name: 'App', build: aBuild },
    intent: anIntent(planned),
  });
  expect(items.find(({ id }) => id === 'candidate.devices')).toMatchObject({
    outcome: 'untested',
    why: expect.stringContaining('fenlok.yaml names no devices'),
  });
});

const jumps = (stops: StopFact[]) =>
  judgeFacts([capture(), ...stops], {
    candidate: { platform: 'android', name: 'App', build: aBuild },
    intent: anIntent(planned),
  })
    .findings.filter(({ check }) => check === 'reading-order')
    .map(({ identity, occurrences }) => `${identity.subject} ${occurrences[0]!.data.jump}`);

test.each<[string, StopFact[], string[]]>([
  [
    'two columns',
    [stop('a', 1, [0, 0, 90, 40]), stop('b', 2, [0, 60, 90, 40]), stop('c', 3, [100, 0, 90, 40])],
    [],
  ],
  ['one within the other', [stop('card', 1, [0, 0, 200, 90]), stop('cross', 2, [160, 0, 40, 40])], []],
  ['a row, backwards', [stop('b', 1, [100, 0, 90, 40]), stop('a', 2, [0, 0, 90, 40])], ['a back']],
  ['a row in Arabic', [stop('b', 1, [100, 0, 90, 40], 'ar'), stop('a', 2, [0, 0, 90, 40], 'ar')], []],
  [
    'a row in Arabic, backwards',
    [stop('a', 1, [0, 0, 90, 40], 'ar'), stop('b', 2, [100, 0, 90, 40], 'ar')],
    ['b back'],
  ],
])('the order of %s', (_, stops, expected) => {
  expect(jumps(stops)).toEqual(expected);
});

test.each<[locale: string, words: string, outcome: string | undefined]>([
  ['de', 'ab 1.234,50 € im Jahr', 'passed'],
  ['de', 'ab 1,234.50 € im Jahr', 'cantTell'],
  ['pl', 'Cena: 8.90 zł', 'cantTell'],
  ['pl', 'Cena: 8,90 zł', 'passed'],
  ['en', '$1,234.50', 'passed'],
  ['en', '$8,90', 'cantTell'],
  // Mexico writes a point, Spain a comma
  ['es', '8.90 €', undefined],
  ['es-ES', '8.90 €', 'cantTell'],
  ['de', 'Version 2.4.0 und 12.5 km', undefined],
  ['de', 'am 23.11.2026', 'passed'],
  ['de', 'am 11/23/2026', 'cantTell'],
  ['de', 'am 2026-11-23', 'cantTell'],
  ['sv', '2026-11-23', 'passed'],
  ['en', '23/11/2026 or 11/23/2026', undefined],
  ['en-US', '23/11/2026', 'cantTell'],
  ['en-GB', '23/11/2026', 'passed'],
  ['de', 'um 6:40 PM', 'cantTell'],
  ['en-US', 'at 6:40 PM', undefined],
  ['de', '192.168.10.20', undefined],
  ['de', 'Spielstand 3:2, 12/20 Plätze', undefined],
])('%s: %s is %s', (locale, words, outcome) => {
  expect(run(localFormat, [capture(), text(words, locale)])[0]?.outcome).toBe(outcome);
});

test('what a language itself writes is never called foreign', () => {
  const day = fc.date({ min: new Date('2000-01-01'), max: new Date('2060-01-01'), noInvalidDate: true });
  const locales = [
    'de',
    'fr',
    'pl',
    'nb',
    'sv',
    'it',
    'nl',
    'cs',
    'fi',
    'hu',
    'ja',
    'ko',
    'tr',
    'uk',
    'en-US',
    'en-GB',
    'es-MX',
    'pt-BR',
    'de-CH',
    'fr-CA',
  ];
  fc.assert(
    fc.property(
      fc.constantFrom(...locales),
      fc.constantFrom('EUR', 'USD', 'PLN', 'NOK', 'GBP'),
      fc.double({ min: 0, max: 99_999, noNaN: true }),
      day,
      (locale, currency, amount, date) => {
        const money = new Intl.NumberFormat(locale, { style: 'currency', currency }).format(amount);
        const written = new Intl.DateTimeFormat(locale, {
          year: 'numeric',
          month: '2-digit',
          day: '2-digit',
        }).format(date);
        const time = new Intl.DateTimeFormat(locale, { hour: 'numeric', minute: '2-digit' }).format(date);
        const found = run(localFormat, [capture(), text(`x ${money} y ${written} z ${time}`, locale)]);
        expect(found.filter((one) => one.outcome !== 'passed')).toEqual([]);
      },
    ),
    { numRuns: Number(process.env.FORMAT_RUNS ?? 400), endOnFailure: true },
  );
});
