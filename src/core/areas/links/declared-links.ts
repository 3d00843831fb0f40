/** What a package declares of links, put together again from its facts, and how the promised URLs fare with it. */
import type { SiteFile } from '../../model/site-file.ts';
import type {
  LinkCandidate,
  LinkDecision,
  LinkMatcher,
  LinkMiss,
  LinkTrial,
} from '../../platform/links/link-decision.ts';
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import { linkMatcher } from '../../platform/links/match-link.ts';
import type { FactIndex, IntentWith } from '../check.ts';
import { type LinkProbe, probesOf } from './probes.ts';

export interface TriedProbe {
  probe: LinkProbe;
  decision: LinkDecision;
}

export interface DeclaredLinks {
  /** Undefined where no package was added. */
  candidate?: LinkCandidate;
  matcher?: LinkMatcher;
  evidence: string;
  /** Every probe that the route promises to open. */
  promised: TriedProbe[];
}

/** The newest platform, on which a site must agree. */
const DEVICE_SDK = 35;

export function declaredLinks(
  facts: FactIndex<'package' | 'link-domains' | 'signing' | 'link-filter' | 'site-file'>,
  intent: IntentWith,
): DeclaredLinks {
  const [app] = facts.of('package');
  if (!app) return { evidence: '', promised: [] };
  const candidate: LinkCandidate = { appId: app.build.appId, ...ofPlatform(facts, intent) };
  const matcher = linkMatcher(candidate, sitesOf(facts));
  return {
    candidate,
    matcher,
    evidence: app.evidence,
    promised: probesOf(intent)
      .filter(({ kind }) => kind !== 'hostile')
      .map((probe) => ({ probe, decision: matcher.decide(parseLinkUri(probe.url)) })),
  };
}

const sitesOf = (facts: FactIndex<'site-file'>): SiteFile[] => facts.of('site-file').map(({ site }) => site);

function ofPlatform(
  facts: FactIndex<'link-domains' | 'signing' | 'link-filter' | 'package'>,
  { links }: IntentWith,
): Pick<LinkCandidate, 'android' | 'ios'> {
  const [domains] = facts.of('link-domains');
  if (domains) return { ios: domains };
  const signed = facts.of('signing').flatMap(({ certificates }) => certificates[0]?.sha256 ?? []);
  return {
    android: {
      filters: facts.of('link-filter'),
      targetSdk: facts.of('package')[0]?.targetSdk ?? 1,
      certificates: links.certificates.length > 0 ? links.certificates : signed,
      deviceSdk: DEVICE_SDK,
    },
  };
}

/** Of all that could have taken a link, what came closest; undefined where something takes it. */
export function nearestMiss({ tried }: LinkDecision): (LinkTrial & { miss: LinkMiss }) | undefined {
  if (tried.some(({ miss }) => !miss)) return undefined;
  const missed = tried as (LinkTrial & { miss: LinkMiss })[];
  return missed.reduce<(typeof missed)[number] | undefined>(
    (nearest, one) => (!nearest || one.distance < nearest.distance ? one : nearest),
    undefined,
  );
}
