/** A filter that takes links of others: every host, hosts that only end alike, a site's pages that are no routes. */
import type { IntentFilter } from '../../model/app-package.ts';
import type { LinkFilterFact } from '../../model/facts/links.ts';
import type { Intent } from '../../model/intent.ts';
import { BROWSABLE, compileFilter, DEFAULT, missOf, VIEW } from '../../platform/links/link-filter.ts';
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import type { Assertion, Check } from '../check.ts';
import { sayFilter } from './say-filter.ts';

type Breadth = 'every-host' | 'alike-hosts' | 'other-host' | 'browser-url' | 'alike-path';

export const broadLinkFilter = {
  id: 'broad-link-filter',
  area: 'links',
  needs: ['package', 'link-filter'],
  *run(facts, intent): Iterable<Assertion> {
    for (const fact of facts.of('link-filter')) {
      if (!fact.filter.actions.includes(VIEW)) continue;
      const [worst] = breadthsOf(fact.filter, intent);
      if (!worst) yield { outcome: 'passed' };
      else if (worst.isSure) yield { outcome: 'failed', draft: draftOf(fact, worst) };
      else yield { outcome: 'cantTell', draft: draftOf(fact, worst) };
    }
  },
} satisfies Check;

interface Broad {
  breadth: Breadth;
  /** A link of others that it takes. */
  example: string;
  severity: number;
  isSure: boolean;
}

const WEB = /^https?$/;
const STRANGER = 'somebody-else.example';

function breadthsOf(filter: IntentFilter, { links }: Intent): Broad[] {
  const broad: Broad[] = [];
  const scheme = filter.schemes.find((one) => WEB.test(one));
  if (scheme !== undefined)
    for (const { host } of filter.authorities.length > 0 ? filter.authorities : [{ host: '*' }]) {
      const [breadth, example] = hostBreadth(host, links.hosts) ?? [];
      if (breadth)
        broad.push({
          breadth,
          example: `${scheme}://${example}`,
          severity: breadth === 'every-host' ? 5 : 3,
          isSure: true,
        });
    }
  const compiled = compileFilter({ ...filter, categories: [BROWSABLE, DEFAULT] });
  const taken = (url: string) => missOf(compiled, parseLinkUri(url)) === undefined;
  for (const example of links.browser.filter(taken))
    broad.push({ breadth: 'browser-url', example, severity: 4, isSure: true });
  // a prefix that ends in the middle of a name goes on into other names
  for (const path of filter.paths) {
    const prefix = /^pathPrefix=(.*[^/])$/.exec(path)?.[1];
    if (prefix === undefined || prefix === '') continue;
    const example = `${filter.schemes[0]}://${filter.authorities[0]?.host ?? ''}${prefix}-of-others`;
    if (taken(example)) broad.push({ breadth: 'alike-path', example, severity: 1, isSure: false });
  }
  return broad.sort((a, b) => b.severity - a.severity);
}

function hostBreadth(host: string, own: readonly string[]): [Breadth, string] | undefined {
  if (host === '*') return ['every-host', `${STRANGER}/`];
  if (/^\*[^.]/.test(host)) return ['alike-hosts', `not-${host.slice(1)}/`];
  const isOwn = own.some((one) => one === host || (host.startsWith('*.') && one.endsWith(host.slice(1))));
  return own.length > 0 && !isOwn ? ['other-host', `${host}/`] : undefined;
}

const draftOf = ({ component, evidence, filter, position }: LinkFilterFact, broad: Broad) => ({
  identity: { subject: `${component} ${sayFilter(filter)}`, aspect: broad.breadth },
  basis: broad.isSure ? ('measured' as const) : ('estimated' as const),
  severity: broad.severity,
  digest: broad.example,
  occurrence: {
    evidence,
    shown: broad.example,
    data: { component, position, breadth: broad.breadth, example: broad.example },
  },
});
