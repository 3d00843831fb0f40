/** What an account has paid for at a moment, as the store's own word adds up. */
import type { LedgerTransaction } from '../../../model/ledger.ts';
import type { Ledger, TransactionRecord } from './ledger.ts';

export type EndReason = 'refunded' | 'revoked' | 'replaced' | 'reset' | 'expired';

/** From `fromMs` on and before `toMs`, which is infinite where it is for good. */
export interface EntitledSpan {
  fromMs: number;
  toMs: number;
  end: EndReason;
  transaction: string;
  /** The period is over, its renewal is unpaid, and the store lets the user keep the goods for a while. */
  isGrace: boolean;
}

export interface Entitlement {
  account: string;
  product: string;
  /** Undefined where it is for good. */
  untilMs?: number;
  isGrace: boolean;
  transactions: string[];
}

/** Sorted by account and product. */
export function entitlementsAt(ledger: Ledger, atMs: number): Entitlement[] {
  const found: Entitlement[] = [];
  for (const account of [...ledger.accounts.keys()].sort())
    for (const product of [...ledger.accounts.get(account)!.products.keys()].sort()) {
      const spans = spansOf(ledger, account, product).filter(
        ({ fromMs, toMs }) => fromMs <= atMs && atMs < toMs,
      );
      if (spans.length === 0) continue;
      const untilMs = Math.max(...spans.map(({ toMs }) => toMs));
      found.push({
        account,
        product,
        ...(Number.isFinite(untilMs) && { untilMs }),
        isGrace: spans.every(({ isGrace }) => isGrace),
        transactions: [...new Set(spans.map(({ transaction }) => transaction))].sort(),
      });
    }
  return found;
}

/** In order of their beginnings; those of several transactions may overlap. */
export function spansOf(ledger: Ledger, account: string, product: string): EntitledSpan[] {
  const records = ledger.accounts.get(account)?.products.get(product) ?? [];
  const spans: EntitledSpan[] = [];
  for (const record of records) addSpans(ledger, record, spans);
  return spans.length < 2 ? spans : spans.sort(inOrder);
}

const inOrder = (a: EntitledSpan, b: EntitledSpan): number =>
  a.fromMs - b.fromMs || a.toMs - b.toMs || (a.transaction < b.transaction ? -1 : 1);

/** Its own span, and the grace that follows where this is the one that could not be renewed and nothing had ended it. */
function addSpans(ledger: Ledger, record: TransactionRecord, spans: EntitledSpan[]): void {
  const { sale } = record;
  if (!sale) return;
  const cut = cutAfter(ledger, record, sale, sale.boughtMs);
  addSpan(spans, record, sale.boughtMs, sale.untilMs ?? Number.POSITIVE_INFINITY, cut, false);
  const subscription = ledger.subscriptions.get(sale.original);
  for (const { atMs, untilMs } of subscription?.grace ?? [])
    if (cut.toMs > atMs && lastBefore(subscription!.transactions, atMs) === record)
      addSpan(spans, record, atMs, untilMs, cutAfter(ledger, record, sale, atMs), true);
}

interface Cut {
  toMs: number;
  end: EndReason;
}

function addSpan(
  spans: EntitledSpan[],
  { id }: TransactionRecord,
  fromMs: number,
  untilMs: number,
  cut: Cut,
  isGrace: boolean,
): void {
  const isWhole = untilMs < cut.toMs;
  const toMs = isWhole ? untilMs : cut.toMs;
  if (toMs > fromMs)
    spans.push({ fromMs, toMs, end: isWhole ? 'expired' : cut.end, transaction: id, isGrace });
}

/** What ends it before its time, the first of all; of several at once, the one that stands first here. */
function cutAfter(
  ledger: Ledger,
  { refundedMs, replacedMs, revokedMs }: TransactionRecord,
  { account, original }: LedgerTransaction,
  fromMs: number,
): Cut {
  const cut: Cut = { toMs: refundedMs, end: 'refunded' };
  const orAt = (ms: number, end: EndReason) => {
    if (ms >= cut.toMs) return;
    cut.toMs = ms;
    cut.end = end;
  };
  orAt(revokedMs, 'revoked');
  orAt(replacedMs, 'replaced');
  const resets = ledger.accounts.get(account)?.resetMs;
  if (resets?.length) orAt(firstAfter(resets, fromMs), 'reset');
  const expired = ledger.subscriptions.get(original)?.expiredMs;
  if (expired?.length) orAt(firstAfter(expired, fromMs), 'expired');
  return cut;
}

function firstAfter(times: readonly number[], afterMs: number): number {
  let first = Number.POSITIVE_INFINITY;
  for (const ms of times) if (ms > afterMs && ms < first) first = ms;
  return first;
}

/** Bought last at that moment; of two at once, the one with the greater number. */
function lastBefore(records: Iterable<TransactionRecord>, atMs: number): TransactionRecord | undefined {
  let last: TransactionRecord | undefined;
  for (const record of records) {
    const { sale } = record;
    if (!sale || sale.boughtMs > atMs) continue;
    const before = last?.sale;
    if (
      !before ||
      sale.boughtMs > before.boughtMs ||
      (sale.boughtMs === before.boughtMs && sale.id > before.id)
    )
      last = record;
  }
  return last;
}
