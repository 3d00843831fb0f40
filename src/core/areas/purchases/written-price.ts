/** Prices come from the store: one that is typed into a text is wrong in the next country, and after the next change. */

import { findMoney } from '../../platform/purchases/find-money.ts';
import type { Check } from '../check.ts';
import { departure, textDraft } from '../localization/texts/text-draft.ts';

/** `%1$s` would be a dollar, and `{0}` a number. */
const PLACEHOLDER = /%(?:\d+\$)?[-#+ 0,(]*\d*(?:\.\d+)?[a-z@]|\{[^{}]*\}/gi;

export const writtenPrice = {
  id: 'written-price',
  area: 'purchases',
  needs: ['catalogue-text'],
  *run(facts, intent) {
    if (intent.purchases.products.length === 0) return;
    let passed = 0;
    for (const fact of facts.of('catalogue-text')) {
      const locale = fact.locale === 'default' ? intent.sourceLocale : fact.locale;
      const [money] = findMoney(fact.text.replace(PLACEHOLDER, ' '), locale);
      if (!money) passed += 1;
      else
        yield departure(
          textDraft(fact, {
            locale,
            // it may be the price of something that no store sells
            basis: 'estimated',
            severity: 1,
            digest: money.text,
            data: { found: money.text },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;
