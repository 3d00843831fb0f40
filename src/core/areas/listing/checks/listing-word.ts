/** Words that stores refuse in a listing: prices, ranks, "free", times; and the name of another platform. */

import { z } from 'zod';
import type { ListingFact } from '../../../model/facts/listing.ts';
import type { StoreId } from '../../../model/listing.ts';
import { isSameLanguage } from '../../../model/locale.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { NO_LISTING, ownListings, storeNames, type TextField, textLimits } from '../limits.ts';

const dataSchema = z.strictObject({
  fault: z.enum(['price', 'other-platform', 'repeated', 'wasted']),
  word: z.string(),
  called: z.string(),
  store: z.string(),
  locale: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const listingWord = defineCheck({
  id: 'listing-word',
  area: 'listing',
  priority: 'harder',
  standard: 'Google Play, Metadata policy; Apple, App Review Guidelines, 2.3.7 and 2.3.10',
  basis: 'estimated',
  needs: 'listing',
  data: dataSchema,
  words: ({ called, fault, locale, store, word }) => ({
    what: {
      price: `${quote(word)} stands in the ${called} of the ${store} listing in ${locale}`,
      'other-platform': `Another platform is named in the ${called} of the ${store} listing in ${locale}: ${quote(word)}`,
      repeated: `A keyword of the ${store} listing in ${locale} is there twice: ${quote(word)}`,
      wasted: `A keyword of the ${store} listing in ${locale} is in its name already: ${quote(word)}`,
    }[fault],
    measured: quote(word),
    required: {
      price: 'no price, rank, call or time in names and short texts',
      'other-platform': 'no other platform in a listing',
      repeated: 'each keyword once',
      wasted: 'keywords besides the words of the name, which count anyway',
    }[fault],
    why:
      fault === 'price' || fault === 'other-platform'
        ? 'Stores refuse a listing for it; a price is another one in the next country.'
        : 'A hundred characters are all that there is.',
    remedy: 'Take it out, or mark this as a false alarm where it means something else.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const listings = ownListings(facts);
    if (listings.length === 0) yield NO_LISTING;
    for (const listing of listings) {
      for (const [field, limit] of Object.entries(textLimits[listing.store])) {
        const text = listing.texts[field as TextField];
        if (text.trim() === '') continue;
        const { called } = limit;
        const isShort = ['name', 'short'].includes(field);
        const faults = [
          ...(isShort
            ? wordsIn(text, priceWords(listing.locale), PRICE_SIGNS).map((word) => ({
                fault: 'price' as const,
                word,
              }))
            : []),
          ...wordsIn(text, OTHERS[listing.store]).map((word) => ({ fault: 'other-platform' as const, word })),
          ...(field === 'keywords' ? judgeKeywords(text, listing.texts.name) : []),
        ];
        if (faults.length === 0) yield { outcome: 'passed' };
        for (const { fault, word } of faults) yield found(listing, field, { fault, word, called });
      }
    }
  },

  doc: {
    looksAt:
      'Names and short texts for prices, ranks, calls and times; all texts for other platforms; keywords',
    against: 'Tables of words by language, and the signs of currencies',
    matters: 'A store refuses the listing, and with it the release.',
    measured: 'Whole words, in any case. Always estimated: a word may mean something else.',
    errs: 'Tables hold English, German, French, Spanish, Italian, Portuguese, Dutch, Polish, Norwegian, Swedish and Danish; of other languages only currencies, numbers and platforms are looked at.',
    fixes: [
      { where: 'a listing', language: 'yaml', code: 'short: Ferries of the isles, on time in your pocket' },
    ],
  },
});

// ranks, calls and prices that stores name themselves; in the letters of each language
const PRICE_WORDS: Record<string, readonly string[]> = {
  en: [
    'free',
    'no ads',
    'sale',
    'discount',
    '#1',
    'number one',
    'best',
    'top',
    'download now',
    'new',
    'limited time',
  ],
  de: [
    'kostenlos',
    'gratis',
    'umsonst',
    'rabatt',
    'nr. 1',
    'nummer eins',
    'beste',
    'jetzt laden',
    'neu',
    'ohne werbung',
  ],
  fr: ['gratuit', 'gratuite', 'promo', 'soldes', 'n° 1', 'meilleur', 'télécharger', 'nouveau'],
  es: ['gratis', 'oferta', 'descuento', 'número uno', 'mejor', 'descarga', 'nuevo'],
  it: ['gratis', 'gratuito', 'sconto', 'numero uno', 'migliore', 'scarica', 'nuovo'],
  pt: ['grátis', 'gratuito', 'desconto', 'número um', 'melhor', 'baixe', 'novo'],
  nl: ['gratis', 'korting', 'nummer één', 'beste', 'download nu', 'nieuw'],
  pl: ['za darmo', 'darmowa', 'darmowy', 'bezpłatna', 'promocja', 'najlepsza', 'pobierz', 'nowość'],
  nb: ['gratis', 'tilbud', 'rabatt', 'nummer én', 'beste', 'last ned', 'ny'],
  sv: ['gratis', 'rea', 'rabatt', 'nummer ett', 'bästa', 'ladda ner', 'ny'],
  da: ['gratis', 'tilbud', 'rabat', 'nummer et', 'bedste', 'hent nu', 'ny'],
};
const PRICE_SIGNS = ['\\p{Sc}\\s?\\d[\\d.,]*', '\\d[\\d.,]*\\s?\\p{Sc}', '\\d+\\s?%'];
const OTHERS: Record<StoreId, readonly string[]> = {
  'google-play': ['iphone', 'ipad', 'ios', 'app store', 'apple watch'],
  'app-store': ['android', 'google play', 'play store', 'galaxy', 'wear os'],
};

const priceWords = (locale: string): readonly string[] =>
  Object.entries(PRICE_WORDS).find(([language]) => isSameLanguage(locale, language))?.[1] ?? [];

const escaped = (word: string): string => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** @param words found where they stand as a whole @param signs patterns, found anywhere */
function wordsIn(text: string, words: readonly string[], signs: readonly string[] = []): string[] {
  const patterns = [
    ...words.map((word) => `(?<![\\p{L}\\p{N}])${escaped(word)}(?![\\p{L}\\p{N}])`),
    ...signs,
  ];
  const all = patterns.flatMap((pattern) =>
    [...text.matchAll(new RegExp(pattern, 'giu'))].map(([word]) => word),
  );
  return [...new Set(all)];
}

function judgeKeywords(keywords: string, name: string): Pick<Data, 'fault' | 'word'>[] {
  const all = keywords.split(',').map((word) => word.trim().toLowerCase());
  const inName = new Set(name.toLowerCase().match(/[\p{L}\p{N}]+/gu) ?? []);
  const repeated = new Set(all.filter((word, i) => word !== '' && all.indexOf(word) !== i));
  return [
    ...[...repeated].map((word) => ({ fault: 'repeated' as const, word })),
    ...[...new Set(all)]
      .filter((word) => inName.has(word))
      .map((word) => ({ fault: 'wasted' as const, word })),
  ];
}

const found = (
  { evidence, locale, name, store }: ListingFact,
  field: string,
  data: Omit<Data, 'locale' | 'store'>,
): Assertion<Data> => ({
  outcome: 'cantTell',
  draft: {
    identity: { subject: `${store} ${locale}`, aspect: `${field} ${data.word.toLowerCase()}` },
    basis: 'estimated',
    severity: 1,
    digest: data.word,
    occurrence: { evidence, shown: name, data: { ...data, locale, store: storeNames[store] } },
  },
});
