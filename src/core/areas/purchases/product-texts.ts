/** Names and descriptions of products: in each language, each its own, and with no price or duration that is wrong in the next country. */
import type { StoreOfferFact } from '../../model/facts/purchases.ts';
import type { Intent } from '../../model/intent.ts';
import { findDuration } from '../../platform/purchases/find-duration.ts';
import { findMoney } from '../../platform/purchases/find-money.ts';
import type { Assertion, Check } from '../check.ts';
import { lastOffers } from './last-offers.ts';

interface Fault {
  code: 'price' | 'duration' | 'untranslated' | 'duplicate' | 'not-offered';
  /** What of it is wrong, or which other product. */
  found: string;
  isCertain: boolean;
}

export const productTexts = {
  id: 'product-texts',
  area: 'purchases',
  needs: ['store-offer'],
  *run(facts, intent): Iterable<Assertion> {
    const offers = lastOffers(facts);
    for (const offer of offers) {
      const faults = [...faultsOf(offer, offers, intent)];
      if (faults.length === 0) yield { outcome: 'passed' };
      for (const fault of faults) yield judged(offer, fault);
    }
    yield* notOffered(offers, intent);
  },
} satisfies Check;

function* faultsOf(
  offer: StoreOfferFact,
  offers: readonly StoreOfferFact[],
  intent: Intent,
): Iterable<Fault> {
  const { description, locale, name, product } = offer;
  const [money] = [...findMoney(name, locale), ...findMoney(description, locale)];
  if (money) yield { code: 'price', found: money.text, isCertain: true };
  const duration = findDuration(name, locale);
  if (duration) yield { code: 'duration', found: duration, isCertain: false };
  const isSource = languageOf(locale) === languageOf(intent.sourceLocale);
  const source = offers.find((one) => one.product === product && one.locale === intent.sourceLocale);
  if (!isSource && source?.name === name) yield { code: 'untranslated', found: name, isCertain: false };
  const twin = offers.find((one) => one.name === name && one.locale === locale && one.product < product);
  if (twin) yield { code: 'duplicate', found: twin.product, isCertain: true };
}

const languageOf = (locale: string): string | undefined => locale.split('-')[0];

/** In a language that the app ships, the store has nothing to show for it. */
function* notOffered(offers: readonly StoreOfferFact[], intent: Intent): Iterable<Assertion> {
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
): Assertion => ({
  outcome: isCertain ? 'failed' : 'cantTell',
  draft: {
    identity: { subject: `product ${product}`, aspect: `${code} ${locale}` },
    basis: isCertain ? 'measured' : 'estimated',
    severity: isCertain ? 2 : 1,
    digest: `${name} ${found}`,
    occurrence: { evidence, shown: name, data: { product, fault: code, found, locale, name } },
  },
});
