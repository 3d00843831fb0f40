/** Names and descriptions of products: in each language, each its own, and with no price or duration that is wrong in the next country. */

import { z } from 'zod';
import type { StoreOfferFact } from '../../../model/facts/purchases.ts';
import type { Words } from '../../../model/finding.ts';
import { findDuration } from '../../../platform/purchases/find-duration.ts';
import { findMoney } from '../../../platform/purchases/find-money.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastOffers } from '../last-offers.ts';

interface Fault {
  code: 'price' | 'duration' | 'untranslated' | 'duplicate' | 'not-offered';
  /** What of it is wrong, or which other product. */
  found: string;
  isCertain: boolean;
}

const dataSchema = z.strictObject({
  product: z.string(),
  fault: z.enum(['untranslated', 'price', 'duration', 'duplicate', 'not-offered']),
  found: z.string(),
  locale: z.string(),
  name: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const productTexts = defineCheck({
  id: 'product-texts',
  area: 'purchases',
  priority: 'wrong',
  standard: 'App Store Review Guidelines, 2.3 Accurate Metadata',
  basis: 'either',
  needs: 'store-offer',
  data: dataSchema,
  words: ({ fault, found, locale, name, product }) => {
    const { remedy, required, what, why } = TEXTS[fault];
    return {
      what: `${product} in ${locale}: ${what}`,
      measured:
        found === '' ? 'nothing returned' : `${quote(name)}${found === name ? '' : `, with ${quote(found)}`}`,
      required,
      why,
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const offers = lastOffers(facts);
    for (const offer of offers) {
      const faults = [...faultsOf(offer, offers, intent)];
      if (faults.length === 0) yield { outcome: 'passed' };
      for (const fault of faults) yield judged(offer, fault);
    }
    yield* notOffered(offers, intent);
  },

  doc: {
    looksAt: 'Names and descriptions in each language',
    against:
      'No money in them, each its own; a duration in a name, or a name like that of the source language, is estimated',
    matters: 'A price or a duration in a name is wrong in the next country, and after the next change.',
    measured: 'Names and descriptions that the store returns, in each language.',
    errs: 'A duration in a name, and a name like that of the source language, are estimated.',
    fixes: [
      {
        where: "The store's catalogue",
        language: 'text',
        code: 'Harbour pass            not: Harbour pass, 1 month, 4.99',
      },
    ],
  },
});

function* faultsOf(
  offer: StoreOfferFact,
  offers: readonly StoreOfferFact[],
  intent: IntentWith,
): Iterable<Fault> {
  const { description, locale, name, product } = offer;
  const [money] = [...findMoney(name, locale), ...findMoney(description, locale)];
  if (money) yield { code: 'price', found: money.text, isCertain: true };
  const duration = findDuration(name, locale);
  if (duration) yield { code: 'duration', found: duration, isCertain: false };
  const isSource = languageOf(locale) === languageOf(intent.sourceLocale);
  const source = offers.find((one) => one.product === product && one.locale === intent.sourceLocale);
  if (!isSource && source?.name === name) yield { code: 'untranslated', found: name, isCertain: false };
  const counterpart = offers.find(
    (one) => one.name === name && one.locale === locale && one.product < product,
  );
  if (counterpart) yield { code: 'duplicate', found: counterpart.product, isCertain: true };
}

const languageOf = (locale: string): string | undefined => locale.split('-')[0];

/** In a language that the app ships, the store has nothing to show for it. */
function* notOffered(offers: readonly StoreOfferFact[], intent: IntentWith): Iterable<Assertion<Data>> {
  const asked = new Set(offers.map(({ locale }) => locale));
  for (const product of new Set(offers.map((offer) => offer.product)))
    for (const locale of intent.locales) {
      const some = offers.find((one) => one.product === product);
      if (!some || !asked.has(locale)) continue;
      if (!offers.some((one) => one.product === product && one.locale === locale))
        yield judged({ ...some, locale }, { code: 'not-offered', found: '', isCertain: true });
    }
}

const judged = (
  { evidence, locale, name, product }: StoreOfferFact,
  { code, found, isCertain }: Fault,
): Assertion<Data> => ({
  outcome: isCertain ? 'failed' : 'cantTell',
  draft: {
    identity: { subject: `product ${product}`, aspect: `${code} ${locale}` },
    target: { kind: 'product' as const, id: product },
    basis: isCertain ? 'measured' : 'estimated',
    severity: isCertain ? 2 : 1,
    digest: `${name} ${found}`,
    occurrence: { evidence, shown: name, data: { product, fault: code, found, locale, name } },
  },
});

const TEXTS: Readonly<Record<Data['fault'], Omit<Words, 'measured'>>> = {
  price: {
    what: 'a price is written into its name or description',
    required: 'a name without money',
    why: 'It is shown beside the true price, which is another one in other money and after every change.',
    remedy: 'Take the amount out of the text in the store’s catalogue.',
  },
  duration: {
    what: 'a duration is written into its name',
    required: 'a name that holds for every offer of it',
    why: 'Trials and other periods are sold under the same name.',
    remedy: 'Take the duration out, or rule that it is part of the name.',
  },
  untranslated: {
    what: 'its name is the same as in the source language',
    required: 'a name in this language',
    why: 'Where a translation is missing, stores show that of another language, and say nothing.',
    remedy: 'Add the translation in the store’s catalogue, or rule that the name is the same everywhere.',
  },
  duplicate: {
    what: 'another product has the same name',
    required: 'names that tell products apart',
    why: 'On the store’s sheet and in the receipt nobody can tell which one is bought.',
    remedy: 'Give each product a name of its own.',
  },
  'not-offered': {
    what: 'the store does not offer it in this language',
    required: 'every product in every language that is shipped',
    why: 'It is missing from the shop of everybody who uses the app in this language.',
    remedy: 'Add name and price for it in the store’s catalogue.',
  },
};
