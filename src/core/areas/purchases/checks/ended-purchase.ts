/** What expires, is refunded, taken back or deleted ends, and only that. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = {
  'granted-after-refund': 'kept',
  'kept-after-refund': 'kept',
  'kept-after-expiry': 'kept',
};

export const endedPurchase = defineCheck({
  id: 'ended-purchase',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'Apple developers, Transaction; Android, Google Play Billing, Handle purchases',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['one-expired', 'refunded', 'reset']),

  doc: {
    looksAt: 'What is still given',
    against: 'Nothing that expired, was refunded, taken back or deleted',
    matters: 'Who gets the money back, or stops paying, keeps the goods.',
    measured:
      'What the app says that it gives, at each moment, against what the store sold, ended, refunded and took back.',
    errs: 'Only what the app tells in its trace is seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'billing.queryPurchasesAsync(params) { _, owned -> access.keepOnly(owned.filter { it.purchaseState == PURCHASED }) }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'for await result in Transaction.currentEntitlements { if case .verified(let sale) = result { owned.insert(sale.productID) } }',
      },
    ],
  },
});
