/**
 * Web links open the app without asking only where the site agrees (Android developers, *Verify App Links*; Apple
 * developer documentation, *Supporting associated domains*). Looked at for each site that the package or the intent
 * file names.
 */

import { z } from 'zod';
import type { SiteFileFact } from '../../../model/facts/links.ts';
import type { SiteFile } from '../../../model/site-file.ts';
import type { Verification } from '../../../platform/links/link-decision.ts';
import { parseLinkUri } from '../../../platform/links/link-uri.ts';
import { servedTrouble } from '../../../platform/links/served-trouble.ts';
import { appsOf } from '../../../platform/links/site-association.ts';
import type { Assertion, FactIndex, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { type DeclaredLinks, declaredLinks } from '../declared-links.ts';

const troubles = [
  'not-asked',
  'unreadable',
  'redirected',
  'developer-mode',
  'content-type',
  'other-app',
  'other-certificate',
  'fingerprint',
] as const;
type Trouble = (typeof troubles)[number];

const dataSchema = z.strictObject({
  host: z.string(),
  why: z.enum(troubles),
  found: z.string(),
  wanted: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const unverifiedDomain = defineCheck({
  id: 'unverified-domain',
  area: 'links',
  priority: 'cannot-use',
  standard: 'Android developers, Verify App Links; Apple, Supporting associated domains',
  basis: 'measured',
  needs: 'package',
  reads: ['link-domains', 'signing', 'link-filter', 'site-file'],
  data: dataSchema,
  words: ({ found, host, wanted, why }) => {
    const kind = UNVERIFIED[why];
    return {
      what: `${host} ${kind.what}`,
      measured: kind.measured(found),
      required: wanted || 'the site agrees, and the app asks it to',
      why: kind.why,
      remedy: kind.remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const declared = facts.once(declaredLinks, intent);
    const verifications = declared.candidate?.ios
      ? appleSites(declared, facts)
      : androidSites(declared, facts, intent);
    for (const { fact, verification } of verifications) {
      yield judge(verification, fact?.evidence ?? declared.evidence);
      // of a file alone nobody knows how it was served
      if (fact && verification.state === 'verified' && !fact.site.response)
        yield {
          outcome: 'untested',
          missingEvidence: `the head of what ${verification.host} answered (curl -i)`,
        };
      if (fact) yield* malformedFingerprints(fact);
    }
  },

  doc: {
    looksAt:
      'What each site serves at `/.well-known/`: form, size, type, redirects, package, fingerprint, app id; and whether the app asks for it',
    against:
      'It names this app with the certificate that the installed one is signed with (`links.certificates` where a store signs)',
    matters: 'Every link of the site opens in the browser instead of the app.',
    measured:
      'What each site serves at /.well-known/ (form, size, type, redirects, package, fingerprint, app id), and whether the app asks for it.',
    errs: 'Where a store signs the app again, links.certificates must name that certificate.',
    fixes: [
      {
        where: 'https://HOST/.well-known/assetlinks.json',
        language: 'json',
        code: `[{ "relation": ["delegate_permission/common.handle_all_urls"],
   "target": { "namespace": "android_app", "package_name": "example.kelpline", "sha256_cert_fingerprints": ["AB:CD:…"] } }]`,
      },
      {
        where: 'Kelpline.entitlements',
        language: 'xml',
        code: '<key>com.apple.developer.associated-domains</key><array><string>applinks:kelpline.example</string></array>',
      },
    ],
  },
});

interface Site {
  verification: Verification;
  /** What the site serves, where it was added. */
  fact?: SiteFileFact;
}

/** Every host of a web filter, asked for with a URL that the filter takes. */
function* androidSites(
  { candidate, matcher, promised }: DeclaredLinks,
  facts: FactIndex<'site-file'>,
  { links }: IntentWith,
): Iterable<Site> {
  const filters = candidate?.android?.filters ?? [];
  const web = filters.filter(({ filter }) => filter.schemes.some((scheme) => /^https?$/.test(scheme)));
  const hosts = new Set([
    ...web.flatMap(({ filter }) => filter.authorities.map(({ host }) => host.replace(/^\*\.?/, ''))),
    ...links.hosts,
  ]);
  const seen = new Set<string>();
  for (const { decision } of promised) {
    const { verification } = decision;
    if (!verification || seen.has(verification.host)) continue;
    seen.add(verification.host);
    yield { verification, fact: factOf(facts, verification.host, 'assetlinks') };
  }
  for (const host of hosts) {
    if (host === '' || seen.has(host)) continue;
    const asked = matcher!.verify(parseLinkUri(`https://${host}/`));
    // a host that no filter asks to be verified is told where a route needs it
    if (asked.state === 'not-asked' || seen.has(asked.host)) continue;
    seen.add(asked.host);
    yield { verification: asked, fact: factOf(facts, asked.host, 'assetlinks') };
  }
}

const DEVELOPER_MODE = /\?(?:.*&)?mode=developer(&|$)/;

function* appleSites(
  { candidate }: DeclaredLinks,
  facts: FactIndex<'signing' | 'site-file'>,
): Iterable<Site> {
  const { domains, fullAppId = '' } = candidate!.ios!;
  const profile = facts.of('signing').find(({ platform }) => platform === 'ios')?.profile;
  const works = (domain: string) =>
    !DEVELOPER_MODE.test(domain) || !profile || profile.kind === 'development';
  const byHost = new Map<string, string[]>();
  for (const domain of domains) {
    const host = /^applinks:(?:\*\.)?([^?]*)/.exec(domain)?.[1]?.toLowerCase();
    if (host) byHost.set(host, [...(byHost.get(host) ?? []), domain]);
  }
  for (const [host, asked] of byHost) {
    if (!asked.some(works)) {
      const wanted = asked[0]!.replace(/\?.*/, '');
      yield {
        verification: { state: 'refused', host, why: 'developer-mode', found: asked.join(', '), wanted },
      };
      continue;
    }
    const fact = factOf(facts, host, 'apple-app-site-association');
    yield { verification: verifyApple(host, fact?.site, fullAppId), ...(fact && { fact }) };
  }
}

function verifyApple(host: string, site: SiteFile | undefined, fullAppId: string): Verification {
  if (!site) return { state: 'no-file', host };
  const trouble = servedTrouble(site);
  if (trouble) return { state: 'refused', host, ...trouble };
  const apps = appsOf(site.appLinks!);
  return apps.includes(fullAppId)
    ? { state: 'verified', host }
    : { state: 'refused', host, why: 'other-app', found: apps.join(', '), wanted: fullAppId };
}

const factOf = (
  facts: FactIndex<'site-file'>,
  host: string,
  kind: SiteFile['kind'],
): SiteFileFact | undefined =>
  facts.of('site-file').find(({ site }) => site.host === host && site.kind === kind);

function judge(verification: Verification, evidence: string): Assertion<Data> {
  const { host, state } = verification;
  if (state === 'verified') return { outcome: 'passed' };
  if (state === 'no-file')
    return { outcome: 'untested', missingEvidence: `what ${host} serves at /.well-known/` };
  const { found, wanted, why } =
    state === 'refused' ? verification : { why: 'not-asked' as const, found: '', wanted: '' };
  return {
    outcome: 'failed',
    draft: {
      identity: { subject: host, aspect: why },
      target: { kind: 'host', id: host },
      basis: 'measured',
      severity: 2,
      digest: `${why} ${found}`,
      occurrence: { evidence, shown: host, data: { host, why, found, wanted } },
    },
  };
}

/** A fingerprint that is no fingerprint agrees to nothing, whatever it was meant to be. */
function* malformedFingerprints({ evidence, site }: SiteFileFact): Iterable<Assertion<Data>> {
  const { host, problems } = site;
  for (const { code, expected = '', found, place = '' } of problems)
    if (code === 'site.fingerprint')
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: host, aspect: `fingerprint of ${place}` },
          target: { kind: 'host', id: host },
          basis: 'measured',
          severity: 1,
          digest: found,
          occurrence: { evidence, shown: host, data: { host, why: 'fingerprint', found, wanted: expected } },
        },
      };
}

const UNVERIFIED: Record<
  Trouble,
  { what: string; measured: (found: string) => string; why: string; remedy: string }
> = {
  'not-asked': {
    what: 'is in a link filter, and nobody asks the site whether the app may have its links',
    measured: () =>
      'no android:autoVerify="true" on a filter with VIEW, DEFAULT, BROWSABLE and web schemes alone',
    why: 'Since Android 12 an unverified web link opens in the browser, without a question.',
    remedy: 'Set android:autoVerify="true" on the filter, and keep private schemes in a filter of their own.',
  },
  unreadable: {
    what: 'serves something else than the association file',
    measured: (found) => found,
    why: 'The platform cannot read it, and every link of the site opens in the browser.',
    remedy: 'Serve the file itself at /.well-known/, as JSON, with status 200.',
  },
  redirected: {
    what: 'redirects the association file',
    measured: (found) => `redirected to ${found}`,
    why: 'The platforms do not follow redirects here, and every link of the site opens in the browser.',
    remedy:
      'Serve the file at this very host, without a redirect; the bare host and www each need their own.',
  },
  'developer-mode': {
    what: 'is asked for in developer mode, which this build does not have',
    measured: (found) => `signed for ${found}`,
    why: 'The mode works in builds that are signed for development only: in this one every link of the site opens in the browser.',
    remedy: 'Take ?mode=developer out of the associated domains of the release configuration.',
  },
  'content-type': {
    what: 'serves the association file under another type',
    measured: (found) => `content-type ${found}`,
    why: 'The platform reads it only as application/json.',
    remedy: 'Set the content type application/json for the file.',
  },
  'other-app': {
    what: 'does not name this app in its association file',
    measured: (found) => `it names ${found || 'none'}`,
    why: 'The site lets other apps have its links, and this one not.',
    remedy: 'Add the app to the file, with the id of the release.',
  },
  'other-certificate': {
    what: 'names another certificate than the one that the app is signed with',
    measured: (found) => `it names ${found}`,
    why: 'The platform compares the certificate of the installed app. Where a store signs again it is the store’s, not the one of the upload.',
    remedy:
      'Put the fingerprint of the certificate of the release into the file, or name it under links.certificates in fenlok.yaml where a store signs.',
  },
  fingerprint: {
    what: 'gives a fingerprint that is none',
    measured: (found) => found,
    why: 'The platform compares it letter by letter, so that it agrees to nothing.',
    remedy: 'Write the SHA-256 of the certificate: 32 bytes in capital hex digits, with colons between them.',
  },
};
