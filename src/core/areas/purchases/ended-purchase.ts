/** What expires, is refunded, taken back or deleted ends, and only that. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = {
  'granted-after-refund': 'kept',
  'kept-after-refund': 'kept',
  'kept-after-expiry': 'kept',
};

export const endedPurchase = {
  id: 'ended-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['one-expired', 'refunded', 'reset']),
} satisfies Check;
