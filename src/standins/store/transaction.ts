/** What the store knows of one sale, or of one period of a subscription. */
import type { StoreProduct } from './catalogue.ts';

export interface Transaction {
  id: string;
  original: string;
  account: string;
  product: string;
  device?: string;
  /** Whose prices it was sold at, ISO 3166-1 alpha-2. */
  country: string;
  /** A UUID by which the app tells its own account, given when it was bought. */
  accountToken?: string;
  boughtMs: number;
  untilMs?: number;
  isRenewal: boolean;
  /** The store renewed it; without that somebody bought it, be it again. */
  isAutomatic: boolean;
  isElsewhere: boolean;
  /** Its period costs nothing, since it is the first that its account has of the group. */
  isTrial: boolean;
  finishedMs?: number;
  refundedMs?: number;
  revokedMs?: number;
  /** Another plan took its place. */
  replacedMs?: number;
  /** Its subscription ended before its time. */
  endedMs?: number;
  isDeleted: boolean;
}

export interface Subscription {
  original: string;
  account: string;
  product: StoreProduct;
  /** The plan that takes its place at the end of the period. */
  planned?: StoreProduct;
  /** The period that runs, or ran last. */
  current: Transaction;
  renewals: number;
  renews: boolean;
  paymentFails: boolean;
  /** While the store tries to be paid. */
  unpaid?: { sinceMs: number; graceUntilMs: number };
  endedMs?: number;
}

/** Nothing took it back, ended it or took its place; its time may be over all the same. */
export const isUsable = ({ endedMs, isDeleted, refundedMs, replacedMs, revokedMs }: Transaction): boolean =>
  !isDeleted && [endedMs, refundedMs, replacedMs, revokedMs].every((ms) => ms === undefined);
