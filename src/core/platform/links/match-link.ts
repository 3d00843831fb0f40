/**
 * Who gets a link that is tapped in another app, and why nobody else. Android: *Verify App Links* (since API level 31
 * a web link goes to an app only where the site agrees, or the user said so); iOS: *Supporting associated domains*.
 */
import type { Component, IntentFilter } from '../../model/app-package.ts';
import type { SiteFile } from '../../model/site-file.ts';
import { fingerprintsFor, sayFingerprint } from './asset-links.ts';
import {
  BROWSABLE,
  type CompiledFilter,
  compileFilter,
  DEFAULT,
  distanceOf,
  type FilterMiss,
  missOf,
  takes,
  VIEW,
} from './link-filter.ts';
import { type LinkUri, parseLinkUri } from './link-uri.ts';
import { type AssociationMiss, compileAssociation } from './site-association.ts';

/** An intent filter and the activity that bears it. */
export interface LinkFilter {
  /** Full class name of the activity or alias. */
  component: string;
  componentType: 'activity' | 'activity-alias';
  /** Of an alias: the activity that it opens. */
  targetActivity?: string;
  /** Position of the filter in its component, from 1. */
  position: number;
  exported: boolean | 'unset';
  enabled: boolean;
  filter: IntentFilter;
}

/** Filters of activities that name a scheme, in the order of the manifest. */
export const linkFiltersOf = (components: readonly Component[]): LinkFilter[] =>
  components.flatMap(({ enabled, exported, filters, name, targetActivity, type }) =>
    type !== 'activity' && type !== 'activity-alias'
      ? []
      : filters.flatMap((filter, i) =>
          filter.schemes.length === 0 && filter.mimeTypes.length === 0
            ? []
            : [
                {
                  component: name,
                  componentType: type,
                  position: i + 1,
                  ...(targetActivity && { targetActivity }),
                  exported,
                  enabled,
                  filter,
                },
              ],
        ),
  );

export interface LinkCandidate {
  appId: string;
  android?: {
    filters: readonly LinkFilter[];
    targetSdk: number;
    /** SHA-256 in hex of certificates that the installed app may bear. */
    certificates: string[];
    /** API level of the device. */
    deviceSdk: number;
  };
  ios?: {
    /** Team and bundle id, where the package names its team. */
    fullAppId?: string;
    /** As signed: `applinks:kelpline.example`, `applinks:*.kelpline.example`. */
    domains: string[];
    schemes: string[];
  };
}

export type LinkTest = FilterMiss['test'] | AssociationMiss['test'] | 'enabled' | 'exported' | 'domain';

export interface LinkMiss {
  test: LinkTest;
  found: string;
  wanted: string[];
}

/** One thing of the app that could have taken the link. */
export interface LinkTrial {
  /** Activity or alias; a domain or scheme on iOS. */
  name: string;
  /** Of an intent filter in its component, from 1. */
  position?: number;
  /** What it failed at first; undefined where it takes the link. */
  miss?: LinkMiss;
  /** How far it is from taking it, by scheme, host and path: 0 to 5. */
  distance: number;
}

/** Whether a site agrees that the app opens its links. */
export type Verification =
  | { state: 'verified'; host: string }
  | { state: 'not-asked'; host: string }
  | { state: 'no-file'; host: string }
  | { state: 'refused'; host: string; why: VerificationTrouble; found: string; wanted: string };
export type VerificationTrouble =
  | 'unreadable'
  | 'redirected'
  | 'content-type'
  | 'other-app'
  | 'other-certificate';

export interface LinkDecision {
  url: string;
  /** `choice`: the user is asked each time. `unknown`: it depends on a site file that was not given. */
  opens: 'app' | 'choice' | 'browser' | 'nobody' | 'unknown';
  /** What opens in the app, or would: activities by full class name; the app itself on iOS. */
  components: string[];
  verification?: Verification;
  tried: LinkTrial[];
}

/** @param siteFiles what the sites say; of one site and kind the first counts */
export const matchLink = (
  url: string,
  candidate: LinkCandidate,
  siteFiles: readonly SiteFile[],
): LinkDecision => linkMatcher(candidate, siteFiles).decide(parseLinkUri(url));

export interface LinkMatcher {
  decide(uri: LinkUri): LinkDecision;
  /** Without the reasons, for many links. */
  opens(uri: LinkUri): Pick<LinkDecision, 'components' | 'opens'>;
  /** Whether the site agrees, whatever the package declares for its paths. */
  verify(uri: LinkUri): Verification;
}

/** The same for many links: what the package and the sites say is read once. */
export function linkMatcher(candidate: LinkCandidate, siteFiles: readonly SiteFile[]): LinkMatcher {
  if (candidate.android) return androidMatcher(candidate.appId, candidate.android, siteFiles);
  return appleMatcher(candidate.appId, candidate.ios ?? { domains: [], schemes: [] }, siteFiles);
}

const isWeb = ({ scheme = '' }: LinkUri): boolean => scheme === 'http' || scheme === 'https';

interface DeclaredFilter extends CompiledFilter {
  name: string;
  target: string;
  position: number;
  /** What its component lacks. */
  closed?: 'enabled' | 'exported';
}

const VERIFIES_SINCE_SDK = 31;

function androidMatcher(
  appId: string,
  android: NonNullable<LinkCandidate['android']>,
  siteFiles: readonly SiteFile[],
): LinkMatcher {
  const declared = declaredFilters(android);
  const byHost = indexByHost(declared);
  const verified = new Map<string, Verification>();
  const verificationOf = (host: string): Verification => {
    const known = verified.get(host) ?? verifyHost(host, appId, android.certificates, declared, siteFiles);
    verified.set(host, known);
    return known;
  };
  const settle = (uri: LinkUri, taking: readonly DeclaredFilter[]): Omit<LinkDecision, 'tried' | 'url'> => {
    const components = [...new Set(taking.map(({ target }) => target))];
    const open = taking.filter(({ closed }) => !closed);
    if (open.length === 0) return { opens: isWeb(uri) ? 'browser' : 'nobody', components: [] };
    const named = new Set(open.map(({ name }) => name));
    const own = named.size > 1 ? 'choice' : 'app';
    if (!isWeb(uri)) return { opens: own, components };
    const verification = verificationOf(uri.hostKey ?? '');
    return { opens: opensWeb(verification, own, android.deviceSdk), components, verification };
  };
  const candidatesFor = ({ hostKey = '' }: LinkUri) => byHost.exact.get(hostKey) ?? byHost.others;
  return {
    verify: ({ hostKey = '' }) => verificationOf(hostKey),
    opens: (uri) =>
      settle(
        uri,
        candidatesFor(uri).filter((one) => one.closed !== 'enabled' && takes(one, uri)),
      ),
    decide: (uri) => {
      const trials = declared.map((one) => ({ one, miss: missWithComponent(one, uri) }));
      const taking = trials.filter(({ miss }) => !miss).map(({ one }) => one);
      return {
        url: uri.text,
        ...settle(uri, taking),
        tried: trials.map(({ miss, one }) => ({
          name: one.name,
          position: one.position,
          distance: distanceOf(one, uri),
          ...(miss && { miss }),
        })),
      };
    },
  };
}

function opensWeb({ state }: Verification, own: 'app' | 'choice', deviceSdk: number): LinkDecision['opens'] {
  if (state === 'verified') return own;
  if (deviceSdk < VERIFIES_SINCE_SDK) return 'choice';
  return state === 'no-file' ? 'unknown' : 'browser';
}

function declaredFilters({ filters, targetSdk }: NonNullable<LinkCandidate['android']>): DeclaredFilter[] {
  return filters.map(({ component, enabled, exported, filter, position, targetActivity }) => {
    // before API level 31 a filter meant that it is exported
    const isExported = exported === 'unset' ? targetSdk < VERIFIES_SINCE_SDK : exported;
    const closed = enabled ? (isExported ? undefined : 'exported') : 'enabled';
    return {
      ...compileFilter(filter),
      name: component,
      target: targetActivity ?? component,
      position,
      ...(closed && { closed }),
    };
  });
}

/** Of a component that is switched off nothing is looked at; whether it is exported is asked last. */
function missWithComponent(one: DeclaredFilter, uri: LinkUri): LinkMiss | undefined {
  if (one.closed === 'enabled') return { test: 'enabled', found: 'false', wanted: ['true'] };
  const miss = missOf(one, uri);
  if (miss || !one.closed) return miss;
  return { test: 'exported', found: 'false', wanted: ['true'] };
}

/** Filters that a link to a host may be for, in their order: those that name the host, and those that are not so particular. */
function indexByHost(declared: readonly DeclaredFilter[]): {
  exact: Map<string, DeclaredFilter[]>;
  others: DeclaredFilter[];
} {
  const isBroad = ({ authorities }: DeclaredFilter) =>
    authorities.length === 0 || authorities.some(({ isWild }) => isWild);
  const hosts = new Set(declared.flatMap(({ authorities }) => authorities.map(({ key }) => key)));
  const exact = new Map<string, DeclaredFilter[]>();
  for (const host of hosts)
    exact.set(
      host,
      declared.filter((one) => isBroad(one) || one.authorities.some(({ key }) => key === host)),
    );
  // of URLs without a host, a host says nothing
  return { exact, others: declared.filter((one) => isBroad(one) || one.specificParts.length > 0) };
}

/** Filters that ask the platform to verify: only web schemes, and open to browsers. */
const asksToVerify = ({ closed, filter }: DeclaredFilter): boolean =>
  !closed &&
  filter.autoVerify &&
  filter.actions.includes(VIEW) &&
  filter.categories.includes(BROWSABLE) &&
  filter.categories.includes(DEFAULT) &&
  filter.schemes.every((scheme) => scheme === 'http' || scheme === 'https');

function verifyHost(
  host: string,
  appId: string,
  certificates: readonly string[],
  declared: readonly DeclaredFilter[],
  siteFiles: readonly SiteFile[],
): Verification {
  const asking = declared
    .filter(asksToVerify)
    .flatMap(({ authorities }) => authorities)
    .filter(({ isWild, key }) => (isWild ? host.endsWith(key) : host === key));
  if (asking.length === 0) return { state: 'not-asked', host };
  // a wildcard is asked for at the host behind its star
  const asked = asking.some(({ isWild }) => !isWild) ? host : asking[0]!.key.replace(/^\./, '');
  const file = siteFiles.find((one) => one.kind === 'assetlinks' && one.host.toLowerCase() === asked);
  if (!file) return { state: 'no-file', host: asked };
  const trouble = servedTrouble(file);
  if (trouble) return { state: 'refused', host: asked, ...trouble };
  const fingerprints = fingerprintsFor(file.statements ?? [], appId);
  if (!fingerprints)
    return {
      state: 'refused',
      host: asked,
      why: 'other-app',
      found: file.statements!.flatMap(({ target }) => target?.package_name ?? []).join(', '),
      wanted: appId,
    };
  const own = certificates.map(sayFingerprint);
  if (fingerprints.some((one) => own.includes(one))) return { state: 'verified', host: asked };
  return {
    state: 'refused',
    host: asked,
    why: 'other-certificate',
    found: fingerprints.join(', '),
    wanted: own.join(' or '),
  };
}

/** What keeps the platform from reading a site's file at all. */
export function servedTrouble(
  file: SiteFile,
): Pick<Extract<Verification, { state: 'refused' }>, 'found' | 'wanted' | 'why'> | undefined {
  const { response } = file;
  if (response?.redirectedTo !== undefined)
    return { why: 'redirected', found: response.redirectedTo, wanted: 'the file itself' };
  if (response && response.status !== 200)
    return { why: 'unreadable', found: `status ${response.status}`, wanted: 'status 200' };
  if (file.kind === 'assetlinks' && response && !/^application\/json\b/i.test(response.contentType))
    return { why: 'content-type', found: response.contentType || 'none', wanted: 'application/json' };
  const [problem] = file.problems;
  if (!file.statements && !file.appLinks)
    return { why: 'unreadable', found: problem?.found ?? 'nothing', wanted: problem?.expected ?? 'JSON' };
  return undefined;
}

function appleMatcher(
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
