/**
 * Holds what an app gives its user against what the store says, and each sale against its rules, in one pass over lines that
 * come in about the order of their times. A line may come late by `latenessMs`; what is older is settled: claims are judged,
 * and sales that are over are let go, so that memory follows the open ones and not the length of the history.
 */

import type { LedgerLine, LedgerTransaction, ProductKind } from '../../../model/ledger.ts';
import { Absence, isCutOff } from './absence.ts';
import { type EndReason, type EntitledSpan, spansOf } from './entitlements.ts';
import { instantMs } from './instant.ts';
import { type Claim, type Held, judgeClaim } from './judge-claim.ts';
import { judgeFinish, judgeOwned } from './judge-sale.ts';
import {
  addToLedger,
  emptyLedger,
  forgetTransaction,
  type Ledger,
  type TransactionRecord,
} from './ledger.ts';
import { type LedgerFault, type LedgerOptions, type LedgerReport, ledgerRules } from './ledger-report.ts';

const FAULTS_KEPT = 1000;

export interface LedgerJudge {
  take(line: LedgerLine): void;
  end(): LedgerReport;
}

export function judgeLedger(lines: Iterable<LedgerLine>, options: LedgerOptions = {}): LedgerReport {
  const judge = ledgerJudge(options);
  for (const line of lines) judge.take(line);
  return judge.end();
}

/** What is kept of one product of one account besides its open sales. */
interface Shelf {
  devices: Map<string, Held>;
  ended?: { toMs: number; end: EndReason };
}

export function ledgerJudge(options: LedgerOptions = {}): LedgerJudge {
  const rules = ledgerRules(options);
  const ledger = emptyLedger();
  const shelves = new Map<string, Map<string, Shelf>>();
  const accountOfDevice = new Map<string, { account: string; heardMs: number }>();
  const restoredMs = new Map<string, number[]>();
  /** While the app is left, or the store out of reach, a device can learn nothing. */
  const absences = [new Absence('app'), new Absence('store')];
  /** First time at which the app said that it handed a transaction over. */
  const grantedMs = new Map<string, number>();
  let claims: Claim[] = [];
  let newSales: TransactionRecord[] = [];
  let newestMs = Number.NEGATIVE_INFINITY;
  let settledMs = Number.NEGATIVE_INFINITY;
  const report: LedgerReport = {
    faults: [],
    moreFaults: 0,
    sales: 0,
    renewals: {},
    claims: 0,
    late: 0,
    backwards: 0,
    mostOpen: 0,
  };

  function take(line: LedgerLine): void {
    const atMs = instantMs(line.at);
    if (atMs < settledMs) {
      report.late += 1;
      return;
    }
    if (line.account !== undefined && line.device !== undefined) hear(line.device, line.account, atMs);
    for (const absence of absences) absence.take(line, atMs);
    const claim = claimOf(line, atMs);
    if (claim) claims.push(claim);
    else if (line.kind === 'store.restored') noteRestored(line.device, atMs);
    else addStoreLine(line, atMs);
    if (atMs <= newestMs) return;
    newestMs = atMs;
    // now and then is enough, and what is to be sorted then is short
    const dueMs = newestMs - rules.latenessMs;
    if (dueMs > settledMs + rules.latenessMs / 2) settle(dueMs);
  }

  function hear(device: string, account: string, atMs: number): void {
    const known = accountOfDevice.get(device);
    if (!known) accountOfDevice.set(device, { account, heardMs: atMs });
    else {
      known.account = account;
      known.heardMs = atMs;
    }
  }

  function noteRestored(device: string | undefined, atMs: number): void {
    if (device === undefined) return;
    const times = restoredMs.get(device);
    if (times) times.push(atMs);
    else restoredMs.set(device, [atMs]);
  }

  function addStoreLine(line: LedgerLine, atMs: number): void {
    const isSale = line.kind === 'store.bought' || line.kind === 'store.renewed';
    const isNew = isSale && !ledger.transactions.get(line.transaction)?.sale;
    addToLedger(ledger, line, atMs);
    if (isNew) newSales.push(ledger.transactions.get(line.transaction)!);
  }

  function settle(untilMs: number): void {
    settledMs = untilMs;
    report.mostOpen = Math.max(report.mostOpen, ledger.transactions.size);
    const paid = spansReader(ledger);
    newSales = newSales.filter(({ sale }) => {
      if (sale!.boughtMs > untilMs) return true;
      countSale(sale!, paid);
      return false;
    });
    const due: Claim[] = [];
    claims = claims.filter((claim) => claim.atMs > untilMs || !due.push(claim));
    for (const claim of due.sort((a, b) => a.atMs - b.atMs)) settleClaim(claim, paid);
    for (const record of ledger.transactions.values()) letGoIfOver(record, untilMs, paid);
    if (Number.isFinite(rules.latenessMs)) {
      forgetDevices(untilMs);
      for (const absence of absences) absence.forgetBefore(untilMs - rules.acknowledgeWithinMs);
    }
    for (const [device, times] of restoredMs)
      restoredMs.set(device, [
        ...times.filter((ms) => ms > untilMs),
        ...lastOf(times.filter((ms) => ms <= untilMs)),
      ]);
  }

  function countSale(sale: LedgerTransaction, paid: SpansReader): void {
    report.sales += 1;
    if (sale.untilMs !== undefined && sale.untilMs <= sale.boughtMs) report.backwards += 1;
    if (sale.isRenewal) report.renewals[sale.product] = (report.renewals[sale.product] ?? 0) + 1;
    const spans = paid(sale.account, sale.product);
    tell(judgeOwned(sale, kindOf(sale), spans, (id) => ledger.transactions.get(id)?.sale?.original));
  }

  const kindOf = ({ product, productKind }: LedgerTransaction): ProductKind | undefined =>
    rules.kinds[product] ?? productKind;

  function settleClaim(claim: Claim, paid: SpansReader): void {
    const account = claim.account ?? accountOfDevice.get(claim.device)?.account ?? onlyAccount();
    if (account === undefined) return;
    report.claims += 1;
    if (claim.transaction !== undefined && isSecondGrant(claim, account)) return;
    const ofAccount = ledger.accounts.get(account)?.products;
    const shelf = shelves.get(account) ?? new Map<string, Shelf>();
    const named = claim.does === 'all' ? allOf(claim.products, ofAccount, shelf) : claim.products;
    if (named.length > 0) shelves.set(account, shelf);
    for (const product of named) {
      const isClaimed = claim.does !== 'takes' && claim.products.includes(product);
      if (isUsedUp(account, product)) continue;
      const one: Shelf = shelf.get(product) ?? { devices: new Map() };
      shelf.set(product, one);
      const held = one.devices.get(claim.device) ?? { isHeld: false, sinceMs: claim.atMs };
      one.devices.set(claim.device, held);
      const seen = {
        spans: paid(account, product),
        ended: one.ended,
        saleOf: (id: string) => ledger.transactions.get(id)?.sale,
        restoredMs: restoredMs.get(claim.device) ?? [],
        isCutOff: (fromMs: number) => isCutOff(absences, claim.device, fromMs, claim.atMs),
      };
      tell(judgeClaim(claim, product, account, isClaimed, held, seen, rules));
      if (!isClaimed && !ofAccount?.has(product)) forgetShelf(account, product);
    }
  }

  /** What is used up is not held; but it must not be handed over twice for one sale. */
  function isSecondGrant({ atMs, device, products, transaction }: Claim, account: string): boolean {
    const id = transaction!;
    const before = grantedMs.get(id);
    if (before === undefined) grantedMs.set(id, atMs);
    const [product] = products;
    if (before === undefined || before === atMs || !isUsedUp(account, product!)) return false;
    tell({
      code: 'granted-twice',
      product: product!,
      account,
      device,
      transaction: id,
      atMs,
      sinceMs: before,
    });
    return true;
  }

  function isUsedUp(account: string, product: string): boolean {
    if (rules.kinds[product]) return rules.kinds[product] === 'consumable';
    for (const { sale } of ledger.accounts.get(account)?.products.get(product) ?? [])
      if (sale?.productKind) return sale.productKind === 'consumable';
    return false;
  }

  const onlyAccount = (): string | undefined =>
    ledger.accounts.size === 1 ? [...ledger.accounts.keys()][0] : undefined;

  /** Over is what has ended, and was finished in time or is past the time for it. */
  function letGoIfOver(record: TransactionRecord, untilMs: number, paid: SpansReader): void {
    const { sale } = record;
    const beganMs = sale?.boughtMs ?? Math.min(record.refundedMs, record.revokedMs, ...record.finishedMs);
    if (!sale) {
      if (beganMs + rules.acknowledgeWithinMs <= untilMs) ledger.transactions.delete(record.id);
      return;
    }
    const isConsumable = kindOf(sale) === 'consumable';
    if (!isConsumable && (sale.untilMs ?? Number.POSITIVE_INFINITY) > untilMs && !isCut(record, untilMs))
      return;
    const isDone = sale.isRenewal || sale.isElsewhere || record.finishedMs.length > 0;
    if (!isDone && beganMs + rules.acknowledgeWithinMs > untilMs) return;
    const own = paid(sale.account, sale.product).filter(({ transaction }) => transaction === record.id);
    if (!isConsumable && own.some(({ toMs }) => toMs > untilMs)) return;
    judgeFinished(record, sale, untilMs);
    rememberEnd(sale, own);
    grantedMs.delete(record.id);
    forgetTransaction(ledger, record);
  }

  function judgeFinished(record: TransactionRecord, sale: LedgerTransaction, nowMs: number): void {
    const handling = {
      grantedMs: grantedMs.get(record.id),
      isCutOff: (untilMs: number) => isCutOff(absences, sale.device, sale.boughtMs, untilMs),
    };
    for (const fault of judgeFinish(record, sale, handling, nowMs, rules)) tell(fault);
  }

  const isCut = ({ refundedMs, replacedMs, revokedMs, sale }: TransactionRecord, untilMs: number): boolean =>
    Math.min(refundedMs, revokedMs, replacedMs) <= untilMs ||
    (ledger.accounts.get(sale!.account)?.resetMs.length ?? 0) > 0 ||
    (ledger.subscriptions.get(sale!.original)?.expiredMs.length ?? 0) > 0;

  /** As long as an app still holds it, or may, its end must be known. */
  function rememberEnd({ account, product }: LedgerTransaction, own: readonly EntitledSpan[]): void {
    const shelf = shelves.get(account)?.get(product);
    if (!shelf) return;
    for (const { end, toMs } of own) if (!shelf.ended || toMs > shelf.ended.toMs) shelf.ended = { toMs, end };
    const isLast = (ledger.accounts.get(account)?.products.get(product)?.size ?? 0) <= 1;
    if (isLast) forgetShelf(account, product);
  }

  /** Nothing is paid for any more, and no app says that it gives it. */
  function forgetShelf(account: string, product: string): void {
    const ofAccount = shelves.get(account);
    for (const { isHeld } of ofAccount?.get(product)?.devices.values() ?? []) if (isHeld) return;
    ofAccount?.delete(product);
    if (ofAccount?.size === 0) shelves.delete(account);
  }

  function forgetDevices(untilMs: number): void {
    for (const [device, { account, heardMs }] of accountOfDevice)
      if (heardMs <= untilMs && !ledger.accounts.has(account) && !shelves.has(account)) {
        accountOfDevice.delete(device);
        restoredMs.delete(device);
        for (const absence of absences) absence.forget(device);
      }
  }

  function tell(fault: LedgerFault | undefined): void {
    if (!fault) return;
    if (report.faults.length < FAULTS_KEPT) report.faults.push(fault);
    else report.moreFaults += 1;
  }

  function end(): LedgerReport {
    settle(newestMs);
    for (const record of ledger.transactions.values())
      if (record.sale) judgeFinished(record, record.sale, newestMs);
    report.faults.sort((a, b) => a.atMs - b.atMs);
    return report;
  }

  return { take, end };
}

/** Every claim has the same fields in the same order, which keeps a long history quick. */
function claimOf(line: LedgerLine, atMs: number): Claim | undefined {
  switch (line.kind) {
    case 'access.now':
      return claimBy(line, atMs, 'all', line.products, undefined, line.when === 'fresh');
    case 'purchase.granted':
      return claimBy(line, atMs, 'gives', [line.product], line.transaction, false);
    case 'purchase.withdrawn':
      return claimBy(line, atMs, 'takes', [line.product], undefined, false);
    default:
      return undefined;
  }
}

const claimBy = (
  { account, device }: { account?: string; device: string },
  atMs: number,
  does: Claim['does'],
  products: readonly string[],
  transaction: string | undefined,
  isFresh: boolean,
): Claim => ({ atMs, device, account, does, products, transaction, isFresh });

const lastOf = (times: readonly number[]): number[] => (times.length > 0 ? [Math.max(...times)] : []);

/** Without sets, since most have one or two. */
function allOf(
  claimed: readonly string[],
  ...others: (ReadonlyMap<string, unknown> | undefined)[]
): string[] {
  const all = [...claimed];
  for (const other of others) for (const name of other?.keys() ?? []) if (!all.includes(name)) all.push(name);
  return all;
}

type SpansReader = (account: string, product: string) => EntitledSpan[];

/** Spans are worked out once as long as nothing is added. */
function spansReader(ledger: Ledger): SpansReader {
  const known = new Map<ReadonlySet<TransactionRecord>, EntitledSpan[]>();
  return (account, product) => {
    const records = ledger.accounts.get(account)?.products.get(product);
    if (!records) return [];
    let spans = known.get(records);
    if (!spans) {
      spans = spansOf(ledger, account, product);
      known.set(records, spans);
    }
    return spans;
  };
}
