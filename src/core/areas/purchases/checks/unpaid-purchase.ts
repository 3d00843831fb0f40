/** Nothing is given before it is paid for. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = { 'granted-unpaid': 'granted-unpaid' };

export const unpaidPurchase = defineCheck({
  id: 'unpaid-purchase',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'Apple developers, Transaction; Android, Google Play Billing, “Handling pending transactions”',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['cancelled', 'deferred']),

  doc: {
    looksAt: 'What the app says that it gives, at each moment',
    against: 'Nothing before the store says *bought*',
    matters: "Who cancels, or waits for somebody's consent, has it for nothing.",
    measured: 'What the app gives against what the store has sold at that moment.',
    errs: 'Only what the trace of the app and the store tell is seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'if (sale.purchaseState == Purchase.PurchaseState.PURCHASED) access.give(sale)',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'if case .success(.verified(let sale)) = try await product.purchase() { access.give(sale) }',
      },
    ],
  },
});
