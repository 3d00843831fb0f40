/** Listings against what stores take: texts in every way of counting, words, languages, pictures. */
import fc from 'fast-check';
import { listingLanguage } from '../../../src/core/areas/listing/checks/listing-language.ts';
import { listingPicture } from '../../../src/core/areas/listing/checks/listing-picture.ts';
import { listingText } from '../../../src/core/areas/listing/checks/listing-text.ts';
import { listingWord } from '../../../src/core/areas/listing/checks/listing-word.ts';
import { judgeFacts } from '../../../src/core/checklist/judge-facts.ts';
import type { Fact } from '../../../src/core/model/fact.ts';
import type { ListingFact } from '../../../src/core/model/facts/listing.ts';
import type { ListingPicture } from '../../../src/core/model/listing.ts';
import { aBuild, anIntent, departures, observeApp, run } from '../../support/facts.ts';

interface Of {
  locale?: string;
  texts?: Partial<ListingFact['texts']>;
  addresses?: Partial<ListingFact['addresses']>;
  pictures?: ListingPicture[];
}

const picture = (of: Partial<ListingPicture>): ListingPicture => ({
  role: 'phone',
  file: 'a.png',
  sha256: '0',
  widthPx: 1080,
  heightPx: 1920,
  format: 'png',
  hasAlpha: false,
  space: 'srgb',
  frames: 1,
  sizeBytes: 1000,
  ...of,
});
const icon = picture({ role: 'icon', widthPx: 512, heightPx: 512, hasAlpha: true });
const banner = picture({ role: 'banner', widthPx: 1024, heightPx: 500 });

const listing = (store: ListingFact['store'], of: Of = {}): ListingFact => ({
  kind: 'listing',
  platform: store === 'google-play' ? 'android' : 'ios',
  evidence: `${store} ${of.locale ?? 'en'}`,
  store,
  locale: of.locale ?? 'en',
  name: 'a.yaml',
  texts: {
    name: 'Kelpline',
    short: 'Ferries',
    full: 'All of them.',
    news: '',
    promotion: '',
    keywords: '',
    ...of.texts,
  },
  addresses: { privacy: 'https://kelpline.example/p', support: '', mail: '', ...of.addresses },
  pictures: of.pictures ?? [icon, banner, picture({}), picture({})],
});
const play = (of?: Of) => listing('google-play', of);
const apple = (of?: Of) =>
  listing('app-store', { pictures: [picture({ widthPx: 1320, heightPx: 2868 })], ...of });

// two code points, one letter; one letter of five code points and seven units
const ACCENT = 'e\u0301';
const FAMILY = '👨‍👩‍👧';

test.each<[what: string, fact: ListingFact, found: string[]]>([
  ['all is well', play(), []],
  ['thirty letters', play({ texts: { name: 'x'.repeat(30) } }), []],
  ['thirty-one', play({ texts: { name: 'x'.repeat(31) } }), ['failed google-play en name too-long']],
  [
    'thirty letters that are more code points',
    play({ texts: { name: ACCENT.repeat(30) } }),
    ['cantTell google-play en name perhaps-too-long'],
  ],
  [
    'ten letters that are more than thirty units',
    play({ texts: { name: FAMILY.repeat(10) } }),
    ['cantTell google-play en name perhaps-too-long'],
  ],
  ['no name', play({ texts: { name: ' ' } }), ['failed google-play en name missing']],
  ['no short text where it must be', play({ texts: { short: '' } }), ['failed google-play en short missing']],
  ['no subtitle, which may be left out', apple({ texts: { short: '' } }), []],
  ['a name of one letter', apple({ texts: { name: 'K' } }), ['failed app-store en name too-short']],
  [
    'keywords of 101',
    apple({ texts: { keywords: 'x'.repeat(101) } }),
    ['failed app-store en keywords too-long'],
  ],
  [
    'release notes of 501',
    play({ texts: { news: 'x'.repeat(501) } }),
    ['failed google-play en news too-long'],
  ],
  ['the same in the other store', apple({ texts: { news: 'x'.repeat(501) } }), []],
  [
    'no e-mail address',
    play({ addresses: { mail: 'crew at kelpline' } }),
    ['failed google-play en mail no-mail-address'],
  ],
  ['no privacy policy', play({ addresses: { privacy: '' } }), ['failed google-play en privacy no-privacy']],
  [
    'a page without TLS, and no address at all',
    play({ addresses: { privacy: 'http://a.example', support: 'help' } }),
    ['failed google-play en privacy not-https', 'failed google-play en support not-https'],
  ],
])('texts: %s', (_, fact, found) => {
  expect(departures(run(listingText, [fact]))).toEqual(found);
});

test('a text is called too long for sure only where every way of counting says so', () => {
  const part = fc.constantFrom('a', 'ß', ACCENT, FAMILY, '🚢', '한', ' b');
  fc.assert(
    fc.property(fc.array(part, { minLength: 1, maxLength: 60 }), (parts) => {
      const name = `x${parts.join('')}x`;
      const ways = [
        name.length,
        Array.from(name).length,
        [...new Intl.Segmenter('en').segment(name)].length,
      ].map((count) => count > 30);
      const expected = ways.every(Boolean) ? 'failed' : ways.some(Boolean) ? 'cantTell' : 'passed';
      expect(run(listingText, [play({ texts: { name } })])[0]!.outcome).toBe(expected);
    }),
  );
});

test.each<[what: string, fact: ListingFact, found: string[]]>([
  ['plain words', play(), []],
  ['free', play({ texts: { short: 'Free ferries' } }), ['cantTell google-play en short free']],
  ['a word that holds it', play({ texts: { short: 'Freedom, carefree' } }), []],
  ['in a long text', play({ texts: { full: 'Feel free to write to us.' } }), []],
  [
    'kostenlos',
    play({ locale: 'de', texts: { short: 'Jetzt kostenlos!' } }),
    ['cantTell google-play de short kostenlos'],
  ],
  ['a price', play({ locale: 'ja', texts: { short: '¥120' } }), ['cantTell google-play ja short ¥120']],
  ['per cent', play({ texts: { name: 'Ferry 50% off' } }), ['cantTell google-play en name 50%']],
  [
    'another platform',
    play({ texts: { full: 'Now on iPhone too' } }),
    ['cantTell google-play en full iphone'],
  ],
  ['its own platform', apple({ texts: { full: 'Now on iPhone too' } }), []],
  [
    'Android in the other store',
    apple({ texts: { full: 'As on Android.' } }),
    ['cantTell app-store en full android'],
  ],
  ['#1', play({ texts: { name: 'The #1 ferry' } }), ['cantTell google-play en name #1']],
  [
    'keywords twice, and one of the name',
    apple({ texts: { keywords: 'ferry,isle, Ferry,kelpline' } }),
    ['cantTell app-store en keywords ferry', 'cantTell app-store en keywords kelpline'],
  ],
])('words: %s', (_, fact, found) => {
  expect(departures(run(listingWord, [fact]))).toEqual(found);
});

test.each<[what: string, fact: ListingFact, found: string[]]>([
  ['all is well', play(), []],
  ['and so in the other store', apple(), []],
  ['sideways', apple({ pictures: [picture({ widthPx: 2868, heightPx: 1320 })] }), []],
  [
    'a pixel off',
    apple({ pictures: [picture({ widthPx: 1321, heightPx: 2868 })] }),
    ['failed app-store en phone a.png size'],
  ],
  ['none', apple({ pictures: [] }), ['failed app-store en phone missing']],
  [
    'one where two are asked for',
    play({ pictures: [icon, banner, picture({})] }),
    ['failed google-play en phone count'],
  ],
  [
    'nine',
    play({ pictures: [icon, banner, ...Array.from({ length: 9 }, () => picture({}))] }),
    ['failed google-play en phone count'],
  ],
  ['no icon', play({ pictures: [banner, picture({}), picture({})] }), ['failed google-play en icon missing']],
  [
    'an icon of more than a megabyte',
    play({ pictures: [{ ...icon, sizeBytes: 2 ** 20 + 1 }, banner, picture({}), picture({})] }),
    ['failed google-play en icon a.png bytes'],
  ],
  [
    'a transparent banner of another size, in WebP',
    play({
      pictures: [
        icon,
        { ...banner, heightPx: 501, hasAlpha: true, format: 'webp' },
        picture({}),
        picture({}),
      ],
    }),
    ['size', 'format', 'alpha'].map((fault) => `failed google-play en banner a.png ${fault}`),
  ],
  [
    'higher than twice its width',
    play({ pictures: [icon, banner, picture({ heightPx: 2161 }), picture({ heightPx: 2160 })] }),
    ['failed google-play en phone a.png size'],
  ],
  [
    'CMYK, and one that moves',
    play({ pictures: [icon, banner, picture({ space: 'cmyk', format: 'jpeg' }), picture({ frames: 3 })] }),
    ['failed google-play en phone a.png colours', 'failed google-play en phone a.png animated'],
  ],
])('pictures: %s', (_, fact, found) => {
  expect(departures(run(listingPicture, [fact]))).toEqual(found);
});

test.each<[what: string, facts: Fact[], locales: string[], found: string[]]>([
  ['all of them', [play(), play({ locale: 'de-DE' })], ['en', 'de'], []],
  ['one that is not listed', [play()], ['en', 'de'], ['failed google-play de not-listed']],
  ['one that does not ship', [play(), play({ locale: 'fr' })], ['en'], ['failed google-play fr not-shipped']],
  [
    'as the package says, where the team says nothing',
    [play(), ...observeApp({ locales: ['en', 'pl'] })],
    [],
    ['failed google-play pl not-listed'],
  ],
])('languages: %s', (_, facts, locales, found) => {
  expect(departures(run(listingLanguage, facts, anIntent({ locales })))).toEqual(found);
});

test('of the other store, or without any, the items are untested', () => {
  const outcomesOf = (facts: Fact[]) =>
    judgeFacts(facts, {
      candidate: { platform: 'android', name: 'App', build: aBuild },
      intent: anIntent({ locales: ['en'] }),
    })
      .items.filter(({ id }) => ['listing.texts', 'listing.languages'].includes(id))
      .map(({ outcome }) => outcome);
  expect(outcomesOf([])).toEqual(['untested', 'untested']);
  expect(outcomesOf([{ ...apple(), platform: 'android' }])).toEqual(['untested', 'untested']);
  expect(outcomesOf([play()])).toEqual(['passed', 'passed']);
});

test('what one language has, the others fall back on', () => {
  const bare = play({ locale: 'de', pictures: [], addresses: { privacy: '' } });
  expect(departures(run(listingPicture, [play(), bare]))).toEqual([]);
  expect(departures(run(listingText, [play(), bare]))).toEqual([]);
  const other = { ...bare, locale: 'fr' };
  expect(departures(run(listingText, [bare, other]))).toEqual(['failed google-play de privacy no-privacy']);
  expect(departures(run(listingPicture, [bare, other]))).toEqual(
    ['icon', 'banner', 'phone'].map((role) => `failed google-play de ${role} missing`),
  );
});
