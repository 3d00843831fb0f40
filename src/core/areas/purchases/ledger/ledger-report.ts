import type { ProductKind } from '../../../model/ledger.ts';
import { DAY_MS } from '../../../platform/purchases/period.ts';

export const ledgerFaultCodes = [
  /** Given with nothing paid. */
  'granted-unpaid',
  /** One sale of something that is used up, handed over twice. */
  'granted-twice',
  /** Taken up again, or still there, after the money went back. */
  'granted-after-refund',
  'kept-after-refund',
  'kept-after-expiry',
  /** Was there, is paid for, and is gone. */
  'lost-too-early',
  /** Paid for on this device, and never given. */
  'not-granted',
  /** Paid for elsewhere, asked for here, and not given. */
  'not-restored',
  'sold-twice',
  'unfinished',
  /** Not finished, or too late, so that the store gives the money back. */
  'overdue',
  'finished-twice',
  /** Before the goods were handed over. */
  'finished-early',
] as const;
export type LedgerFaultCode = (typeof ledgerFaultCodes)[number];

export interface LedgerFault {
  code: LedgerFaultCode;
  product: string;
  account: string;
  device?: string;
  transaction?: string;
  atMs: number;
  /** When what it differs from was so: paid, expired, refunded. */
  sinceMs?: number;
}

export interface LedgerReport {
  faults: LedgerFault[];
  /** Those beyond the first thousand. */
  moreFaults: number;
  sales: number;
  /** Renewals by product. */
  renewals: Record<string, number>;
  /** What the app said it gives, held against the store. */
  claims: number;
  /** Lines that came later than is allowed for, and periods that end before they begin. */
  late: number;
  backwards: number;
  /** The most transactions that were held at once. */
  mostOpen: number;
}

export interface LedgerOptions {
  kinds?: Readonly<Record<string, ProductKind>>;
  /** So long an app may lag behind the store. */
  lagMs?: number;
  /** By so much the clocks of a device and of the store may differ. */
  skewMs?: number;
  /** A sale that is not acknowledged by then is given back: three days on Android. */
  acknowledgeWithinMs?: number;
  /** So much later than the newest line a line may come; without a limit, all is kept to the end. */
  latenessMs?: number;
}

export type LedgerRules = Required<Omit<LedgerOptions, 'kinds'>> & {
  kinds: Readonly<Record<string, ProductKind>>;
};

export const ledgerRules = (options: LedgerOptions): LedgerRules => ({
  kinds: {},
  lagMs: 5_000,
  skewMs: 1_000,
  acknowledgeWithinMs: 3 * DAY_MS,
  latenessMs: Number.POSITIVE_INFINITY,
  ...options,
});
