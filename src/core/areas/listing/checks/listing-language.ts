/** Languages that ship, languages that are listed: the same. */

import { z } from 'zod';
import { isSameLanguage } from '../../../model/locale.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { NO_LISTING, ownListings, storeNames } from '../limits.ts';

const dataSchema = z.strictObject({
  fault: z.enum(['not-listed', 'not-shipped']),
  locale: z.string(),
  store: z.string(),
  shipped: z.array(z.string()),
  listed: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const listingLanguage = defineCheck({
  id: 'listing-language',
  area: 'listing',
  priority: 'harder',
  standard: 'Our own: languages of the package, the intent file and the listings',
  basis: 'measured',
  needs: 'listing',
  reads: ['package'],
  data: dataSchema,
  words: ({ fault, listed, locale, shipped, store }) =>
    fault === 'not-listed'
      ? {
          what: `The app speaks ${locale}, and ${store} has no listing in it`,
          measured: `listed: ${listed.join(', ')}`,
          required: `a listing in each language that ships: ${shipped.join(', ')}`,
          why: 'Who searches in that language does not find the app, or reads about it in another one.',
          remedy: 'Write the listing, and take it in: fenlok add listing/.',
        }
      : {
          what: `${store} has a listing in ${locale}, which the app does not speak`,
          measured: `shipped: ${shipped.join(', ')}`,
          required: 'listings in the languages that ship, and no other',
          why: 'Who reads it takes the app to speak the language, and says so in the first review.',
          remedy: 'Translate the app, or say in that listing which languages it speaks.',
        },

  *run(facts, { locales, sourceLocale }): Iterable<Assertion<Data>> {
    const listings = ownListings(facts);
    const [first] = listings;
    if (!first) {
      yield NO_LISTING;
      return;
    }
    // what the team says ships; without it, what the package says
    const shipped =
      locales.length > 0
        ? [...new Set([sourceLocale, ...locales])]
        : facts.of('package').flatMap((app) => app.declaredLocales ?? app.locales);
    if (shipped.length === 0) {
      yield { outcome: 'untested', because: 'neither fenlok.yaml nor the package says which languages ship' };
      return;
    }
    const listed = listings.map(({ locale }) => locale);
    const found = (fault: Data['fault'], locale: string, evidence: string): Assertion<Data> => ({
      outcome: 'failed',
      draft: {
        identity: { subject: `${first.store} ${locale}`, aspect: fault },
        basis: 'measured',
        severity: fault === 'not-listed' ? 2 : 1,
        digest: fault,
        occurrence: {
          evidence,
          shown: locale,
          data: { fault, locale, store: storeNames[first.store], shipped, listed },
        },
      },
    });
    for (const locale of shipped)
      yield listed.some((other) => isSameLanguage(other, locale))
        ? { outcome: 'passed' }
        : found('not-listed', locale, first.evidence);
    for (const { evidence, locale } of listings)
      yield shipped.some((other) => isSameLanguage(other, locale))
        ? { outcome: 'passed' }
        : found('not-shipped', locale, evidence);
  },

  doc: {
    looksAt: 'The languages of the listings, of `fenlok.yaml`, else of the package',
    against: 'Each other; regions are not told apart',
    matters: 'A language that ships and is not listed is found by nobody.',
    measured: 'BCP 47 tags, by their language.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'listing/google-play-pl.yaml',
        language: 'yaml',
        code: 'fenlok: listing/1\nstore: google-play\nlocale: pl\nname: Kelpline',
      },
    ],
  },
});
