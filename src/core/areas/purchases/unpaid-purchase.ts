/** Nothing is given before it is paid for. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = { 'granted-unpaid': 'granted-unpaid' };

export const unpaidPurchase = {
  id: 'unpaid-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['cancelled', 'deferred']),
} satisfies Check;
