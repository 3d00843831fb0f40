/** Links on iOS: domains that the app is signed for, rules of their sites, schemes of its own. */
import type { SiteFile } from '../../model/site-file.ts';
import type { LinkCandidate, LinkDecision, LinkMatcher, LinkTrial, Verification } from './link-decision.ts';
import type { LinkUri } from './link-uri.ts';
import { servedTrouble } from './served-trouble.ts';
import { type Association, compileAssociation } from './site-association.ts';

/** A domain of the app, and what its site says. */
interface Linked {
  /** As signed. */
  domain: string;
  /** In small letters; `*.` before it takes everything below it. */
  name: string;
  verification: Verification;
  association?: Association;
  /** What comes of a link that the site gives to the app, and of one that it keeps. */
  given: Settled;
  kept: Settled;
}

type Settled = Pick<LinkDecision, 'components' | 'opens' | 'verification'>;

export function appleMatcher(
  appId: string,
  { domains, fullAppId = appId, schemes }: NonNullable<LinkCandidate['ios']>,
  siteFiles: readonly SiteFile[],
): LinkMatcher {
  const linked = domains.flatMap((domain) => linkedDomain(domain, appId, fullAppId, siteFiles));
  const exact = new Map(linked.map((one) => [one.name, one]));
  const wild = linked.filter(({ name }) => name.startsWith('*.'));
  const own = new Set(schemes.map((scheme) => scheme.toLowerCase()));
  const linkedFor = ({ hostKey = '' }: LinkUri) =>
    exact.get(hostKey) ?? wild.find(({ name }) => hostKey.endsWith(name.slice(1)));
  const isOwnScheme = ({ scheme = '' }: LinkUri) => own.has(scheme.toLowerCase());
  const toApp: Settled = { opens: 'app', components: [appId] };
  const opens = (uri: LinkUri): Settled => {
    if (!isWeb(uri)) return isOwnScheme(uri) ? toApp : TO_NOBODY;
    const found = linkedFor(uri);
    if (!found) return TO_THE_BROWSER;
    return found.association?.takes(uri) ? found.given : found.kept;
  };
  const trialOf = (uri: LinkUri): LinkTrial => {
    const { host = '', scheme = '' } = uri;
    const missed = (name: string, test: 'domain' | 'scheme', given: string, wanted: string[]): LinkTrial => ({
      name,
      distance: 1,
      miss: { test, found: given, wanted },
    });
    if (!isWeb(uri))
      return isOwnScheme(uri)
        ? { name: `${scheme.toLowerCase()}:`, distance: 0 }
        : missed('URL schemes', 'scheme', scheme, schemes);
    const found = linkedFor(uri);
    if (!found) return missed('associated domains', 'domain', host, [...exact.keys()]);
    const miss = found.association?.missOf(uri);
    return { name: found.domain, distance: miss ? 1 : 0, ...(miss && { miss }) };
  };
  return {
    opens,
    decide: (uri) => ({ url: uri.text, ...opens(uri), tried: [trialOf(uri)] }),
    verify: (uri) => linkedFor(uri)?.verification ?? { state: 'not-asked', host: uri.hostKey ?? '' },
  };
}

const TO_THE_BROWSER: Settled = { opens: 'browser', components: [] };
const TO_NOBODY: Settled = { opens: 'nobody', components: [] };

const isWeb = ({ scheme = '' }: LinkUri): boolean =>
  scheme === 'https' || scheme === 'http' || /^https?$/i.test(scheme);

function linkedDomain(
  domain: string,
  appId: string,
  fullAppId: string,
  siteFiles: readonly SiteFile[],
): Linked[] {
  const name = /^applinks:([^?]*)/.exec(domain)?.[1]?.toLowerCase();
  if (!name) return [];
  const host = name.replace(/^\*\./, '');
  const file = siteFiles.find(
    (one) => one.kind === 'apple-app-site-association' && one.host.toLowerCase() === host,
  );
  const trouble = file && servedTrouble(file);
  const verification: Verification = !file
    ? { state: 'no-file', host }
    : trouble
      ? { state: 'refused', host, ...trouble }
      : { state: 'verified', host };
  const appLinks = trouble ? undefined : file?.appLinks;
  return [
    {
      domain,
      name,
      verification,
      ...(appLinks && { association: compileAssociation(appLinks, fullAppId) }),
      given: { opens: 'app', components: [appId], verification },
      kept: { opens: file ? 'browser' : 'unknown', components: [], verification },
    },
  ];
}
