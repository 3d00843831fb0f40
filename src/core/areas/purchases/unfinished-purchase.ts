/** Every sale is handed over once, and acknowledged: once, in time, and after the goods were handed over. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = {
  unfinished: 'unfinished',
  overdue: 'unfinished',
  'granted-twice': 'granted-twice',
  'finished-twice': 'finished-twice',
  'finished-early': 'finished-early',
};

export const unfinishedPurchase = {
  id: 'unfinished-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['finished']),
} satisfies Check;
