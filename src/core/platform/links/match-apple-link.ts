/** Links on iOS: domains that the app is signed for, rules of their sites, schemes of its own. */
import type { SiteFile } from '../../model/site-file.ts';
import type {
  LinkCandidate,
  LinkDecision,
  LinkMatcher,
  LinkMiss,
  LinkTrial,
  Verification,
} from './link-decision.ts';
import type { LinkUri } from './link-uri.ts';
import { servedTrouble } from './served-trouble.ts';
import { compileAssociation } from './site-association.ts';

export function appleMatcher(
  appId: string,
  { domains, fullAppId = appId, schemes }: NonNullable<LinkCandidate['ios']>,
  siteFiles: readonly SiteFile[],
): LinkMatcher {
  const linked = domains.flatMap((domain) => {
    const name = /^applinks:([^?]*)/.exec(domain)?.[1]?.toLowerCase();
    return name ? [{ domain, name }] : [];
  });
  const rules = new Map(
    siteFiles
      .filter(({ appLinks, kind }) => kind === 'apple-app-site-association' && appLinks)
      .map((file) => [file.host.toLowerCase(), compileAssociation(file.appLinks!, fullAppId)]),
  );
  const own = new Set(schemes.map((scheme) => scheme.toLowerCase()));
  const domainOf = ({ hostKey = '' }: LinkUri) =>
    linked.find(({ name }) => (name.startsWith('*.') ? hostKey.endsWith(name.slice(1)) : hostKey === name));
  const decide = (uri: LinkUri): LinkDecision => {
    const scheme = uri.scheme?.toLowerCase() ?? '';
    const decision = (
      opens: LinkDecision['opens'],
      tried: LinkTrial[],
      more: Partial<LinkDecision> = {},
    ) => ({
      url: uri.text,
      opens,
      components: opens === 'app' ? [appId] : [],
      tried,
      ...more,
    });
    if (scheme !== 'http' && scheme !== 'https') {
      const isOwn = own.has(scheme);
      const miss: LinkMiss = { test: 'scheme', found: scheme, wanted: schemes };
      return decision(isOwn ? 'app' : 'nobody', [
        { name: isOwn ? `${scheme}:` : 'URL schemes', distance: isOwn ? 0 : 1, ...(!isOwn && { miss }) },
      ]);
    }
    const found = domainOf(uri);
    if (!found) {
      const miss: LinkMiss = {
        test: 'domain',
        found: uri.host ?? '',
        wanted: linked.map(({ name }) => name),
      };
      return decision('browser', [{ name: 'associated domains', distance: 1, miss }]);
    }
    const host = found.name.replace(/^\*\./, '');
    const verification = verifyDomain(host, siteFiles);
    if (verification.state !== 'verified')
      return decision(
        verification.state === 'no-file' ? 'unknown' : 'browser',
        [{ name: found.domain, distance: 0 }],
        {
          verification,
        },
      );
    const miss = rules.get(host)!(uri);
    return decision(
      miss ? 'browser' : 'app',
      [{ name: found.domain, distance: miss ? 1 : 0, ...(miss && { miss }) }],
      {
        verification,
      },
    );
  };
  return { decide, opens: decide, verify: ({ hostKey = '' }) => verifyDomain(hostKey, siteFiles) };
}

function verifyDomain(host: string, siteFiles: readonly SiteFile[]): Verification {
  const file = siteFiles.find(
    (one) => one.kind === 'apple-app-site-association' && one.host.toLowerCase() === host,
  );
  if (!file) return { state: 'no-file', host };
  const trouble = servedTrouble(file);
  return trouble ? { state: 'refused', host, ...trouble } : { state: 'verified', host };
}
