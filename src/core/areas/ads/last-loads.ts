import type { AdLoadFact } from '../../model/facts/ads.ts';
import type { FactIndex } from '../check.ts';

/** Of each device, placement and network the last. */
export function lastLoads(facts: FactIndex): AdLoadFact[] {
  const last = new Map<string, AdLoadFact>();
  for (const load of facts.of('ad-load')) {
    const key = `${load.deviceId}|${load.placement}|${load.network}`;
    const before = last.get(key);
    if (!before || before.at <= load.at) last.set(key, load);
  }
  return [...last.values()];
}
