/** The site's app-ads.txt lists every network of the waterfalls, and can be read. */
import type { AppAdsFact } from '../../model/facts/ads.ts';
import type { Assertion, Check } from '../check.ts';
import { waterfallEntries } from './wiring.ts';

export const adSeller = {
  id: 'ad-seller',
  area: 'ads',
  needs: ['app-ads'],
  *run(facts, intent): Iterable<Assertion> {
    const used = new Map(waterfallEntries(intent).map(({ network }) => [network.id, network]));
    for (const site of facts.of('app-ads')) {
      for (const { line, found, expected } of site.faults)
        yield {
          outcome: 'failed',
          draft: draftOf(site, line, 'line', { fault: 'line', line, found, expected }),
        };
      for (const { id, name, seller, sellerAccount } of used.values()) {
        if (seller === undefined) continue;
        const accounts = site.sellers
          .filter(({ domain }) => domain === seller.toLowerCase())
          .map(({ account }) => account);
        const fault =
          accounts.length === 0
            ? 'missing'
            : sellerAccount !== undefined && !accounts.includes(sellerAccount)
              ? 'account'
              : undefined;
        const data = { network: name, seller, wanted: sellerAccount ?? '', found: accounts.join(', ') };
        yield fault
          ? { outcome: 'failed', draft: draftOf(site, `network ${id}`, fault, { fault, ...data }) }
          : { outcome: 'passed' };
      }
    }
  },
} satisfies Check;

const draftOf = (
  { evidence, host }: AppAdsFact,
  subject: string,
  aspect: string,
  data: Record<string, string>,
) => ({
  identity: { subject, aspect },
  basis: 'measured' as const,
  severity: 1,
  digest: data.found ?? '',
  occurrence: { evidence, shown: host, data: { host, ...data } },
});
