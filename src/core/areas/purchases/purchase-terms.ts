/** Beside what is bought again and again stands how often: the price, and the period that it is for. */
import type { ScreenTextFact } from '../../model/fact.ts';
import { namesPeriod } from '../../platform/purchases/find-duration.ts';
import { plainText } from '../../platform/purchases/find-money.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';
import { lastOffers } from './last-offers.ts';

export const purchaseTerms = {
  id: 'purchase-terms',
  area: 'purchases',
  needs: ['store-offer', 'screen-text'],
  *run(facts, intent): Iterable<Assertion> {
    const offers = lastOffers(facts).filter(({ productKind }) => productKind === 'subscription');
    for (const { id, period, screen } of intent.purchases.products) {
      if (screen === undefined || period === undefined) continue;
      const texts = facts
        .of('screen-text')
        .filter(({ cell, from }) => cell.screen === screen && from === 'text');
      for (const fact of texts) {
        const { cell } = fact;
        const offer = offers.find(({ locale, product }) => product === id && locale === cell.locale);
        if (!offer || !plainText(fact.text).includes(plainText(offer.price).trim())) continue;
        const isNamed = namesPeriod(besides(fact, texts), period, cell.locale);
        yield isNamed
          ? { outcome: 'passed', cell }
          : {
              outcome: 'cantTell',
              cell,
              draft: elementDraft(fact, {
                basis: 'estimated',
                severity: 1,
                digest: fact.text,
                data: { product: id, period, text: fact.text, locale: cell.locale },
              }),
            };
      }
    }
  },
} satisfies Check;

/** On the same capture, as near as the next line. */
const NEAR_LINES = 1.6;

function besides(fact: ScreenTextFact, texts: readonly ScreenTextFact[]): string {
  const { height, y } = fact.element.boundsPx;
  return texts
    .filter(
      (one) => one.evidence === fact.evidence && Math.abs(one.element.boundsPx.y - y) <= NEAR_LINES * height,
    )
    .map(({ text }) => text)
    .join('\n');
}
