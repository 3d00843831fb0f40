import type { Check } from '../../../src/core/areas/check.ts';
import { endedPurchase } from '../../../src/core/areas/purchases/checks/ended-purchase.ts';
import { missingPurchase } from '../../../src/core/areas/purchases/checks/missing-purchase.ts';
import { productIds } from '../../../src/core/areas/purchases/checks/product-ids.ts';
import { productOffer } from '../../../src/core/areas/purchases/checks/product-offer.ts';
import { productTexts } from '../../../src/core/areas/purchases/checks/product-texts.ts';
import { purchaseQuiet } from '../../../src/core/areas/purchases/checks/purchase-quiet.ts';
import { purchaseTerms } from '../../../src/core/areas/purchases/checks/purchase-terms.ts';
import { resoldPurchase } from '../../../src/core/areas/purchases/checks/resold-purchase.ts';
import { shownPrice } from '../../../src/core/areas/purchases/checks/shown-price.ts';
import { signedSale } from '../../../src/core/areas/purchases/checks/signed-sale.ts';
import { unfinishedPurchase } from '../../../src/core/areas/purchases/checks/unfinished-purchase.ts';
import { unpaidPurchase } from '../../../src/core/areas/purchases/checks/unpaid-purchase.ts';
import { unrestoredPurchase } from '../../../src/core/areas/purchases/checks/unrestored-purchase.ts';
import { writtenPrice } from '../../../src/core/areas/purchases/checks/written-price.ts';
import type { CatalogueTextFact, ScreenTextFact } from '../../../src/core/model/fact.ts';
import type {
  PurchaseHistoryFact,
  SignedSaleFact,
  StoreListingFact,
  StoreOfferFact,
} from '../../../src/core/model/facts/purchases.ts';
import { intentSchema } from '../../../src/core/model/intent.ts';
import { ledgerLineSchema } from '../../../src/core/model/ledger.ts';
import type { Sale } from '../../../src/core/model/sale.ts';
import { namesPeriod } from '../../../src/core/platform/purchases/find-duration.ts';
import { findMoney } from '../../../src/core/platform/purchases/find-money.ts';
import { aBuild, aCell, departures, run } from '../../support/facts.ts';

const intent = intentSchema.parse({
  fenlok: 'intent/1',
  app: { id: aBuild.appId },
  locales: ['en', 'de'],
  screens: [{ id: 'home' }, { id: 'shop' }],
  purchases: {
    products: [
      { id: 'pass.month', kind: 'subscription', period: 'P1M', screen: 'shop' },
      { id: 'no-ads', kind: 'non-consumable', screen: 'shop' },
    ],
  },
});
const of = { platform: 'android' as const, evidence: 'trace', at: '2026-11-27T10:00:00Z' };

test.each<[string, Partial<Sale>, string[]]>([
  ['all well', {}, []],
  ['its kind as meant', { productKind: 'subscription' }, []],
  ['of another kind', { productKind: 'consumable' }, ['failed sale s.jws kind']],
  ['of another app', { appId: 'example.other' }, ['failed sale s.jws other-app']],
  ['of a product that nobody meant', { product: 'pass.yaer' }, ['failed sale s.jws not-intended']],
  ['not signed by the store', { trust: { is: 'refused', why: 'x' } }, ['failed sale s.jws refused']],
  [
    'nothing to check it with',
    { trust: { is: 'unchecked', lacking: 'root' } },
    ['cantTell sale s.jws unchecked'],
  ],
  [
    'unchecked, and wrong all the same',
    { trust: { is: 'unchecked', lacking: 'root' }, appId: 'example.other' },
    ['failed sale s.jws other-app'],
  ],
])('a signed sale: %s', (_, change, expected) => {
  const sale: Sale = {
    form: 'transaction',
    trust: { is: 'verified', by: 'apple' },
    appId: aBuild.appId,
    product: 'pass.month',
    transaction: '1',
    original: '1',
    boughtAt: '2026-11-27T10:00:00.000Z',
    state: 'bought',
    ...change,
  };
  const fact: SignedSaleFact = { kind: 'signed-sale', platform: 'ios', evidence: 's', name: 's.jws', sale };
  expect(departures(run(signedSale, [fact], intent))).toEqual(expected);
});

test.each<[string, string[], string[], string[]]>([
  ['all of them', ['pass.month', 'no-ads'], ['pass.month', 'no-ads'], []],
  ['one misspelt', ['pass.mont', 'no-ads'], ['no-ads'], ['failed product pass.mont misspelt']],
  [
    'one misspelt, which the store has as well',
    ['pass.mont', 'no-ads'],
    ['pass.mont', 'no-ads'],
    ['failed product pass.mont misspelt'],
  ],
  ['one not returned', ['pass.month', 'no-ads'], ['no-ads'], ['failed product pass.month not-returned']],
  ['one never asked for', ['no-ads'], ['no-ads'], ['failed product pass.month not-asked']],
  [
    'one that nobody meant',
    ['pass.month', 'no-ads', 'gift-voucher'],
    ['pass.month', 'no-ads'],
    ['failed product gift-voucher not-intended'],
  ],
])('ids asked for: %s', (_, asked, returned, expected) => {
  const listing = (device: string): StoreListingFact => ({
    kind: 'store-listing',
    ...of,
    device,
    asked,
    returned,
  });
  // two devices that ask for the same are one finding
  expect(departures(run(productIds, [listing('one'), listing('two')], intent))).toEqual(expected);
});

const anOffer = (more: Partial<StoreOfferFact> = {}): StoreOfferFact => ({
  kind: 'store-offer',
  ...of,
  product: 'pass.month',
  productKind: 'subscription',
  name: 'Harbour pass',
  description: 'All boats',
  price: '€16.90',
  amount: 16.9,
  currency: 'EUR',
  period: 'P1M',
  locale: 'en',
  ...more,
});
const german = (more: Partial<StoreOfferFact> = {}) =>
  anOffer({ locale: 'de', name: 'Hafenpass', price: '16,90 €', ...more });

test.each<[string, Partial<StoreOfferFact>, string[]]>([
  ['as it was meant', {}, []],
  [
    'another kind',
    { productKind: 'non-consumable', period: undefined },
    ['failed product pass.month kind', 'failed product pass.month period'],
  ],
  ['another rhythm', { period: 'P1W' }, ['failed product pass.month period']],
  ['for nothing', { amount: 0, price: '€0.00' }, ['cantTell product pass.month free']],
  ['for money that does not exist', { currency: 'QQQ' }, ['failed product pass.month currency']],
])('what the store sells: %s', (_, more, expected) => {
  expect(departures(run(productOffer, [anOffer(more), anOffer({ ...more, locale: 'de' })], intent))).toEqual(
    expected,
  );
});

test.each<[string, StoreOfferFact[], string[]]>([
  ['each its own', [anOffer(), german()], []],
  [
    'a price in a name',
    [anOffer(), german({ name: 'Hafenpass 16,90 €' })],
    ['failed product pass.month price de'],
  ],
  [
    'a price in words',
    [anOffer({ description: 'Only 17 euros' }), german()],
    ['failed product pass.month price en'],
  ],
  [
    'a price in Arabic digits',
    [anOffer({ locale: 'ar', name: 'بطاقة ١٦٫٩٠ €' })],
    ['failed product pass.month price ar'],
  ],
  [
    'a duration in a name',
    [anOffer({ name: 'Pass for 3 months' }), german()],
    ['cantTell product pass.month duration en'],
  ],
  [
    'a duration in Polish',
    [anOffer({ locale: 'pl', name: 'Karnet na 3 miesiące' })],
    ['cantTell product pass.month duration pl'],
  ],
  [
    'not translated',
    [anOffer(), german({ name: 'Harbour pass' })],
    ['cantTell product pass.month untranslated de'],
  ],
  [
    'two of one name',
    [anOffer(), anOffer({ product: 'pass.year' })],
    ['failed product pass.year duplicate en'],
  ],
  [
    'not offered in a language',
    [anOffer(), german(), anOffer({ product: 'no-ads', name: 'No ads' })],
    ['failed product no-ads not-offered de'],
  ],
])('names in the store: %s', (_, offers, expected) => {
  expect(departures(run(productTexts, offers, intent))).toEqual(expected);
});

const aText = (text: string, locale = 'en', y = 100): ScreenTextFact => ({
  kind: 'screen-text',
  platform: 'android',
  evidence: 'capture',
  cell: { ...aCell, screen: 'shop', locale },
  element: {
    key: `price_${y}`,
    role: 'text',
    shown: text,
    boundsPx: { x: 0, y, width: 300, height: 40 },
  } as never,
  text,
  from: 'text',
  isField: false,
  order: 0,
});

test.each<[string, ScreenTextFact[], string[]]>([
  ['the store’s own', [aText('€16.90 a month'), aText('16,90\u00a0€ im Monat', 'de')], []],
  ['the same in another form', [aText('16.90 EUR a month')], ['failed price_100']],
  ['another amount', [aText('€14.90 a month')], ['cantTell price_100']],
  ['no money at all', [aText('Twelve boats a day, from 07:10')], []],
])('prices on the screen: %s', (_, texts, expected) => {
  expect(departures(run(shownPrice, [anOffer(), german(), ...texts], intent))).toEqual(expected);
});

test.each<[string, ScreenTextFact[], string[]]>([
  ['the period in the text', [aText('€16.90 a month')], []],
  ['the period in the next line', [aText('€16.90'), aText('every month', 'en', 150)], []],
  ['the period far away', [aText('€16.90'), aText('every month', 'en', 900)], ['cantTell price_100']],
  ['another period', [aText('€16.90 a year')], ['cantTell price_100']],
  ['in German', [aText('16,90 € monatlich', 'de')], []],
])('terms beside the price: %s', (_, texts, expected) => {
  expect(departures(run(purchaseTerms, [anOffer(), german(), ...texts], intent))).toEqual(expected);
});

test.each([
  ['Only €4.90', 1],
  ['Nur 4,90 Euro', 1],
  ['%1$s a month', 0],
  ['{0} of 3 boats', 0],
  ['Track 4 of the pilot', 0],
])('a price typed into a text: %s', (text, count) => {
  const fact = {
    kind: 'catalogue-text',
    ...of,
    catalogue: '',
    key: 'k',
    entry: 'string',
    locale: text.includes('Nur') ? 'de' : 'default',
    text,
    syntax: 'printf',
    placeholders: [],
  } as unknown as CatalogueTextFact;
  expect(departures(run(writtenPrice, [fact], intent))).toHaveLength(count);
});

test.each([
  ['en', '$1,299.00 now', 1299],
  ['de', 'für 1.299,50 €', 1299.5],
  ['nb', '59 kr', 59],
  ['pl', 'za 19,90 zł', 19.9],
  ['fr', '1 299,00 €', 1299],
  ['hi', '₹१,२९९', 1299],
  ['ja', '￥500', 500],
  ['en', 'USD 12', 12],
  ['en', '12 krauts', undefined],
])('money in %s: %s', (locale, text, amount) => {
  expect(findMoney(text, locale)[0]?.amount).toBe(amount);
});

test.each([
  ['en', 'a year', 'P1Y', true],
  ['nb', 'i året', 'P1Y', true],
  ['pl', 'rocznie', 'P1Y', true],
  ['ar', 'في السنة', 'P1Y', true],
  ['de', 'im Jahr', 'P1M', false],
])('the period in %s: %s', (locale, text, period, expected) => {
  expect(namesPeriod(text, period, locale)).toBe(expected);
});

test.each<[string, string[], number]>([
  ['nothing', [], 0],
  ['a question in the background', ['store.restored 10:02:00'], 1],
  ['one that was under way', ['store.restored 10:00:03'], 0],
  ['a question while something is owned', ['store.bought 09:00:00', 'store.restored 10:02:00'], 0],
  ['one after it was opened again', ['app.opened 10:01:00', 'store.restored 10:02:00'], 0],
])('after the app was left: %s', (_, lines, count) => {
  expect(departures(run(purchaseQuiet, [historyOf(['app.left 10:00:00', ...lines])], intent))).toHaveLength(
    count,
  );
});

const PURCHASE_CHECKS = [
  endedPurchase,
  missingPurchase,
  resoldPurchase,
  unfinishedPurchase,
  unpaidPurchase,
  unrestoredPurchase,
];
const BOUGHT = ['app.opened 09:00:00', 'purchase.asked 09:01:00', 'store.bought 09:01:05'];
const GIVEN = [...BOUGHT, 'purchase.granted 09:01:06'];
const DONE = [...GIVEN, 'store.finished 09:01:07', 'app.left 09:02:00'];

test.each<[string, Check | undefined, string[], string[]]>([
  ['sold, given, finished', undefined, DONE, []],
  [
    'never given',
    missingPurchase,
    [...DONE, 'access.now 10:00:00 products='],
    ['failed product no-ads missing'],
  ],
  [
    'never finished',
    unfinishedPurchase,
    [...GIVEN, 'app.left 23:00:00'],
    ['failed product no-ads unfinished'],
  ],
  [
    'finished before it was given',
    unfinishedPurchase,
    [...BOUGHT, 'store.finished 09:01:06', 'purchase.granted 09:01:30'],
    ['failed product no-ads finished-early'],
  ],
  [
    'given while somebody else had to agree',
    unpaidPurchase,
    [...BOUGHT.slice(0, 2), 'store.deferred 09:01:05', 'purchase.granted 09:01:06'],
    ['failed product no-ads granted-unpaid'],
  ],
  [
    'sold again',
    resoldPurchase,
    [
      ...DONE,
      'app.opened 11:00:00',
      'store.bought 11:00:10 transaction=2 original=2',
      'store.finished 11:00:11 transaction=2',
    ],
    ['failed product no-ads sold-twice'],
  ],
  [
    'kept after the money was given back',
    endedPurchase,
    [...DONE, 'store.refunded 10:00:00', 'app.opened 11:00:00', 'access.now 11:00:01', 'app.left 23:00:00'],
    ['failed product no-ads kept'],
  ],
  [
    'restored by the store, not by the app',
    unrestoredPurchase,
    [
      ...DONE,
      'store.restored 11:00:00 device=two transactions=1',
      'access.now 11:01:00 device=two products=',
    ],
    ['failed product no-ads not-restored'],
  ],
])('a purchase: %s', (_, check, lines, found) => {
  const history = historyOf(lines);
  for (const one of check ? [check] : PURCHASE_CHECKS)
    expect(departures(run(one, [history], intent))).toEqual(found);
});

/** `kind time field=value …` of each line. */
function historyOf(lines: string[]): PurchaseHistoryFact {
  const told = lines.map((line) => {
    const [kind, time, ...fields] = line.split(' ');
    const {
      products = 'no-ads',
      transactions,
      ...more
    } = Object.fromEntries(fields.map((field) => field.split('=')));
    return ledgerLineSchema.parse({
      at: `2026-11-27T${time}Z`,
      kind,
      account: 'ada',
      device: 'one',
      transactions: transactions?.split(',') ?? [],
      products: products ? products.split(',') : [],
      productKind: 'non-consumable',
      product: 'no-ads',
      transaction: '1',
      original: '1',
      ...more,
    });
  });
  return { kind: 'purchase-history', ...of, deviceId: 'one', cell: aCell, lines: told };
}
