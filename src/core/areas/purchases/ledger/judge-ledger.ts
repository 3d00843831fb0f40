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
import {
  type LedgerFault,
  type LedgerOptions,
  type LedgerReport,
  type LedgerRules,
  ledgerRules,
} from './ledger-report.ts';

const FAULTS_KEPT = 1000;

export function judgeLedger(lines: Iterable<LedgerLine>, options: LedgerOptions = {}): LedgerReport {
  const judge = new LedgerJudge(options);
  for (const line of lines) judge.take(line);
  return judge.end();
}

/** What is kept of one product of one account besides its open sales. */
interface Shelf {
  devices: Map<string, Held>;
  ended?: { toMs: number; end: EndReason };
}

/** Takes lines as they come: memory follows the open sales. `end` gives the report, once. */
export class LedgerJudge {
  readonly #rules: LedgerRules;
  readonly #ledger = emptyLedger();
  readonly #shelves = new Map<string, Map<string, Shelf>>();
  readonly #accountOfDevice = new Map<string, { account: string; heardMs: number }>();
  readonly #restoredMs = new Map<string, number[]>();
  /** While the app is left, or the store out of reach, a device can learn nothing. */
  readonly #absences = [new Absence('app'), new Absence('store')];
  /** First time at which the app said that it handed a transaction over. */
  readonly #grantedMs = new Map<string, number>();
  #claims: Claim[] = [];
  #newSales: TransactionRecord[] = [];
  #newestMs = Number.NEGATIVE_INFINITY;
  #settledMs = Number.NEGATIVE_INFINITY;
  readonly #report: LedgerReport = {
    faults: [],
    moreFaults: 0,
    sales: 0,
    renewals: {},
    claims: 0,
    late: 0,
    backwards: 0,
    mostOpen: 0,
  };

  constructor(options: LedgerOptions = {}) {
    this.#rules = ledgerRules(options);
  }

  take(line: LedgerLine): void {
    const atMs = instantMs(line.at);
    if (atMs < this.#settledMs) {
      this.#report.late += 1;
      return;
    }
    if (line.account !== undefined && line.device !== undefined) this.#hear(line.device, line.account, atMs);
    for (const absence of this.#absences) absence.take(line, atMs);
    const claim = claimOf(line, atMs);
    if (claim) this.#claims.push(claim);
    else if (line.kind === 'store.restored') this.#noteRestored(line.device, atMs);
    else this.#addStoreLine(line, atMs);
    if (atMs <= this.#newestMs) return;
    this.#newestMs = atMs;
    // now and then is enough, and what is to be sorted then is short
    const dueMs = this.#newestMs - this.#rules.latenessMs;
    if (dueMs > this.#settledMs + this.#rules.latenessMs / 2) this.#settle(dueMs);
  }

  #hear(device: string, account: string, atMs: number): void {
    const known = this.#accountOfDevice.get(device);
    if (!known) this.#accountOfDevice.set(device, { account, heardMs: atMs });
    else {
      known.account = account;
      known.heardMs = atMs;
    }
  }

  #noteRestored(device: string | undefined, atMs: number): void {
    if (device === undefined) return;
    const times = this.#restoredMs.get(device);
    if (times) times.push(atMs);
    else this.#restoredMs.set(device, [atMs]);
  }

  #addStoreLine(line: LedgerLine, atMs: number): void {
    const isSale = line.kind === 'store.bought' || line.kind === 'store.renewed';
    const isNew = isSale && !this.#ledger.transactions.get(line.transaction)?.sale;
    addToLedger(this.#ledger, line, atMs);
    if (isNew) this.#newSales.push(this.#ledger.transactions.get(line.transaction)!);
  }

  #settle(untilMs: number): void {
    this.#settledMs = untilMs;
    this.#report.mostOpen = Math.max(this.#report.mostOpen, this.#ledger.transactions.size);
    const paid = spansReader(this.#ledger);
    this.#newSales = this.#newSales.filter(({ sale }) => {
      if (sale!.boughtMs > untilMs) return true;
      this.#countSale(sale!, paid);
      return false;
    });
    const due: Claim[] = [];
    this.#claims = this.#claims.filter((claim) => claim.atMs > untilMs || !due.push(claim));
    for (const claim of due.sort((a, b) => a.atMs - b.atMs)) this.#settleClaim(claim, paid);
    for (const record of this.#ledger.transactions.values()) this.#letGoIfOver(record, untilMs, paid);
    if (Number.isFinite(this.#rules.latenessMs)) {
      this.#forgetDevices(untilMs);
      for (const absence of this.#absences) absence.forgetBefore(untilMs - this.#rules.acknowledgeWithinMs);
    }
    for (const [device, times] of this.#restoredMs)
      this.#restoredMs.set(device, [
        ...times.filter((ms) => ms > untilMs),
        ...lastOf(times.filter((ms) => ms <= untilMs)),
      ]);
  }

  #countSale(sale: LedgerTransaction, paid: SpansReader): void {
    this.#report.sales += 1;
    if (sale.untilMs !== undefined && sale.untilMs <= sale.boughtMs) this.#report.backwards += 1;
    if (sale.isRenewal) this.#report.renewals[sale.product] = (this.#report.renewals[sale.product] ?? 0) + 1;
    const spans = paid(sale.account, sale.product);
    this.#tell(
      judgeOwned(sale, this.#kindOf(sale), spans, (id) => this.#ledger.transactions.get(id)?.sale?.original),
    );
  }

  #kindOf({ product, productKind }: LedgerTransaction): ProductKind | undefined {
    return this.#rules.kinds[product] ?? productKind;
  }

  #settleClaim(claim: Claim, paid: SpansReader): void {
    const account = claim.account ?? this.#accountOfDevice.get(claim.device)?.account ?? this.#onlyAccount();
    if (account === undefined) return;
    this.#report.claims += 1;
    if (claim.transaction !== undefined && this.#isSecondGrant(claim, account)) return;
    const ofAccount = this.#ledger.accounts.get(account)?.products;
    const shelf = this.#shelves.get(account) ?? new Map<string, Shelf>();
    const named = claim.does === 'all' ? allOf(claim.products, ofAccount, shelf) : claim.products;
    if (named.length > 0) this.#shelves.set(account, shelf);
    for (const product of named) {
      const isClaimed = claim.does !== 'takes' && claim.products.includes(product);
      if (this.#isUsedUp(account, product)) continue;
      const one: Shelf = shelf.get(product) ?? { devices: new Map() };
      shelf.set(product, one);
      const held = one.devices.get(claim.device) ?? { isHeld: false, sinceMs: claim.atMs };
      one.devices.set(claim.device, held);
      const seen = {
        spans: paid(account, product),
        ended: one.ended,
        saleOf: (id: string) => this.#ledger.transactions.get(id)?.sale,
        restoredMs: this.#restoredMs.get(claim.device) ?? [],
        isCutOff: (fromMs: number) => isCutOff(this.#absences, claim.device, fromMs, claim.atMs),
      };
      this.#tell(judgeClaim(claim, product, account, isClaimed, held, seen, this.#rules));
      if (!isClaimed && !ofAccount?.has(product)) this.#forgetShelf(account, product);
    }
  }

  /** What is used up is not held; but it must not be handed over twice for one sale. */
  #isSecondGrant({ atMs, device, products, transaction }: Claim, account: string): boolean {
    const id = transaction!;
    const before = this.#grantedMs.get(id);
    if (before === undefined) this.#grantedMs.set(id, atMs);
    const [product] = products;
    if (before === undefined || before === atMs || !this.#isUsedUp(account, product!)) return false;
    this.#tell({
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

  #isUsedUp(account: string, product: string): boolean {
    if (this.#rules.kinds[product]) return this.#rules.kinds[product] === 'consumable';
    for (const { sale } of this.#ledger.accounts.get(account)?.products.get(product) ?? [])
      if (sale?.productKind) return sale.productKind === 'consumable';
    return false;
  }

  #onlyAccount(): string | undefined {
    return this.#ledger.accounts.size === 1 ? [...this.#ledger.accounts.keys()][0] : undefined;
  }

  /** Over is what has ended, and was finished in time or is past the time for it. */
  #letGoIfOver(record: TransactionRecord, untilMs: number, paid: SpansReader): void {
    const { sale } = record;
    const beganMs = sale?.boughtMs ?? Math.min(record.refundedMs, record.revokedMs, ...record.finishedMs);
    if (!sale) {
      if (beganMs + this.#rules.acknowledgeWithinMs <= untilMs) this.#ledger.transactions.delete(record.id);
      return;
    }
    const isConsumable = this.#kindOf(sale) === 'consumable';
    if (
      !isConsumable &&
      (sale.untilMs ?? Number.POSITIVE_INFINITY) > untilMs &&
      !this.#isCut(record, untilMs)
    )
      return;
    const isDone = sale.isRenewal || sale.isElsewhere || record.finishedMs.length > 0;
    if (!isDone && beganMs + this.#rules.acknowledgeWithinMs > untilMs) return;
    const own = paid(sale.account, sale.product).filter(({ transaction }) => transaction === record.id);
    if (!isConsumable && own.some(({ toMs }) => toMs > untilMs)) return;
    this.#judgeFinished(record, sale, untilMs);
    this.#rememberEnd(sale, own);
    this.#grantedMs.delete(record.id);
    forgetTransaction(this.#ledger, record);
  }

  #judgeFinished(record: TransactionRecord, sale: LedgerTransaction, nowMs: number): void {
    const handling = {
      grantedMs: this.#grantedMs.get(record.id),
      isCutOff: (untilMs: number) => isCutOff(this.#absences, sale.device, sale.boughtMs, untilMs),
    };
    for (const fault of judgeFinish(record, sale, handling, nowMs, this.#rules)) this.#tell(fault);
  }

  #isCut({ refundedMs, replacedMs, revokedMs, sale }: TransactionRecord, untilMs: number): boolean {
    return (
      Math.min(refundedMs, revokedMs, replacedMs) <= untilMs ||
      (this.#ledger.accounts.get(sale!.account)?.resetMs.length ?? 0) > 0 ||
      (this.#ledger.subscriptions.get(sale!.original)?.expiredMs.length ?? 0) > 0
    );
  }

  /** As long as an app still holds it, or may, its end must be known. */
  #rememberEnd({ account, product }: LedgerTransaction, own: readonly EntitledSpan[]): void {
    const shelf = this.#shelves.get(account)?.get(product);
    if (!shelf) return;
    for (const { end, toMs } of own) if (!shelf.ended || toMs > shelf.ended.toMs) shelf.ended = { toMs, end };
    const isLast = (this.#ledger.accounts.get(account)?.products.get(product)?.size ?? 0) <= 1;
    if (isLast) this.#forgetShelf(account, product);
  }

  /** Nothing is paid for any more, and no app says that it gives it. */
  #forgetShelf(account: string, product: string): void {
    const ofAccount = this.#shelves.get(account);
    for (const { isHeld } of ofAccount?.get(product)?.devices.values() ?? []) if (isHeld) return;
    ofAccount?.delete(product);
    if (ofAccount?.size === 0) this.#shelves.delete(account);
  }

  #forgetDevices(untilMs: number): void {
    for (const [device, { account, heardMs }] of this.#accountOfDevice)
      if (heardMs <= untilMs && !this.#ledger.accounts.has(account) && !this.#shelves.has(account)) {
        this.#accountOfDevice.delete(device);
        this.#restoredMs.delete(device);
        for (const absence of this.#absences) absence.forget(device);
      }
  }

  #tell(fault: LedgerFault | undefined): void {
    if (!fault) return;
    if (this.#report.faults.length < FAULTS_KEPT) this.#report.faults.push(fault);
    else this.#report.moreFaults += 1;
  }

  end(): LedgerReport {
    this.#settle(this.#newestMs);
    for (const record of this.#ledger.transactions.values())
      if (record.sale) this.#judgeFinished(record, record.sale, this.#newestMs);
    this.#report.faults.sort((a, b) => a.atMs - b.atMs);
    return this.#report;
  }
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
