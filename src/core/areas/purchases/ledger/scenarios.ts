/** Situations that a purchase must be seen in before a release, for which kinds of product, and how each is brought about. */
import type { ProductKind } from '../../../model/ledger.ts';

export const scenarioIds = [
  'cancelled',
  'bought',
  'at-once',
  'finished',
  'relaunched',
  'second-device',
  'elsewhere',
  'owned',
  'renewed',
  'one-expired',
  'all-expired',
  'refunded',
  'deferred',
  'offline',
  'reset',
] as const;
export type ScenarioId = (typeof scenarioIds)[number];

interface Scenario {
  /** Head of its column. */
  name: string;
  kinds: readonly ProductKind[];
  /** How to bring it about, for whom it was never seen. */
  provoke: string;
}

const ALL = ['consumable', 'non-consumable', 'subscription', 'fixed-term'] as const;
const KEPT = ['non-consumable', 'subscription'] as const;

export const scenarios: Readonly<Record<ScenarioId, Scenario>> = {
  cancelled: {
    name: 'cancelled',
    kinds: ALL,
    provoke: 'Touch the button that buys it, and cancel in the store’s sheet.',
  },
  bought: { name: 'bought', kinds: ALL, provoke: 'Buy it with a test account.' },
  'at-once': {
    name: 'given at once',
    kinds: KEPT,
    provoke: 'Buy it, and look at the app without closing it.',
  },
  finished: {
    name: 'finished',
    kinds: ALL,
    provoke: 'Buy it, and let the app acknowledge the sale after it gave the goods.',
  },
  relaunched: {
    name: 'after a relaunch',
    kinds: KEPT,
    provoke: 'Buy it, end the app’s process, and open it again.',
  },
  'second-device': {
    name: 'second device',
    kinds: KEPT,
    provoke: 'Install the app afresh on a second device with the same account, and restore.',
  },
  elsewhere: {
    name: 'bought elsewhere',
    kinds: KEPT,
    provoke: 'Buy it outside the app (standin store: order "elsewhere"), and restore in the app.',
  },
  owned: {
    name: 'owned already',
    kinds: KEPT,
    provoke: 'Try to buy it again while it is owned.',
  },
  renewed: {
    name: 'renewed',
    kinds: ['subscription'],
    provoke: 'Let its period pass (step the clock of standin store), and open the app.',
  },
  'one-expired': {
    name: 'one of two expired',
    kinds: ['subscription'],
    provoke: 'Have another purchase beside it, let this one expire, and open the app.',
  },
  'all-expired': {
    name: 'all expired, quiet',
    kinds: ['subscription'],
    provoke: 'Let everything expire, open the app, leave it, and watch whether it still asks the store.',
  },
  refunded: {
    name: 'refunded',
    kinds: KEPT,
    provoke: 'Refund it (standin store: order "refund"), and open the app.',
  },
  deferred: {
    name: 'deferred',
    kinds: ALL,
    provoke: 'Buy it with an account whose purchases somebody must agree to (order "next", outcome "defer").',
  },
  offline: {
    name: 'store away',
    kinds: KEPT,
    provoke: 'Cut off the store while it is owned, and open the app.',
  },
  reset: {
    name: 'reset',
    kinds: KEPT,
    provoke: 'Delete all that the account bought (order "reset"), and open the app.',
  },
};
