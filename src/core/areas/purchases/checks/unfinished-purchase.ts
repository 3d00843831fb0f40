/** Every sale is handed over once, and acknowledged: once, in time, and after the goods were handed over. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = {
  unfinished: 'unfinished',
  overdue: 'unfinished',
  'granted-twice': 'granted-twice',
  'finished-twice': 'finished-twice',
  'finished-early': 'finished-early',
};

export const unfinishedPurchase = defineCheck({
  id: 'unfinished-purchase',
  area: 'purchases',
  priority: 'app-ends',
  standard: 'Apple, Transaction.finish(); Android, Google Play Billing, “Processing purchases” (three days)',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['finished']),

  doc: {
    looksAt: 'Acknowledgements and handing over of each sale',
    against: 'Once, within three days, after the goods were given',
    matters:
      'The store hands the sale out again at every launch, and on Android gives the money back after three days.',
    measured: 'Acknowledgements and handing over of each sale in the trace.',
    errs: 'Only what the trace of the app and the store tell is seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'access.give(sale); billing.acknowledgePurchase(paramsOf(sale)) { }',
      },
      { where: 'iOS', language: 'swift', code: 'access.give(sale); await sale.finish()' },
    ],
  },
});
