/** What would make a web link open in an app: the filter, the site's file; held against our own matcher before anybody sees it. */
import type { IntentFilter } from '../../model/app-package.ts';
import type { SiteFile } from '../../model/site-file.ts';
import { formatFingerprint } from './asset-links.ts';
import type { LinkCandidate, LinkDecision } from './link-decision.ts';
import { BROWSABLE, DEFAULT, VIEW } from './link-filter.ts';
import { parseLinkUri } from './link-uri.ts';
import { matchLink } from './match-link.ts';

export interface LinkProposal {
  /** For the manifest, or the entitlements. */
  ofApp: string;
  /** Where the file lies on the site, and what it holds. */
  site: { path: string; text: string };
  /** With both in place: how the link is decided then. */
  decision: LinkDecision;
  /** What the proposal rests on, and its author must look at. */
  notes: string[];
}

interface ProposeFor {
  url: string;
  candidate: LinkCandidate;
  /** What the sites serve by now. */
  siteFiles: readonly SiteFile[];
  /** Of Android: the activity that is to open it. */
  activity: string;
}

/** @returns undefined for what is no web link with a host */
export function proposeLink({ activity, candidate, siteFiles, url }: ProposeFor): LinkProposal | undefined {
  const { hostKey: host, path = '', scheme } = parseLinkUri(url);
  if (!host || !/^https?$/.test(scheme ?? '')) return undefined;
  const place = path === '' ? '/' : path;
  if (candidate.android) return proposeForAndroid(url, { host, path: place }, candidate, siteFiles, activity);
  return proposeForApple(url, { host, path: place }, candidate, siteFiles);
}

interface Place {
  host: string;
  path: string;
}

const TEMPLATE_NOTE =
  'The path is taken as it stands. Where a part of it changes from link to link, say pathPrefix or pathPattern instead.';

function proposeForAndroid(
  url: string,
  { host, path }: Place,
  candidate: LinkCandidate,
  siteFiles: readonly SiteFile[],
  activity: string,
): LinkProposal {
  const android = candidate.android!;
  const filter: IntentFilter = {
    actions: [VIEW],
    categories: [DEFAULT, BROWSABLE],
    schemes: ['https'],
    authorities: [{ host }],
    paths: [`path=${path}`],
    specificParts: [],
    relativeGroups: [],
    mimeTypes: [],
    autoVerify: true,
  };
  const statement = {
    relation: ['delegate_permission/common.handle_all_urls'],
    target: {
      namespace: 'android_app',
      package_name: candidate.appId,
      sha256_cert_fingerprints: android.certificates.map(formatFingerprint),
    },
  };
  const before = siteFiles.find(({ host: of, kind }) => of === host && kind === 'assetlinks');
  const statements = [...(before?.statements ?? []), statement];
  const text = JSON.stringify(statements, null, 2);
  const others = siteFiles.filter((file) => file !== before);
  const site: SiteFile = { host, kind: 'assetlinks', sizeBytes: text.length, statements, problems: [] };
  const filters = [
    ...android.filters,
    {
      component: activity,
      componentType: 'activity' as const,
      position: 1,
      exported: true,
      enabled: true,
      filter,
    },
  ];
  return {
    ofApp: [
      `<!-- in <activity android:name="${activity}" android:exported="true"> -->`,
      '<intent-filter android:autoVerify="true">',
      `    <action android:name="${VIEW}" />`,
      `    <category android:name="${DEFAULT}" />`,
      `    <category android:name="${BROWSABLE}" />`,
      '    <data android:scheme="https" />',
      `    <data android:host="${host}" />`,
      `    <data android:path="${escapeAttribute(path)}" />`,
      '</intent-filter>',
    ].join('\n'),
    site: { path: `https://${host}/.well-known/assetlinks.json`, text },
    decision: matchLink(url, { ...candidate, android: { ...android, filters } }, [site, ...others]),
    notes: [
      TEMPLATE_NOTE,
      ...(android.certificates.length > 0
        ? ['Where a store signs the app again, the fingerprint is that of the store: its console shows it.']
        : [
            'No certificate is known: write the fingerprint of the one that the installed app is signed with.',
          ]),
      'Served as application/json, without a redirect.',
    ],
  };
}

const UNKNOWN_TEAM = 'TEAMID';

function proposeForApple(
  url: string,
  { host, path }: Place,
  candidate: LinkCandidate,
  siteFiles: readonly SiteFile[],
): LinkProposal {
  const ios = candidate.ios ?? { domains: [], schemes: [] };
  const appId = ios.fullAppId ?? `${UNKNOWN_TEAM}.${candidate.appId}`;
  const before = siteFiles.find(({ host: of, kind }) => of === host && kind === 'apple-app-site-association');
  const details = [...(before?.appLinks?.details ?? []), { appIDs: [appId], components: [{ '/': path }] }];
  const appLinks = { ...before?.appLinks, details };
  const text = JSON.stringify({ applinks: appLinks }, null, 2);
  const site: SiteFile = {
    host,
    kind: 'apple-app-site-association',
    sizeBytes: text.length,
    appLinks,
    problems: [],
  };
  const domain = `applinks:${host}`;
  const domains = ios.domains.includes(domain) ? ios.domains : [...ios.domains, domain];
  return {
    ofApp: [
      '<!-- in the entitlements -->',
      '<key>com.apple.developer.associated-domains</key>',
      '<array>',
      ...domains.map((one) => `    <string>${escapeAttribute(one)}</string>`),
      '</array>',
    ].join('\n'),
    site: { path: `https://${host}/.well-known/apple-app-site-association`, text },
    decision: matchLink(url, { ...candidate, ios: { ...ios, fullAppId: appId, domains } }, [
      site,
      ...siteFiles.filter((file) => file !== before),
    ]),
    notes: [
      'The path is taken as it stands. Where a part of it changes from link to link, write * or ? for it.',
      ...(ios.fullAppId ? [] : [`The package names no team: write it for ${UNKNOWN_TEAM}.`]),
      'Served as application/json, without a redirect.',
    ],
  };
}

const escapeAttribute = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('"', '&quot;').replaceAll('<', '&lt;');
