/** Which situations a history of purchases holds, by product, and how the app fared in each: recognised from what happened, not from a script. */
import type { LedgerLine, LedgerLineOf, LedgerTransaction, ProductKind } from '../../../model/ledger.ts';
import type { Outcome } from '../../../model/outcome.ts';
import { Absence, isCutOff } from './absence.ts';
import { type EntitledSpan, spansOf } from './entitlements.ts';
import { type Ledger, readLedger } from './ledger.ts';
import { type ScenarioId, scenarioIds, scenarios } from './scenarios.ts';

/** One situation of one product. */
export interface SeenScenario {
  product: string;
  scenario: ScenarioId;
  outcome: Extract<Outcome, 'passed' | 'failed' | 'untested' | 'inapplicable'>;
  /** How often it was seen. */
  count: number;
  /** The first moment at which the app failed it. */
  failedMs?: number;
}

interface Claim {
  atMs: number;
  device: string;
  account: string;
  products: readonly string[];
  when?: string;
}

interface Timed {
  line: LedgerLine;
  atMs: number;
}

/** A history in the order of time, and its lines by what they are looked up by, since there may be very many. */
interface Reading {
  byKind: ReadonlyMap<string, readonly Timed[]>;
  byDevice: ReadonlyMap<string, readonly Timed[]>;
  ledger: Ledger;
  /** What the app said it gives, by account. */
  claims: ReadonlyMap<string, readonly Claim[]>;
  /** Those that were made while the store was out of reach. */
  cutOffClaims: ReadonlyMap<string, readonly Claim[]>;
  /** When apps were left, and the store out of reach. */
  absences: readonly Absence[];
  lagMs: number;
}

/** Whether the app did right, each time that the situation came up. */
type Trial = { atMs: number; isRight: boolean };

interface ScenarioOptions {
  /** Products that must be looked at, with their kinds. */
  products: Readonly<Record<string, ProductKind>>;
  /** So long an app may lag behind the store. */
  lagMs?: number;
}

export function recogniseScenarios(
  told: readonly LedgerLine[],
  { lagMs = 5_000, products }: ScenarioOptions,
): SeenScenario[] {
  const lines = told.map((line) => ({ line, atMs: Date.parse(line.at) })).sort((a, b) => a.atMs - b.atMs);
  const outOfReach = absenceIn(lines, 'store');
  const isOutOfReach = ({ atMs, device }: Claim) => outOfReach.endOf(device, atMs) !== undefined;
  const claims = claimsIn(lines);
  const reading: Reading = {
    byKind: groupBy(lines, ({ line }) => line.kind),
    byDevice: groupBy(lines, ({ line }) => line.device ?? ''),
    ledger: readLedger(told),
    claims: groupBy(
      claims.filter((claim) => !isOutOfReach(claim)),
      ({ account }) => account,
    ),
    cutOffClaims: groupBy(claims.filter(isOutOfReach), ({ account }) => account),
    absences: [absenceIn(lines, 'app'), outOfReach],
    lagMs,
  };
  return Object.entries(products).flatMap(([product, kind]) =>
    scenarioIds.map((scenario): SeenScenario => {
      if (!scenarios[scenario].kinds.includes(kind))
        return { product, scenario, outcome: 'inapplicable', count: 0 };
      const trials = TRIALS[scenario](reading, product);
      const wrong = trials.find(({ isRight }) => !isRight);
      return {
        product,
        scenario,
        outcome: wrong ? 'failed' : trials.length > 0 ? 'passed' : 'untested',
        count: trials.length,
        ...(wrong && { failedMs: wrong.atMs }),
      };
    }),
  );
}

function groupBy<T>(all: readonly T[], keyOf: (one: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of all) {
    const group = groups.get(keyOf(one));
    if (group) group.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return groups;
}

function absenceIn(lines: readonly Timed[], of: 'app' | 'store'): Absence {
  const absence = new Absence(of);
  for (const { atMs, line } of lines) absence.take(line, atMs);
  return absence;
}

/** By so much the clocks of a device and of the store may differ. */
const SKEW_MS = 1_000;

function claimsIn(lines: readonly Timed[]): Claim[] {
  const accounts = new Map<string, string>();
  for (const { line } of lines)
    if (line.account !== undefined && line.device !== undefined) accounts.set(line.device, line.account);
  return lines.flatMap(({ atMs, line }) => {
    if (line.kind !== 'access.now') return [];
    const { device, products, when } = line;
    return [{ atMs, device, products, when, account: line.account ?? accounts.get(device) ?? '' }];
  });
}

const TRIALS: Readonly<Record<ScenarioId, (reading: Reading, product: string) => Trial[]>> = {
  cancelled: (reading, product) =>
    linesOf(reading, 'store.cancelled', product).map(({ atMs, line }) =>
      unpaidAfter(reading, product, line.account, atMs),
    ),
  bought: (reading, product) => sales(reading, product).map(({ atMs }) => ({ atMs, isRight: true })),
  'at-once': (reading, product) =>
    sales(reading, product).flatMap(({ atMs, line }) => {
      // somebody agreed to it later, and nobody looked
      if (isCutOff(reading.absences, line.device, atMs, atMs)) return [];
      const own = reading.byDevice.get(line.device ?? '') ?? [];
      const next = own.find((one) => one.atMs > atMs && endsTheRun(one.line));
      const said = own.filter(
        (one) => one.atMs >= atMs - SKEW_MS && (!next || one.atMs < next.atMs) && tells(one.line),
      );
      if (said.length === 0 && !next) return [];
      return [{ atMs, isRight: said.some((one) => gives(one.line, product)) }];
    }),
  finished: (reading, product) =>
    sales(reading, product).flatMap(({ atMs, line }) => {
      const times = reading.ledger.transactions.get(line.transaction)?.finishedMs.length ?? 0;
      if (times === 0 && isCutOff(reading.absences, line.device, atMs, Infinity)) return [];
      return [{ atMs, isRight: times === 1 }];
    }),
  relaunched: (reading, product) =>
    claimsWhile(reading, product, ({ device, when }, sale) => when === 'launched' && sale?.device === device),
  'second-device': (reading, product) =>
    restoredClaims(reading, product, (device, sale) => sale?.isElsewhere !== true && sale?.device !== device),
  elsewhere: (reading, product) => restoredClaims(reading, product, (_, sale) => sale?.isElsewhere === true),
  owned: (reading, product) =>
    linesOf(reading, 'store.asked', product).flatMap(({ atMs, line }) => {
      const isOwned = spans(reading, line.account, product).some(
        ({ fromMs, toMs }) => fromMs < atMs && atMs < toMs,
      );
      if (!isOwned) return [];
      const next = linesOf(reading, 'store.asked', product).find((one) => one.atMs > atMs)?.atMs;
      const sold = sales(reading, product).some(
        (sale) => sale.line.account === line.account && sale.atMs > atMs && sale.atMs < (next ?? Infinity),
      );
      return [{ atMs, isRight: !sold }];
    }),
  renewed: (reading, product) =>
    linesOf(reading, 'store.renewed', product).flatMap(({ atMs, line }) => {
      const untilMs = line.until === undefined ? Infinity : Date.parse(line.until);
      const claim = firstClaim(reading, line.account, atMs, untilMs);
      // it may have been refunded, or deleted, meanwhile
      if (!claim || !isPaid(reading, line.account, product, claim.atMs)) return [];
      return [{ atMs, isRight: claim.products.includes(product) }];
    }),
  'one-expired': (reading, product) =>
    expiries(reading, product).flatMap(({ account, atMs }) => {
      const claim = firstClaim(reading, account, atMs, Infinity);
      const paid = claim ? paidAt(reading, account, claim.atMs) : [];
      // another one is owned, and this one was not bought again meanwhile
      if (!claim || paid.length === 0 || paid.includes(product)) return [];
      return [{ atMs, isRight: !claim.products.includes(product) }];
    }),
  'all-expired': (reading, product) =>
    ofKind(reading, 'app.left').flatMap(({ atMs, line }) => {
      const { account, device } = line;
      if (account === undefined || !everPaid(reading, account, product, atMs)) return [];
      if (paidAt(reading, account, atMs).some((one) => !isConsumed(reading, account, one))) return [];
      const last = reading.claims
        .get(account)
        ?.findLast((claim) => claim.device === device && claim.atMs < atMs);
      return [{ atMs, isRight: !last?.products.includes(product) && isQuiet(reading, device, atMs) }];
    }),
  refunded: (reading, product) =>
    takenBack(reading, product).flatMap(({ account, atMs }) => {
      const claim = firstClaim(reading, account, atMs, Infinity);
      if (!claim || isPaid(reading, account, product, claim.atMs)) return [];
      return [{ atMs, isRight: !claim.products.includes(product) }];
    }),
  deferred: (reading, product) =>
    linesOf(reading, 'store.deferred', product).map(({ atMs, line }) =>
      unpaidAfter(reading, product, line.account, atMs),
    ),
  offline: (reading, product) =>
    ofKind(reading, 'store.away').flatMap(({ atMs, line }) => {
      const { account, device } = line;
      const isSame = (one: Claim) => device === undefined || one.device === device;
      const back = ofKind(reading, 'store.back').find((one) => one.atMs > atMs && one.line.device === device);
      const cutOff = (reading.cutOffClaims.get(account) ?? []).filter(isSame);
      const claim = firstOf(cutOff, reading.lagMs, atMs, back?.atMs ?? Infinity);
      // what it had not learnt of before, or has forgotten with its installation, it cannot know
      const before = reading.claims.get(account)?.findLast((one) => isSame(one) && one.atMs <= atMs);
      if (!claim || !before?.products.includes(product)) return [];
      if (cutOff.some((one) => one.when === 'fresh' && atMs < one.atMs && one.atMs <= claim.atMs)) return [];
      if (![atMs, claim.atMs].every((ms) => isPaid(reading, account, product, ms))) return [];
      return [{ atMs, isRight: claim.products.includes(product) }];
    }),
  reset: (reading, product) =>
    ofKind(reading, 'store.reset').flatMap(({ atMs, line }) => {
      if (!everPaid(reading, line.account, product, atMs)) return [];
      const claim = firstClaim(reading, line.account, atMs, Infinity);
      if (!claim || isPaid(reading, line.account, product, claim.atMs)) return [];
      return [{ atMs, isRight: !claim.products.includes(product) }];
    }),
};

type Of<K extends LedgerLine['kind']> = { line: LedgerLineOf<K>; atMs: number };

const ofKind = <K extends LedgerLine['kind']>(reading: Reading, kind: K): readonly Of<K>[] =>
  (reading.byKind.get(kind) ?? []) as readonly Of<K>[];

function linesOf<K extends LedgerLine['kind']>(reading: Reading, kind: K, product: string): Of<K>[] {
  return ofKind(reading, kind).filter(({ line }) => 'product' in line && line.product === product);
}

/** In this app, on one of the devices. */
const sales = (reading: Reading, product: string): Of<'store.bought'>[] =>
  linesOf(reading, 'store.bought', product).filter(({ line }) => line.elsewhere !== true);

const spans = (reading: Reading, account: string, product: string): EntitledSpan[] =>
  spansOf(reading.ledger, account, product);

const isPaid = (reading: Reading, account: string, product: string, atMs: number): boolean =>
  spans(reading, account, product).some(({ fromMs, toMs }) => fromMs <= atMs && atMs < toMs);

const everPaid = (reading: Reading, account: string, product: string, beforeMs: number): boolean =>
  spans(reading, account, product).some(({ fromMs }) => fromMs < beforeMs);

const paidAt = (reading: Reading, account: string, atMs: number): string[] =>
  [...(reading.ledger.accounts.get(account)?.products.keys() ?? [])].filter((product) =>
    isPaid(reading, account, product, atMs),
  );

/** What the app gives next, once it has had time to learn of the change. */
const firstClaim = (
  { claims, lagMs }: Reading,
  account: string,
  afterMs: number,
  beforeMs: number,
): Claim | undefined => firstOf(claims.get(account) ?? [], lagMs, afterMs, beforeMs);

const firstOf = (
  own: readonly Claim[],
  lagMs: number,
  afterMs: number,
  beforeMs: number,
): Claim | undefined =>
  own.find(({ atMs }) => atMs > afterMs + lagMs && atMs < beforeMs) ??
  own.find(({ atMs }) => atMs > afterMs && atMs < beforeMs);

/** Nothing is given until it is paid for. */
function unpaidAfter(reading: Reading, product: string, account: string, atMs: number): Trial {
  const devices = new Set(reading.claims.get(account)?.map(({ device }) => device));
  const isRight = [...devices].every((device) =>
    (reading.byDevice.get(device) ?? []).every(
      ({ atMs: ms, line }) =>
        ms <= atMs || !gives(line, product) || everPaid(reading, account, product, ms + SKEW_MS),
    ),
  );
  return { atMs, isRight };
}

/** Claims made while it is paid for, of those that are wanted. */
function claimsWhile(
  reading: Reading,
  product: string,
  isWanted: (claim: Claim, sale: LedgerTransaction | undefined) => boolean,
): Trial[] {
  return [...reading.claims.values()].flat().flatMap((claim) => {
    const span = spans(reading, claim.account, product).find(
      ({ fromMs, toMs }) => fromMs + reading.lagMs < claim.atMs && claim.atMs < toMs,
    );
    if (!span || !isWanted(claim, firstSale(reading, span.transaction))) return [];
    return [{ atMs: claim.atMs, isRight: claim.products.includes(product) }];
  });
}

/** The purchase that a renewal goes back to. */
function firstSale({ ledger }: Reading, transaction: string): LedgerTransaction | undefined {
  const sale = ledger.transactions.get(transaction)?.sale;
  return (sale && ledger.transactions.get(sale.original)?.sale) ?? sale;
}

/** Claims on a device that had asked for what was bought before, since it was paid. */
const restoredClaims = (
  reading: Reading,
  product: string,
  isWanted: (device: string, sale: LedgerTransaction | undefined) => boolean,
): Trial[] =>
  claimsWhile(reading, product, (claim, sale) => {
    if (!isWanted(claim.device, sale)) return false;
    const boughtMs = sale?.boughtMs ?? Infinity;
    return ofKind(reading, 'purchase.restoring').some(
      ({ atMs, line }) =>
        line.device === claim.device && atMs > boughtMs && atMs < claim.atMs - reading.lagMs,
    );
  });

/** What is used up is never over. */
const isConsumed = ({ ledger }: Reading, account: string, product: string): boolean =>
  [...(ledger.accounts.get(account)?.products.get(product) ?? [])].every(
    ({ sale }) => sale?.productKind === 'consumable',
  );

const endsWith = (reading: Reading, product: string, isEnd: (span: EntitledSpan) => boolean) =>
  [...reading.ledger.accounts.keys()].flatMap((account) => {
    const all = spans(reading, account, product);
    return all
      .filter(isEnd)
      .filter(({ toMs }) => !all.some((other) => other.fromMs <= toMs && toMs < other.toMs))
      .map(({ toMs }) => ({ account, atMs: toMs }));
  });
const expiries = (reading: Reading, product: string) =>
  endsWith(reading, product, ({ end, toMs }) => end === 'expired' && Number.isFinite(toMs));
const takenBack = (reading: Reading, product: string) =>
  endsWith(reading, product, ({ end }) => end === 'refunded' || end === 'revoked');

const endsTheRun = (line: LedgerLine): boolean =>
  line.kind === 'app.opened' ||
  (line.kind === 'access.now' && (line.when === 'launched' || line.when === 'fresh'));
const tells = ({ kind }: LedgerLine): boolean => kind === 'access.now' || kind === 'purchase.granted';
const gives = (line: LedgerLine, product: string): boolean =>
  line.kind === 'access.now'
    ? line.products.includes(product)
    : line.kind === 'purchase.granted' && line.product === product;

const ASKS = new Set(['store.listed', 'store.asked', 'store.restored']);

/** Once its user has left it, the app asks the store for nothing until it is opened again. */
function isQuiet({ byDevice, lagMs }: Reading, device: string, leftMs: number): boolean {
  for (const { atMs, line } of byDevice.get(device) ?? []) {
    if (atMs <= leftMs + lagMs) continue;
    if (line.kind === 'app.opened') return true;
    if (ASKS.has(line.kind)) return false;
  }
  return true;
}
