/** Each text of a listing is there where the store asks for it, and keeps within its limit; addresses are there, and safe. */

import { z } from 'zod';
import type { ListingFact } from '../../../model/facts/listing.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { NO_LISTING, ownListings, storeNames, type TextField, textLimits } from '../limits.ts';

const dataSchema = z.strictObject({
  fault: z.enum([
    'too-long',
    'perhaps-too-long',
    'too-short',
    'missing',
    'not-https',
    'no-privacy',
    'no-mail-address',
  ]),
  called: z.string(),
  store: z.string(),
  locale: z.string(),
  limit: z.number(),
  /** What a person sees as one letter; code points; UTF-16 units. */
  letters: z.number(),
  codePoints: z.number(),
  units: z.number(),
  text: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const listingText = defineCheck({
  id: 'listing-text',
  area: 'listing',
  priority: 'wrong',
  standard: 'Google Play, Store listing; Apple, App information',
  basis: 'either',
  needs: 'listing',
  data: dataSchema,
  words: ({ called, codePoints, fault, letters, limit, locale, store, text, units }) => {
    const counted =
      letters === units
        ? `${letters} characters`
        : `${letters} letters as people count, ${codePoints} code points, ${units} UTF-16 units`;
    const where = `of the ${store} listing in ${locale}`;
    const required = `${limit} characters at most (${store})`;
    const said: Record<Data['fault'], [what: string, measured: string, required: string, remedy: string]> = {
      'too-long': [`The ${called} ${where} is too long`, counted, required, 'Shorten it.'],
      'perhaps-too-long': [
        `The ${called} ${where} may be too long`,
        counted,
        required,
        'Shorten it: stores do not say how they count, and not all ways are within the limit.',
      ],
      'too-short': [
        `The ${called} ${where} is too short`,
        counted,
        `${limit} characters at least`,
        'Write it out.',
      ],
      missing: [`The ${called} ${where} is missing`, 'nothing', `a ${called} (${store})`, 'Write it.'],
      'not-https': [
        `The ${called} ${where} is no address that begins with https`,
        quote(text),
        'https://…',
        'Serve the page over TLS, and name that address.',
      ],
      'no-mail-address': [
        `The ${called} ${where} is none`,
        quote(text),
        'name@host',
        'Write the address that users reach you at.',
      ],
      'no-privacy': [
        `No privacy policy is named ${where}`,
        'nothing',
        'an address (both stores)',
        'Write it under privacy.',
      ],
    };
    const [what, measured, demand, remedy] = said[fault];
    return {
      what,
      measured,
      required: demand,
      why: 'The store refuses it, or cuts it off in front of everybody.',
      remedy,
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    const listings = ownListings(facts);
    if (listings.length === 0) yield NO_LISTING;
    for (const listing of listings) {
      for (const [field, limit] of Object.entries(textLimits[listing.store])) {
        const text = listing.texts[field as TextField].trim();
        const counts = countAll(text);
        const { called, isNeeded, least = 1, most } = limit;
        const of = (fault: Data['fault'], bound = most) =>
          found(listing, field, { fault, called, limit: bound, text: '', ...counts });
        const shortest = Math.min(...Object.values(counts));
        const longest = Math.max(...Object.values(counts));
        if (text === '') yield isNeeded ? of('missing') : { outcome: 'inapplicable' };
        else if (shortest > most) yield of('too-long');
        else if (longest > most) yield of('perhaps-too-long');
        else if (longest < least) yield of('too-short', least);
        else yield { outcome: 'passed' };
      }
      yield* judgeAddresses(listing);
    }
    const [first] = listings;
    // one for the app, whatever the language
    if (first && listings.every(({ addresses }) => addresses.privacy === ''))
      yield found(first, 'privacy', { fault: 'no-privacy', called: 'privacy policy', text: '', ...NONE });
  },

  doc: {
    looksAt: 'Texts and addresses of each listing of the store that the candidate goes to',
    against: 'The limits of that store, what it must have, and `https`',
    matters:
      'A store refuses what is too long on the day of the release, in the one language that nobody read.',
    measured:
      'Each text counted three ways: letters as people see them (UAX #29), code points, UTF-16 units. Too long by all of them is measured; by some only is estimated, since stores do not say how they count.',
    errs: 'Limits change: they are of November 2026.',
    fixes: [
      {
        where: 'listing/google-play-de.yaml',
        language: 'yaml',
        code: 'fenlok: listing/1\nstore: google-play\nlocale: de\nname: Kelpline\nshort: Fähren der Inseln, pünktlich in der Tasche\nprivacy: https://kelpline.example/datenschutz',
      },
    ],
  },
});

const NONE = { limit: 0, letters: 0, codePoints: 0, units: 0 };

function* judgeAddresses(listing: ListingFact): Iterable<Assertion<Data>> {
  const { mail, privacy, support } = listing.addresses;
  if (mail !== '')
    yield z.email().safeParse(mail).success
      ? { outcome: 'passed' }
      : found(listing, 'mail', { fault: 'no-mail-address', called: 'e-mail address', text: mail, ...NONE });
  for (const [field, called, address] of [
    ['privacy', 'privacy policy', privacy],
    ['support', 'support page', support],
  ] as const)
    if (address !== '')
      yield isSafe(address)
        ? { outcome: 'passed' }
        : found(listing, field, { fault: 'not-https', called, text: address, ...NONE });
}

function isSafe(address: string): boolean {
  const url = URL.canParse(address) ? new URL(address) : undefined;
  return url?.protocol === 'https:';
}

const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });
const countAll = (text: string): Pick<Data, 'codePoints' | 'letters' | 'units'> => ({
  letters: [...segmenter.segment(text)].length,
  codePoints: [...text].length,
  units: text.length,
});

function found(
  { evidence, locale, name, store }: ListingFact,
  field: string,
  data: Omit<Data, 'locale' | 'store'>,
): Assertion<Data> {
  const isSure = data.fault !== 'perhaps-too-long';
  return {
    outcome: isSure ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: `${store} ${locale}`, aspect: `${field} ${data.fault}` },
      basis: isSure ? 'measured' : 'estimated',
      severity: data.fault === 'missing' ? 2 : 1,
      digest: `${data.letters} ${data.text}`,
      occurrence: { evidence, shown: name, data: { ...data, locale, store: storeNames[store] } },
    },
  };
}
