/** A sale against its own rules: finished once, in time, after the goods were handed over; and not sold to an owner. */
import type { LedgerTransaction, ProductKind } from '../../../model/ledger.ts';
import type { EntitledSpan } from './entitlements.ts';
import type { TransactionRecord } from './ledger.ts';
import type { LedgerFault, LedgerFaultCode, LedgerRules } from './ledger-report.ts';

/** What the app on its device is known to have done about a sale. */
export interface Handling {
  /** When it said that it handed the sale over. */
  grantedMs?: number;
  /** Whether it was cut off from the sale until then, and so could not finish it. */
  isCutOff(untilMs: number): boolean;
}

/**
 * @param nowMs the moment from which is looked back
 */
export function judgeFinish(
  record: TransactionRecord,
  sale: LedgerTransaction,
  { grantedMs, isCutOff }: Handling,
  nowMs: number,
  { acknowledgeWithinMs, lagMs, skewMs }: LedgerRules,
): LedgerFault[] {
  const faults: LedgerFault[] = [];
  const say = (code: LedgerFaultCode, atMs: number) => faults.push({ ...faultOf(sale, code), atMs });
  const dueMs = sale.boughtMs + acknowledgeWithinMs;
  const [firstMs, secondMs] = [...record.finishedMs].sort((a, b) => a - b);
  // of renewals and of what was bought elsewhere, the platforms do not ask the same
  const mustFinish = !sale.isRenewal && !sale.isElsewhere;
  if (firstMs === undefined) {
    const goneMs = Math.min(record.refundedMs, record.revokedMs);
    const couldFinish = mustFinish && !isCutOff(Math.min(nowMs, goneMs, dueMs));
    if (couldFinish && Math.min(nowMs, goneMs) >= dueMs - lagMs) say('overdue', dueMs);
    else if (couldFinish && goneMs > nowMs && nowMs - sale.boughtMs > lagMs) say('unfinished', nowMs);
    return faults;
  }
  if (mustFinish && firstMs > dueMs) say('overdue', firstMs);
  if (secondMs !== undefined) say('finished-twice', secondMs);
  // who has it already is handed nothing at a renewal; another device is, later
  const isHandedOver = !sale.isRenewal && grantedMs !== undefined;
  if (isHandedOver && grantedMs > firstMs + skewMs) say('finished-early', firstMs);
  return faults;
}

/** @param spans of the same product and account */
export function judgeOwned(
  sale: LedgerTransaction,
  kind: ProductKind | undefined,
  spans: readonly EntitledSpan[],
  originalOf: (transaction: string) => string | undefined,
): LedgerFault | undefined {
  if (sale.isRenewal || sale.isElsewhere || (kind !== 'non-consumable' && kind !== 'subscription'))
    return undefined;
  const owned = spans.find(
    ({ fromMs, toMs, transaction }) =>
      transaction !== sale.id &&
      (fromMs < sale.boughtMs || (fromMs === sale.boughtMs && transaction < sale.id)) &&
      toMs > sale.boughtMs &&
      originalOf(transaction) !== sale.original,
  );
  return owned && { ...faultOf(sale, 'sold-twice'), atMs: sale.boughtMs, sinceMs: owned.fromMs };
}

const faultOf = ({ account, boughtMs, device, id, product }: LedgerTransaction, code: LedgerFaultCode) => ({
  code,
  product,
  account,
  ...(device !== undefined && { device }),
  transaction: id,
  sinceMs: boughtMs,
});
