/** Ads in a trace, as spans: each request until it loaded or failed, and each ad that was shown until its user was back. */
import { type AdLine, type AdLineOf, isAdLine } from '../../../model/ad-line.ts';
import { appCell } from '../../../model/cell.ts';
import type { AdLoadFact, AdSessionFact, AdShowFact } from '../../../model/facts/ads.ts';
import { isLedgerLine } from '../../../model/ledger.ts';
import type { DrillLine, SeenLine, TraceLine } from '../../../model/trace.ts';
import { compareStates } from '../../lifecycle/state/compare-states.ts';
import { screenState } from '../../lifecycle/state/screen-state.ts';
import type { TraceEvidence, TraceObserver } from '../../observer.ts';

export const observeAdRuns = {
  id: 'ad-runs',
  reads: 'trace',
  *observe(trace) {
    const lines = [...trace.lines].sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
    if (!lines.some(isAdLine)) return;
    const reading: Reading = { trace, lines, began: (lines as DrillLine[]).find(isBegin) };
    yield sessionOf(reading);
    for (const [i, line] of lines.entries()) {
      if (!isAdLine(line)) continue;
      if (line.kind === 'ad.requested') yield loadOf(line, i, reading);
      else if (line.kind === 'ad.showed') yield showOf(line, i, reading);
    }
  },
} satisfies TraceObserver;

interface Reading {
  trace: TraceEvidence;
  /** By their times. */
  lines: readonly TraceLine[];
  began?: Extract<DrillLine, { kind: 'drill.began' }>;
}

const isBegin = (line: DrillLine): line is Extract<DrillLine, { kind: 'drill.began' }> =>
  line.kind === 'drill.began';

const common = ({ began, trace }: Reading, { at, device }: AdLine) => ({
  platform: trace.platform,
  evidence: trace.digest,
  cell: began?.cell ?? appCell('ads'),
  at,
  deviceId: began?.deviceId ?? device,
});

function sessionOf(reading: Reading): AdSessionFact {
  const told = reading.lines.filter(isAdLine);
  const device = told.find((line) => line.kind === 'ad.device');
  const asked = new Map<string, AdSessionFact['asked'][number]>();
  for (const line of told)
    if (line.kind === 'ad.asked') {
      const { isRegistered, network, test } = line;
      asked.set(`${network} ${test} ${isRegistered}`, {
        network,
        test,
        ...(!device?.isIdUnknown && { isRegistered }),
      });
    }
  return {
    kind: 'ad-session',
    ...common(reading, told[0]!),
    held: heldIn(reading.lines),
    ...(device && { isDevelopment: device.isDevelopment }),
    asked: [...asked.values()],
  };
}

const heldIn = (lines: readonly TraceLine[]): string[] => [
  ...new Set(
    lines.flatMap((line) => (isLedgerLine(line) && line.kind === 'access.now' ? line.products : [])),
  ),
];

/** Lines of the same device before a place, the last first. */
const before = ({ lines }: Reading, i: number, device: string): AdLine[] =>
  lines
    .slice(0, i)
    .filter(isAdLine)
    .filter((line) => line.device === device)
    .reverse();

function loadOf(asked: AdLineOf<'ad.requested'>, i: number, reading: Reading): AdLoadFact {
  const { device, network, placement, test } = asked;
  const earlier = before(reading, i, device);
  const end = reading.lines.findIndex(
    (line, j) => j > i && isAdLine(line) && line.device === device && endsLoad(line, asked),
  );
  const ended = end < 0 ? undefined : (reading.lines[end] as AdLine);
  const held = earlier.find((line) => line.kind === 'ad.device');
  return {
    kind: 'ad-load',
    ...common(reading, asked),
    placement,
    network,
    ...outcomeOf(ended),
    ...(test !== undefined && { isTest: test }),
    isInitialised: earlier.some((line) => line.kind === 'ad.initialised' && line.network === network),
    consent: consentIn(earlier),
    ...(held && { isDevelopment: held.isDevelopment }),
    ...(!held?.isIdUnknown && { isRegistered: held?.registered.includes(network) ?? false }),
    log: logOf(reading, i, end < 0 ? undefined : end),
  };
}

/** It loaded or failed; or the same was asked for again. */
const endsLoad = (line: AdLine, { network, placement }: AdLineOf<'ad.requested'>): boolean =>
  (line.kind === 'ad.loaded' || line.kind === 'ad.failed' || line.kind === 'ad.requested') &&
  line.network === network &&
  line.placement === placement;

function outcomeOf(ended: AdLine | undefined): Pick<AdLoadFact, 'outcome' | 'reason'> {
  if (ended?.kind === 'ad.loaded') return { outcome: 'loaded', reason: '' };
  if (ended?.kind !== 'ad.failed') return { outcome: 'pending', reason: '' };
  return { outcome: ended.reason === 'no-fill' ? 'no-fill' : 'failed', reason: ended.reason };
}

function consentIn(earlier: readonly AdLine[]): AdLoadFact['consent'] {
  for (const { kind } of earlier) {
    if (kind === 'consent.given') return 'given';
    if (kind === 'consent.refused') return 'refused';
    if (kind === 'consent.asked') return 'asked';
  }
  return 'none';
}

const LOG_LINES = 50;

const logOf = ({ lines }: Reading, from: number, to: number | undefined): AdLoadFact['log'] =>
  lines
    .slice(from, to === undefined ? undefined : to + 1)
    .flatMap((line) => {
      const { kind, message, tag } = line as DrillLine & { message?: unknown; tag?: unknown };
      return kind === 'log.line' && typeof tag === 'string' && typeof message === 'string'
        ? [{ tag, message }]
        : [];
    })
    .slice(0, LOG_LINES);

function showOf(showed: AdLineOf<'ad.showed'>, i: number, reading: Reading): AdShowFact {
  const { lines } = reading;
  const { device, placement } = showed;
  const closedAt = lines.findIndex(
    (line, j) =>
      j > i &&
      isAdLine(line) &&
      line.device === device &&
      (line.kind === 'ad.closed' || line.kind === 'ad.showed') &&
      line.placement === placement,
  );
  const isClosed = closedAt > 0 && lines[closedAt]!.kind === 'ad.closed';
  const was = lines.slice(0, i).findLast(isSeen);
  const is = isClosed ? lines.slice(closedAt).find(isSeen) : undefined;
  const given = lines
    .slice(0, i)
    .filter(isLedgerLine)
    .findLast((line) => line.kind === 'access.now' && line.device === device);
  return {
    kind: 'ad-show',
    ...common(reading, showed),
    placement,
    network: showed.network ?? networkOf(showed, i, reading),
    held: given?.kind === 'access.now' ? [...given.products] : [],
    isClosed,
    before: was?.activity ?? '',
    after: is?.activity ?? '',
    lost:
      was?.tree && is?.tree && was.activity === is.activity
        ? compareStates(screenState(was.tree), screenState(is.tree))
        : [],
  };
}

const isSeen = (line: TraceLine): line is SeenLine => line.kind === 'screen.seen';

/** The one that loaded last for it. */
function networkOf({ device, placement }: AdLineOf<'ad.showed'>, i: number, reading: Reading): string {
  const loaded = before(reading, i, device).find(
    (line) => line.kind === 'ad.loaded' && line.placement === placement,
  );
  return loaded?.kind === 'ad.loaded' ? loaded.network : '';
}
