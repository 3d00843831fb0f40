/** Restoring brings back what was bought on another device or outside the app. */
import type { Check } from '../check.ts';
import { judgeMatters, type Matters } from './judge-matters.ts';

const MATTERS: Matters = { 'not-restored': 'not-restored' };

export const unrestoredPurchase = {
  id: 'unrestored-purchase',
  area: 'purchases',
  needs: ['purchase-history'],
  run: (facts, intent) => judgeMatters(facts, intent, MATTERS, ['second-device', 'elsewhere']),
} satisfies Check;
