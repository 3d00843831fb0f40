/** What is owned is not sold again. */

import { defineCheck } from '../../check.ts';
import { judgeMatters, type Matters } from '../judge-matters.ts';
import { matterSchema, matterWords } from '../matter-words.ts';

const MATTERS: Matters = { 'sold-twice': 'sold-twice' };

export const resoldPurchase = defineCheck({
  id: 'resold-purchase',
  area: 'purchases',
  priority: 'app-ends',
  standard: 'Apple developers, Transaction; Android, Google Play Billing, Handle purchases',
  basis: 'measured',
  needs: 'purchase-history',
  data: matterSchema,
  words: matterWords,
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['owned']),

  doc: {
    looksAt: 'Sales',
    against: 'None of what the account has',
    matters: 'People pay twice, and get nothing for it.',
    measured: 'Each sale against what the account owned at that moment.',
    errs: 'Only what the trace of the app and the store tell is seen.',
    fixes: [
      { where: 'Android', language: 'kotlin', code: 'buyButton.isVisible = !access.owns("no-ads")' },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'if !access.owns("no-ads") { BuyButton() }' },
    ],
  },
});
