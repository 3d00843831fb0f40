/** What a trace holds of purchases: offers and listings one by one, sales and what the app gives as one history. */
import { appCell } from '../../../model/cell.ts';
import type { StoreListingFact } from '../../../model/facts/purchases.ts';
import { isLedgerLine, type LedgerLine } from '../../../model/ledger.ts';
import type { DrillLine, TraceLine } from '../../../model/trace.ts';
import type { TraceObserver } from '../../observer.ts';

export const observePurchases = {
  id: 'purchases',
  reads: 'trace',
  *observe({ digest: evidence, lines, platform }) {
    const told = lines.filter(isLedgerLine);
    if (told.length === 0) return;
    const of = { platform, evidence };
    for (const line of told)
      if (line.kind === 'store.offered') {
        const { account: _, device: __, kind: ___, ...offer } = line;
        yield { kind: 'store-offer', ...of, ...offer };
      }
    yield* listingsOf(told).map((listing) => ({ ...listing, ...of }));
    // what an app gives is no history as long as no store says what was sold
    const isTold = told.some(
      ({ kind }) => kind.startsWith('store.') && kind !== 'store.offered' && kind !== 'store.listed',
    );
    if (!isTold) return;
    const began = (lines as (TraceLine | DrillLine)[]).find(isBegin);
    yield {
      kind: 'purchase-history',
      ...of,
      at: began?.at ?? told[0]!.at,
      deviceId: began?.deviceId ?? '',
      cell: began?.cell ?? appCell('purchases'),
      // what asks for a list is a sign of code that runs, too
      lines: told.filter(({ kind }) => kind !== 'store.offered'),
    };
  },
} satisfies TraceObserver;

const isBegin = (line: TraceLine | DrillLine): line is Extract<DrillLine, { kind: 'drill.began' }> =>
  line.kind === 'drill.began';

/** The same question of a device is told once. */
function listingsOf(told: readonly LedgerLine[]): Omit<StoreListingFact, 'platform' | 'evidence'>[] {
  const seen = new Map<string, Omit<StoreListingFact, 'platform' | 'evidence'>>();
  for (const line of told) {
    if (line.kind !== 'store.listed' || line.device === undefined) continue;
    const { asked, at, device, returned } = line;
    seen.set(JSON.stringify([asked, returned]), { kind: 'store-listing', at, device, asked, returned });
  }
  return [...seen.values()];
}
