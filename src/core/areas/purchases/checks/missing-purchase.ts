/** What is paid for is given: at once, after every relaunch, renewed, and while the store is away. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = { 'not-granted': 'missing', 'lost-too-early': 'missing' };

export const missingPurchase = defineCheck({
  id: 'missing-purchase',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'Apple developers, Transaction; Android, Google Play Billing, Handle purchases',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) =>
    judgeMatters(facts, intent, MATTERS, ['bought', 'at-once', 'relaunched', 'renewed', 'offline']),

  doc: {
    looksAt: 'The same',
    against: 'What is paid for: at once, after a relaunch, renewed, and without the store',
    matters: 'People paid, and stand before a locked door.',
    measured:
      'What the app gives against what is paid for, at once, after a relaunch, after a renewal, and without the store.',
    errs: 'Only what the app tells in its trace is seen. Situations that were never brought about are untested.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onPurchasesUpdated(result: BillingResult, sales: List<Purchase>?) { sales?.forEach(access::give) }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'for await update in Transaction.updates { await access.give(update) }',
      },
    ],
  },
});
