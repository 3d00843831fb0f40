/** Who may sell the app's ads, as its site says. */
import type { SiteObserver } from '../../observer.ts';

export const observeAppAds = {
  id: 'app-ads',
  reads: 'site',
  *observe({ digest, platform, site }) {
    const { appAds, host, kind, response } = site;
    if (kind !== 'app-ads' || !appAds) return;
    yield {
      kind: 'app-ads',
      platform,
      evidence: digest,
      host,
      sellers: appAds.sellers.map(({ account, domain, line, relation }) => ({
        domain,
        account,
        relation,
        line,
      })),
      faults: [
        ...(response && response.status !== 200
          ? [{ line: 'the response', found: `status ${response.status}`, expected: '200' }]
          : []),
        ...appAds.problems.map(({ expected = '', found, place = '' }) => ({ line: place, found, expected })),
      ],
    };
  },
} satisfies SiteObserver;
