/** Links on Android: the filters of its activities, and the sites that agree (Android developers, *Verify App Links*). */
import type { SiteFile } from '../../model/site-file.ts';
import { fingerprintsFor, sayFingerprint } from './asset-links.ts';
import type { LinkCandidate, LinkDecision, LinkMatcher, LinkMiss, Verification } from './link-decision.ts';
import {
  BROWSABLE,
  type CompiledFilter,
  compileFilter,
  DEFAULT,
  distanceOf,
  missOf,
  takes,
  VIEW,
} from './link-filter.ts';
import type { LinkUri } from './link-uri.ts';
import { servedTrouble } from './served-trouble.ts';

const isWeb = ({ scheme = '' }: LinkUri): boolean => scheme === 'http' || scheme === 'https';

interface DeclaredFilter extends CompiledFilter {
  name: string;
  target: string;
  position: number;
  /** What its component lacks. */
  closed?: 'enabled' | 'exported';
}

const VERIFIES_SINCE_SDK = 31;

export function androidMatcher(
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
