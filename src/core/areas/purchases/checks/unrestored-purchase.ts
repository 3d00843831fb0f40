/** Restoring brings back what was bought on another device or outside the app. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = { 'not-restored': 'not-restored' };

export const unrestoredPurchase = defineCheck({
  id: 'unrestored-purchase',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'App Store Review Guidelines, 3.1.1 (restore mechanism)',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['second-device', 'elsewhere']),

  doc: {
    looksAt: 'What is given after restoring',
    against: 'What was bought on another device or outside the app',
    matters: 'A new phone is the most common reason to write to support.',
    measured:
      'What the app gives after restoring, against what was bought on another device or outside the app.',
    errs: 'Only what the trace of the app and the store tell is seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'restore.setOnClickListener { billing.queryPurchasesAsync(params) { _, owned -> owned.forEach(access::give) } }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'Button("Restore purchases") { Task { try await AppStore.sync() } }',
      },
    ],
  },
});
