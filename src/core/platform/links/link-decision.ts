/** What a link is held against, and what comes of it. */
import type { AppPackage, Component, LinkFilter } from '../../model/app-package.ts';
import type { FilterMiss } from './link-filter.ts';
import type { LinkUri } from './link-uri.ts';
import type { AssociationMiss } from './site-association.ts';

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

/** Domains that an iOS app is signed for, and URL schemes that it declares. */
export function linkDomainsOf({
  associatedDomains,
  entitlements,
  urlSchemes,
}: NonNullable<AppPackage['ios']>): NonNullable<LinkCandidate['ios']> {
  const fullAppId = entitlements['application-identifier'];
  return {
    domains: associatedDomains,
    schemes: urlSchemes,
    ...(typeof fullAppId === 'string' && { fullAppId }),
  };
}

export interface LinkCandidate {
  appId: string;
  android?: {
    filters: readonly LinkFilter[];
    targetSdk: number;
    /** SHA-256 in hex of certificates that the installed app may be signed with. */
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

type LinkTest = FilterMiss['test'] | AssociationMiss['test'] | 'enabled' | 'exported' | 'domain';

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
type VerificationTrouble =
  | 'unreadable'
  | 'redirected'
  /** Asked for in a way that works in builds for development only. */
  | 'developer-mode'
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

export interface LinkMatcher {
  decide(uri: LinkUri): LinkDecision;
  /** Without the reasons, for many links. */
  opens(uri: LinkUri): Pick<LinkDecision, 'components' | 'opens'>;
  /** Whether the site agrees, whatever the package declares for its paths. */
  verify(uri: LinkUri): Verification;
}
