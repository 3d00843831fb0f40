/**
 * Web links open the app without asking only where the site agrees (Android developers, *Verify App Links*; Apple
 * developer documentation, *Supporting associated domains*). Looked at for each site that the package or the intent
 * file names.
 */
import type { SiteFileFact } from '../../model/facts/links.ts';
import type { Intent } from '../../model/intent.ts';
import type { SiteFile } from '../../model/site-file.ts';
import type { Verification } from '../../platform/links/link-decision.ts';
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import { servedTrouble } from '../../platform/links/served-trouble.ts';
import { appsOf } from '../../platform/links/site-association.ts';
import type { Assertion, Check, FactIndex } from '../check.ts';
import { type DeclaredLinks, declaredLinks } from './declared-links.ts';

export const unverifiedDomain = {
  id: 'unverified-domain',
  area: 'links',
  needs: ['package'],
  *run(facts, intent): Iterable<Assertion> {
    const declared = facts.once(declaredLinks, intent);
    const verifications = declared.candidate?.ios
      ? appleSites(declared, facts)
      : androidSites(declared, facts, intent);
    for (const { fact, verification } of verifications) {
      yield judge(verification, fact?.evidence ?? declared.evidence);
      // of a file alone nobody knows how it was served
      if (fact && verification.state === 'verified' && !fact.site.response)
        yield { outcome: 'untested', lacking: `the head of what ${verification.host} answered (curl -i)` };
      if (fact) yield* malformedFingerprints(fact);
    }
  },
} satisfies Check;

interface Site {
  verification: Verification;
  /** What the site serves, where it was added. */
  fact?: SiteFileFact;
}

/** Every host of a web filter, asked for with a URL that the filter takes. */
function* androidSites(
  { candidate, matcher, promised }: DeclaredLinks,
  facts: FactIndex,
  { links }: Intent,
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

function* appleSites({ candidate }: DeclaredLinks, facts: FactIndex): Iterable<Site> {
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

const factOf = (facts: FactIndex, host: string, kind: SiteFile['kind']): SiteFileFact | undefined =>
  facts.of('site-file').find(({ site }) => site.host === host && site.kind === kind);

function judge(verification: Verification, evidence: string): Assertion {
  const { host, state } = verification;
  if (state === 'verified') return { outcome: 'passed' };
  if (state === 'no-file') return { outcome: 'untested', lacking: `what ${host} serves at /.well-known/` };
  const { found, wanted, why } =
    state === 'refused' ? verification : { why: 'not-asked', found: '', wanted: '' };
  return {
    outcome: 'failed',
    draft: {
      identity: { subject: host, aspect: why },
      basis: 'measured',
      severity: 2,
      digest: `${why} ${found}`,
      occurrence: { evidence, shown: host, data: { host, why, found, wanted } },
    },
  };
}

/** A fingerprint that is no fingerprint agrees to nothing, whatever it was meant to be. */
function* malformedFingerprints({ evidence, site }: SiteFileFact): Iterable<Assertion> {
  const { host, problems } = site;
  for (const { code, expected = '', found, place = '' } of problems)
    if (code === 'site.fingerprint')
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: host, aspect: `fingerprint of ${place}` },
          basis: 'measured',
          severity: 1,
          digest: found,
          occurrence: { evidence, shown: host, data: { host, why: 'fingerprint', found, wanted: expected } },
        },
      };
}
