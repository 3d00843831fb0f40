import type { LinkRunFact } from '../../model/facts/links.ts';
import type { FactIndex } from '../check.ts';

/** Of each link, device and way the last run; earlier ones are history. */
export function lastLinkRuns(facts: FactIndex<'link-run'>): LinkRunFact[] {
  const last = new Map<string, LinkRunFact>();
  for (const run of facts.of('link-run')) {
    const key = [run.deviceId, run.url, run.how, run.addressed].join('|');
    const before = last.get(key);
    if (!before || before.at < run.at) last.set(key, run);
  }
  return [...last.values()];
}
