/** What an app on one device says that it gives, held against what its account has paid for at that moment. */
import type { LedgerTransaction } from '../../../model/ledger.ts';
import type { EndReason, EntitledSpan } from './entitlements.ts';
import type { LedgerFault, LedgerRules } from './ledger-report.ts';

export interface Claim {
  atMs: number;
  device: string;
  account?: string;
  /** All that is given, or what is given or taken now. */
  does: 'all' | 'gives' | 'takes';
  products: readonly string[];
  transaction?: string;
  /** The app was just installed, and remembers nothing. */
  isFresh: boolean;
}

/** What an app on one device has said of one product of one account. */
export interface Held {
  isHeld: boolean;
  sinceMs: number;
  /** Whether what was said last was at fault. */
  isTold?: boolean;
  /** When the app was installed last, as far as it said so: what was before then it has to learn again. */
  freshMs?: number;
}

/** What is known of one product of one account, at the moment of the claim. */
export interface Paid {
  spans: readonly EntitledSpan[];
  /** The end of what has been let go since. */
  ended?: { toMs: number; end: EndReason };
  saleOf(transaction: string): LedgerTransaction | undefined;
  /** When this device asked the store for what was bought before. */
  restoredMs: readonly number[];
  /** Whether from then until now its app was left, or the store out of reach, so that it could not learn what happened. */
  isCutOff(fromMs: number): boolean;
}

/** Changes `held` to what is claimed. @returns a fault where that is news */
export function judgeClaim(
  claim: Claim,
  product: string,
  account: string,
  isClaimed: boolean,
  held: Held,
  paid: Paid,
  rules: LedgerRules,
): LedgerFault | undefined {
  const wasHeld = held.isHeld && !claim.isFresh;
  if (claim.isFresh) held.freshMs = claim.atMs;
  const seen = isClaimed ? unpaid(claim, held, paid, rules) : missing(claim, wasHeld, paid, rules);
  const found = isExcused(seen, held, paid) ? undefined : seen;
  if (isClaimed !== wasHeld) held.sinceMs = claim.atMs;
  held.isHeld = isClaimed;
  // as long as it goes on, it is said once
  const isNews = found !== undefined && (!held.isTold || isClaimed !== wasHeld);
  held.isTold = found !== undefined;
  return isNews ? { ...found, product, account, device: claim.device, atMs: claim.atMs } : undefined;
}

/** It was cut off since, or since it was installed, and could not learn of it. */
const isExcused = (found: Found | undefined, { freshMs = 0 }: Held, { isCutOff }: Paid): boolean =>
  found?.sinceMs !== undefined && isCutOff(Math.max(found.sinceMs, freshMs));

type Found = Pick<LedgerFault, 'code' | 'sinceMs' | 'transaction'>;

function unpaid({ atMs }: Claim, held: Held, paid: Paid, { lagMs, skewMs }: LedgerRules): Found | undefined {
  const begun = paid.spans.filter(({ fromMs }) => fromMs <= atMs + skewMs);
  if (begun.some(({ toMs }) => toMs > atMs - lagMs)) return undefined;
  const last = begun.reduce<{ toMs: number; end: EndReason; transaction?: string } | undefined>(
    (latest, span) => (latest && latest.toMs >= span.toMs ? latest : span),
    paid.ended,
  );
  if (!last) return { code: 'granted-unpaid' };
  const { end, toMs, transaction } = last;
  const of = { sinceMs: toMs, ...(transaction !== undefined && { transaction }) };
  if (end !== 'refunded' && end !== 'revoked') return { code: 'kept-after-expiry', ...of };
  const isKept = held.isHeld && held.sinceMs < toMs;
  return { code: isKept ? 'kept-after-refund' : 'granted-after-refund', ...of };
}

function missing(
  { atMs, device }: Claim,
  wasHeld: boolean,
  { restoredMs, saleOf, spans }: Paid,
  { lagMs }: LedgerRules,
): Found | undefined {
  const running = spans.filter(({ fromMs, toMs }) => fromMs <= atMs && atMs < toMs);
  if (running.length === 0) return undefined;
  const sinceMs = beginningOf(spans, atMs);
  if (atMs - sinceMs <= lagMs) return undefined;
  const { transaction } = running[0]!;
  if (wasHeld) return { code: 'lost-too-early', sinceMs, transaction };
  const sale = saleOf(transaction);
  if (sale?.device === device && !sale.isElsewhere) return { code: 'not-granted', sinceMs, transaction };
  const isRestored = restoredMs.some((ms) => ms >= sinceMs && ms <= atMs - lagMs);
  return isRestored ? { code: 'not-restored', sinceMs, transaction } : undefined;
}

/** Of spans that go over into one another. */
function beginningOf(spans: readonly EntitledSpan[], atMs: number): number {
  let sinceMs = atMs;
  for (const { fromMs, toMs } of [...spans].reverse())
    if (fromMs < sinceMs && toMs >= sinceMs) sinceMs = fromMs;
  return sinceMs;
}
