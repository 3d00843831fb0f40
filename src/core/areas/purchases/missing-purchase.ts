/** What is paid for is given: at once, after every relaunch, renewed, and while the store is away. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = { 'not-granted': 'missing', 'lost-too-early': 'missing' };

export const missingPurchase = {
  id: 'missing-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) =>
    judgeMatters(facts, intent, MATTERS, ['bought', 'at-once', 'relaunched', 'renewed', 'offline']),
} satisfies Check;
