/** What the store says that is paid for, and what the app says that it gives, as bands of time; and where the two differ. */
import { isLedgerLine, type LedgerLine, readLedger, spansOf, type TraceLine } from 'fenlok';

/** From `fromMs` on and before `toMs`. */
export interface Span {
  fromMs: number;
  toMs: number;
}

export interface Band extends Span {
  product: string;
  /** The store, or the phone. */
  who: string;
  is: 'paid' | 'grace' | 'given' | 'missing' | 'unpaid';
}

/** A moment. */
export interface Mark {
  product: string;
  who: string;
  atMs: number;
  says: string;
}

export interface Picture {
  bands: Band[];
  /** Bands where a phone that is looked at gives what is not paid for, or does not give what is. */
  differences: Band[];
  marks: Mark[];
}

export const STORE = 'store';
/** An app may lag behind the store by so much. */
const LAG_MS = 5_000;

interface Options {
  account: string;
  products: readonly { id: string; kind: string }[];
  devices: readonly string[];
  nowMs: number;
}

export function drawBands(
  lines: readonly TraceLine[],
  { account, devices, nowMs, products }: Options,
): Picture {
  const told = lines.filter(isLedgerLine).map((line) => ({ line, atMs: Date.parse(line.at) }));
  const ledger = readLedger(told.map(({ line }) => line));
  const bands: Band[] = [];
  const differences: Band[] = [];
  for (const { id: product, kind } of products) {
    if (kind === 'consumable') continue;
    const spans = spansOf(ledger, account, product);
    for (const { fromMs, isGrace, toMs } of spans)
      bands.push({ product, who: STORE, fromMs, toMs, is: isGrace ? 'grace' : 'paid' });
    const paid = joined(spans);
    for (const device of devices) {
      const own = told.filter(({ line }) => line.device === device);
      const given = joined(spansWhile(own, nowMs, (line) => givesIn(line, product)));
      const looked = spansWhile(own, nowMs, frontIn);
      for (const one of given) bands.push({ product, who: device, ...one, is: 'given' });
      const differ = (is: Band['is'], spans: readonly Span[]) => {
        for (const one of overlaps(looked, spans))
          if (one.toMs - one.fromMs > LAG_MS) differences.push({ product, who: device, ...one, is });
      };
      differ('missing', without(paid, given));
      differ('unpaid', without(given, paid));
    }
  }
  return { bands, differences, marks: told.flatMap(({ atMs, line }) => markOf(line, atMs)) };
}

interface Told {
  line: LedgerLine;
  atMs: number;
}

/** As long as what was said last says so. */
function spansWhile(
  told: readonly Told[],
  nowMs: number,
  says: (line: LedgerLine) => boolean | undefined,
): Span[] {
  const spans: Span[] = [];
  let sinceMs: number | undefined;
  for (const { atMs, line } of told) {
    const is = says(line);
    if (is === true) sinceMs ??= atMs;
    if (is !== false || sinceMs === undefined) continue;
    spans.push({ fromMs: sinceMs, toMs: atMs });
    sinceMs = undefined;
  }
  if (sinceMs !== undefined) spans.push({ fromMs: sinceMs, toMs: nowMs });
  return spans;
}

function givesIn(line: LedgerLine, product: string): boolean | undefined {
  switch (line.kind) {
    case 'access.now':
      return line.products.includes(product);
    case 'purchase.granted':
      return line.product === product || undefined;
    case 'purchase.withdrawn':
      return line.product === product ? false : undefined;
    default:
      return undefined;
  }
}

const frontIn = ({ kind }: LedgerLine): boolean | undefined =>
  kind === 'app.opened' ? true : kind === 'app.left' ? false : undefined;

/** Those that touch or overlap, as one; in order. */
function joined(spans: readonly Span[]): Span[] {
  const found: Span[] = [];
  for (const { fromMs, toMs } of [...spans].sort((a, b) => a.fromMs - b.fromMs)) {
    const last = found.at(-1);
    if (last && last.toMs >= fromMs) last.toMs = Math.max(last.toMs, toMs);
    else found.push({ fromMs, toMs });
  }
  return found;
}

const overlaps = (some: readonly Span[], others: readonly Span[]): Span[] =>
  some.flatMap((a) =>
    others
      .map((b) => ({ fromMs: Math.max(a.fromMs, b.fromMs), toMs: Math.min(a.toMs, b.toMs) }))
      .filter(({ fromMs, toMs }) => fromMs < toMs),
  );

/** @param others in order, and none touches another */
function without(some: readonly Span[], others: readonly Span[]): Span[] {
  const gaps: Span[] = [];
  let fromMs = Number.NEGATIVE_INFINITY;
  for (const other of others) {
    gaps.push({ fromMs, toMs: other.fromMs });
    fromMs = other.toMs;
  }
  return overlaps(some, [...gaps, { fromMs, toMs: Number.POSITIVE_INFINITY }]);
}

/** By the kind of a line, for what is one moment. */
const MARKED: Partial<Record<LedgerLine['kind'], string>> = {
  'store.bought': 'bought',
  'store.renewed': 'renewed',
  'store.cancelled': 'cancelled',
  'store.failed': 'refused',
  'store.deferred': 'somebody has to agree',
  'store.planned': 'planned for the end of the period',
  'purchase.granted': 'given',
};

function markOf(line: LedgerLine, atMs: number): Mark[] {
  const says = MARKED[line.kind];
  if (says === undefined || !('product' in line)) return [];
  const isOfStore = line.kind.startsWith('store.');
  return [{ product: line.product as string, who: isOfStore ? STORE : (line.device ?? ''), atMs, says }];
}
