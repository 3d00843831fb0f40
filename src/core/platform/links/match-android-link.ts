/** Links on Android: the filters of its activities, and the sites that agree (Android developers, *Verify App Links*). */
import type { SiteFile } from '../../model/site-file.ts';
import { fingerprintsFor, formatFingerprint } from './asset-links.ts';
import type { LinkCandidate, LinkDecision, LinkMatcher, LinkMiss, Verification } from './link-decision.ts';
import {
  BROWSABLE,
  type CompiledFilter,
  compileFilter,
  DEFAULT,
  distanceOf,
  missOf,
  VIEW,
} from './link-filter.ts';
import { indexLinks } from './link-index.ts';
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
const MOST_HOSTS = 4096;

const TO_THE_BROWSER = { opens: 'browser', components: [] as string[] } as const;
const TO_NOBODY = { opens: 'nobody', components: [] as string[] } as const;

/** Whatever the link, the others never take one. */
const isForLinks = ({ filter }: CompiledFilter): boolean =>
  filter.mimeTypes.length === 0 &&
  filter.actions.includes(VIEW) &&
  filter.categories.includes(BROWSABLE) &&
  filter.categories.includes(DEFAULT);

export function androidMatcher(
  appId: string,
  android: NonNullable<LinkCandidate['android']>,
  siteFiles: readonly SiteFile[],
): LinkMatcher {
  const declared = declaredFilters(android);
  const verified = new Map<string, Verification>();
  const verificationOf = (host: string): Verification => {
    const known = verified.get(host);
    if (known) return known;
    const found = verifyHost(host, appId, android.certificates, declared, siteFiles);
    if (verified.size < MOST_HOSTS) verified.set(host, found);
    return found;
  };
  const settle = (
    uri: LinkUri,
    open: readonly DeclaredFilter[],
  ): Pick<LinkDecision, 'components' | 'opens' | 'verification'> => {
    if (open.length === 0) return isWeb(uri) ? TO_THE_BROWSER : TO_NOBODY;
    const components = open.length === 1 ? [open[0]!.target] : [...new Set(open.map(({ target }) => target))];
    const own = open.every(({ name }) => name === open[0]!.name) ? 'app' : 'choice';
    if (!isWeb(uri)) return { opens: own, components };
    const verification = verificationOf(uri.hostKey ?? '');
    return { opens: opensWeb(verification, own, android.deviceSdk), components, verification };
  };
  const opens = indexLinks(
    declared.filter((one) => !one.closed && isForLinks(one)),
    settle,
  );
  return {
    verify: ({ hostKey = '' }) => verificationOf(hostKey),
    opens,
    decide: (uri) => {
      const trials = declared.map((one) => ({ one, miss: missWithComponent(one, uri) }));
      return {
        url: uri.text,
        ...settle(
          uri,
          trials.filter(({ miss }) => !miss).map(({ one }) => one),
        ),
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
  const own = certificates.map(formatFingerprint);
  if (fingerprints.some((one) => own.includes(one))) return { state: 'verified', host: asked };
  return {
    state: 'refused',
    host: asked,
    why: 'other-certificate',
    found: fingerprints.join(', '),
    wanted: own.join(' or '),
  };
}
