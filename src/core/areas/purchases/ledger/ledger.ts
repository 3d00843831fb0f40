/**
 * The ledger: all that a store said, added up. What is added twice, late or in another order adds up to the same, since
 * every record keeps times and takes the earliest (or, of a period's end, the latest); nothing is worked out until it is asked for.
 */

import type { LedgerLine, LedgerLineOf, LedgerTransaction } from '../../../model/ledger.ts';
import { instantMs } from './instant.ts';

/** A transaction may be finished or refunded before its sale is heard of. */
export interface TransactionRecord {
  id: string;
  sale?: LedgerTransaction;
  refundedMs: number;
  revokedMs: number;
  replacedMs: number;
  /** Each time once. */
  finishedMs: number[];
}

/** What holds for all transactions of one subscription. */
interface SubscriptionRecord {
  expiredMs: number[];
  /** A renewal was not paid at `atMs`, and the goods stay until `untilMs`. */
  grace: { atMs: number; untilMs: number }[];
  transactions: Set<TransactionRecord>;
}

interface AccountRecord {
  id: string;
  resetMs: number[];
  /** Transactions by product. */
  products: Map<string, Set<TransactionRecord>>;
}

export interface Ledger {
  accounts: Map<string, AccountRecord>;
  transactions: Map<string, TransactionRecord>;
  subscriptions: Map<string, SubscriptionRecord>;
}

export const emptyLedger = (): Ledger => ({
  accounts: new Map(),
  transactions: new Map(),
  subscriptions: new Map(),
});

/** Lines of anybody else than the store change nothing. */
export function readLedger(lines: Iterable<LedgerLine>): Ledger {
  const ledger = emptyLedger();
  for (const line of lines) addToLedger(ledger, line, instantMs(line.at));
  return ledger;
}

export function addToLedger(ledger: Ledger, line: LedgerLine, atMs: number): void {
  switch (line.kind) {
    case 'store.bought':
    case 'store.renewed':
      addSale(ledger, line, atMs);
      break;
    case 'store.finished': {
      const { finishedMs } = transactionOf(ledger, line.transaction);
      if (!finishedMs.includes(atMs)) finishedMs.push(atMs);
      break;
    }
    case 'store.refunded': {
      const record = transactionOf(ledger, line.transaction);
      record.refundedMs = Math.min(record.refundedMs, atMs);
      break;
    }
    case 'store.revoked': {
      const record = transactionOf(ledger, line.transaction);
      record.revokedMs = Math.min(record.revokedMs, atMs);
      break;
    }
    case 'store.expired':
      subscriptionOf(ledger, line.original).expiredMs.push(atMs);
      break;
    case 'store.unpaid':
      if (line.until !== undefined)
        subscriptionOf(ledger, line.original).grace.push({ atMs, untilMs: instantMs(line.until) });
      break;
    case 'store.reset':
      accountOf(ledger, line.account).resetMs.push(atMs);
      break;
    default:
  }
}

function addSale(
  ledger: Ledger,
  line: LedgerLineOf<'store.bought'> | LedgerLineOf<'store.renewed'>,
  atMs: number,
): void {
  const sale: LedgerTransaction = {
    id: line.transaction,
    original: line.original,
    account: line.account,
    product: line.product,
    productKind: line.productKind,
    boughtMs: atMs,
    untilMs: line.until === undefined ? undefined : instantMs(line.until),
    isRenewal: line.kind === 'store.renewed',
    isElsewhere: line.elsewhere === true,
    device: line.device,
  };
  const record = transactionOf(ledger, sale.id);
  if (line.replaces !== undefined) {
    const replaced = transactionOf(ledger, line.replaces);
    replaced.replacedMs = Math.min(replaced.replacedMs, atMs);
  }
  if (record.sale && !isBefore(sale, record.sale)) return;
  if (record.sale) forgetSale(ledger, record, record.sale);
  record.sale = sale;
  const { products } = accountOf(ledger, sale.account);
  const ofProduct = products.get(sale.product);
  if (ofProduct) ofProduct.add(record);
  else products.set(sale.product, new Set([record]));
  subscriptionOf(ledger, sale.original).transactions.add(record);
}

/** Two sales of one number contradict each other; whichever was told first, the same one is believed. */
const isBefore = (a: LedgerTransaction, b: LedgerTransaction): boolean =>
  a.boughtMs !== b.boughtMs ? a.boughtMs < b.boughtMs : formatAll(a) < formatAll(b);
const formatAll = (sale: LedgerTransaction): string =>
  [sale.product, sale.account, sale.original, sale.untilMs, sale.isRenewal, sale.isElsewhere].join(' ');

/** A transaction leaves the ledger, and what is empty then goes too. */
export function forgetTransaction(ledger: Ledger, record: TransactionRecord): void {
  if (record.sale) forgetSale(ledger, record, record.sale);
  ledger.transactions.delete(record.id);
}

function forgetSale(ledger: Ledger, record: TransactionRecord, sale: LedgerTransaction): void {
  const account = ledger.accounts.get(sale.account);
  const ofProduct = account?.products.get(sale.product);
  ofProduct?.delete(record);
  if (ofProduct?.size === 0) account?.products.delete(sale.product);
  if (account?.products.size === 0 && account.resetMs.length === 0) ledger.accounts.delete(sale.account);
  const subscription = ledger.subscriptions.get(sale.original);
  subscription?.transactions.delete(record);
  if (subscription?.transactions.size === 0) ledger.subscriptions.delete(sale.original);
}

function transactionOf(ledger: Ledger, id: string): TransactionRecord {
  const known = ledger.transactions.get(id);
  if (known) return known;
  const record: TransactionRecord = {
    id,
    refundedMs: Number.POSITIVE_INFINITY,
    revokedMs: Number.POSITIVE_INFINITY,
    replacedMs: Number.POSITIVE_INFINITY,
    finishedMs: [],
  };
  ledger.transactions.set(id, record);
  return record;
}

function subscriptionOf(ledger: Ledger, original: string): SubscriptionRecord {
  const known = ledger.subscriptions.get(original);
  if (known) return known;
  const record: SubscriptionRecord = { expiredMs: [], grace: [], transactions: new Set() };
  ledger.subscriptions.set(original, record);
  return record;
}

function accountOf(ledger: Ledger, id: string): AccountRecord {
  const known = ledger.accounts.get(id);
  if (known) return known;
  const record: AccountRecord = { id, resetMs: [], products: new Map() };
  ledger.accounts.set(id, record);
  return record;
}
