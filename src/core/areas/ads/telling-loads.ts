import type { AdLoadFact } from '../../model/facts/ads.ts';
import type { FactIndex } from '../check.ts';

/** What tells most comes first: one load is enough, and that there was nothing to show says least. */
const RANK: Readonly<Record<AdLoadFact['outcome'], number>> = {
  loaded: 0,
  failed: 1,
  pending: 2,
  'no-fill': 3,
};

/** Of each placement and network the load that tells most, and of those the last. */
export function tellingLoads(facts: FactIndex<'ad-load'>): AdLoadFact[] {
  const found = new Map<string, AdLoadFact>();
  for (const load of facts.of('ad-load')) {
    const key = `${load.placement}|${load.network}`;
    const before = found.get(key);
    const isBetter = !before || RANK[load.outcome] < RANK[before.outcome];
    if (isBetter || (load.outcome === before.outcome && before.at <= load.at)) found.set(key, load);
  }
  return [...found.values()];
}
