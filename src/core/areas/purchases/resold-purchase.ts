/** What is owned is not sold again. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = { 'sold-twice': 'sold-twice' };

export const resoldPurchase = {
  id: 'resold-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['owned']),
} satisfies Check;
