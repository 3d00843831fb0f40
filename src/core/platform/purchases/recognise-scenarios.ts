/** Which situations a history of purchases holds, by product, and how the app fared in each: recognised from what happened, not from a script. */
import type { LedgerLine, LedgerLineOf, ProductKind } from '../../model/ledger.ts';
import type { Outcome } from '../../model/outcome.ts';
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

interface Reading {
  lines: readonly { line: LedgerLine; atMs: number }[];
  ledger: Ledger;
  /** All that the app said it gives, in the order of time. */
  claims: readonly Claim[];
  lagMs: number;
}

/** Whether the app did right, each time that the situation came up. */
type Trial = { atMs: number; isRight: boolean };

export interface ScenarioOptions {
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
  const reading: Reading = { lines, ledger: readLedger(told), claims: claimsIn(lines), lagMs };
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

/** By so much the clocks of a device and of the store may differ. */
const SKEW_MS = 1_000;

function claimsIn(lines: Reading['lines']): Claim[] {
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
      const next = reading.lines.find((one) => one.atMs > atMs && endsTheRun(one.line, line.device));
      const said = reading.lines.filter(
        (one) =>
          one.atMs >= atMs - SKEW_MS && (!next || one.atMs < next.atMs) && tellsOf(one.line, line.device),
      );
      if (said.length === 0 && !next) return [];
      return [{ atMs, isRight: said.some((one) => gives(one.line, product)) }];
    }),
  finished: (reading, product) =>
    sales(reading, product).map(({ atMs, line }) => ({
      atMs,
      isRight: (reading.ledger.transactions.get(line.transaction)?.finishedMs.length ?? 0) === 1,
    })),
  relaunched: (reading, product) =>
    claimsWhile(reading, product, ({ device, when }, sale) => when === 'launched' && sale?.device === device),
  'second-device': (reading, product) =>
    restoredClaims(reading, product, (device, sale) => sale?.elsewhere !== true && sale?.device !== device),
  elsewhere: (reading, product) => restoredClaims(reading, product, (_, sale) => sale?.elsewhere === true),
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
      return claim ? [{ atMs, isRight: claim.products.includes(product) }] : [];
    }),
  'one-expired': (reading, product) =>
    expiries(reading, product).flatMap(({ account, atMs }) => {
      const claim = firstClaim(reading, account, atMs, Infinity);
      const others = claim ? paidAt(reading, account, claim.atMs).filter((one) => one !== product) : [];
      if (!claim || others.length === 0) return [];
      return [{ atMs, isRight: !claim.products.includes(product) }];
    }),
  'all-expired': (reading, product) =>
    reading.lines.flatMap(({ atMs, line }) => {
      const { account, device, kind } = line;
      if (kind !== 'app.left' || account === undefined || !everPaid(reading, account, product, atMs))
        return [];
      if (paidAt(reading, account, atMs).some((one) => !isConsumed(reading, account, one))) return [];
      const last = reading.claims.findLast((claim) => claim.device === device && claim.atMs < atMs);
      return [{ atMs, isRight: !last?.products.includes(product) && isQuiet(reading, line.device, atMs) }];
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
    reading.lines.flatMap(({ atMs, line }) => {
      if (line.kind !== 'store.away') return [];
      const back = reading.lines.find((one) => one.atMs > atMs && one.line.kind === 'store.back');
      const claim = firstClaim(reading, line.account, atMs, back?.atMs ?? Infinity);
      if (!claim || !isPaid(reading, line.account, product, claim.atMs)) return [];
      return [{ atMs, isRight: claim.products.includes(product) }];
    }),
  reset: (reading, product) =>
    reading.lines.flatMap(({ atMs, line }) => {
      if (line.kind !== 'store.reset' || !everPaid(reading, line.account, product, atMs)) return [];
      const claim = firstClaim(reading, line.account, atMs, Infinity);
      if (!claim || isPaid(reading, line.account, product, claim.atMs)) return [];
      return [{ atMs, isRight: !claim.products.includes(product) }];
    }),
};

type Of<K extends LedgerLine['kind']> = { line: LedgerLineOf<K>; atMs: number };

function linesOf<K extends LedgerLine['kind']>(reading: Reading, kind: K, product: string): Of<K>[] {
  return reading.lines.filter(
    ({ line }) => line.kind === kind && (line as { product?: string }).product === product,
  ) as Of<K>[];
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
): Claim | undefined =>
  claims.find((one) => one.account === account && one.atMs > afterMs + lagMs && one.atMs < beforeMs) ??
  claims.find((one) => one.account === account && one.atMs > afterMs && one.atMs < beforeMs);

/** Nothing is given until it is paid for. */
function unpaidAfter(reading: Reading, product: string, account: string, atMs: number): Trial {
  const devices = new Set(
    reading.claims.filter((one) => one.account === account).map(({ device }) => device),
  );
  const isRight = reading.lines.every(
    ({ atMs: ms, line }) =>
      ms <= atMs ||
      line.device === undefined ||
      !devices.has(line.device) ||
      !gives(line, product) ||
      everPaid(reading, account, product, ms + SKEW_MS),
  );
  return { atMs, isRight };
}

type Sale = LedgerLineOf<'store.bought'> | LedgerLineOf<'store.renewed'>;

/** Claims made while it is paid for, of those that are wanted. */
function claimsWhile(
  reading: Reading,
  product: string,
  isWanted: (claim: Claim, sale: Sale | undefined) => boolean,
): Trial[] {
  return reading.claims.flatMap((claim) => {
    const span = spans(reading, claim.account, product).find(
      ({ fromMs, toMs }) => fromMs + reading.lagMs < claim.atMs && claim.atMs < toMs,
    );
    if (!span || !isWanted(claim, firstSale(reading, span.transaction))) return [];
    return [{ atMs: claim.atMs, isRight: claim.products.includes(product) }];
  });
}

/** The purchase that a renewal goes back to. */
function firstSale(reading: Reading, transaction: string): Sale | undefined {
  const original = reading.ledger.transactions.get(transaction)?.sale?.original;
  const all = reading.lines.flatMap(({ line }) =>
    line.kind === 'store.bought' || line.kind === 'store.renewed' ? [line] : [],
  );
  return (
    all.find((one) => one.transaction === original) ?? all.find((one) => one.transaction === transaction)
  );
}

/** Claims on a device that had asked for what was bought before, since it was paid. */
const restoredClaims = (
  reading: Reading,
  product: string,
  isWanted: (device: string, sale: Sale | undefined) => boolean,
): Trial[] =>
  claimsWhile(reading, product, (claim, sale) => {
    if (!isWanted(claim.device, sale)) return false;
    const boughtMs = sale ? Date.parse(sale.at) : Infinity;
    return reading.lines.some(
      ({ atMs, line }) =>
        line.kind === 'purchase.restoring' &&
        line.device === claim.device &&
        atMs > boughtMs &&
        atMs < claim.atMs - reading.lagMs,
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

const endsTheRun = (line: LedgerLine, device: string | undefined): boolean =>
  (line.kind === 'access.now' &&
    line.device === device &&
    (line.when === 'launched' || line.when === 'fresh')) ||
  (line.kind === 'app.opened' && line.device === device);
const tellsOf = (line: LedgerLine, device: string | undefined): boolean =>
  (line.kind === 'access.now' || line.kind === 'purchase.granted') && line.device === device;
const gives = (line: LedgerLine, product: string): boolean =>
  line.kind === 'access.now'
    ? line.products.includes(product)
    : line.kind === 'purchase.granted' && line.product === product;

const ASKS = new Set(['store.listed', 'store.asked', 'store.restored']);

/** Once its user has left it, the app asks the store for nothing until it is opened again. */
function isQuiet({ lagMs, lines }: Reading, device: string, leftMs: number): boolean {
  for (const { atMs, line } of lines) {
    if (atMs <= leftMs + lagMs || line.device !== device) continue;
    if (line.kind === 'app.opened') return true;
    if (ASKS.has(line.kind)) return false;
  }
  return true;
}
