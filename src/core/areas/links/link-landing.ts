/** A link, handed over as a user's tap would, lands on its screen with its arguments: cold, warm and in front. */
import type { LinkRunFact } from '../../model/facts/links.ts';
import type { Intent, IntentRoute } from '../../model/intent.ts';
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import type { Assertion, Check } from '../check.ts';
import { type DeclaredLinks, declaredLinks } from './declared-links.ts';
import { lastLinkRuns } from './last-link-runs.ts';

export type LandingFault = 'crashed' | 'not-opened' | 'other-screen' | 'argument-lost';

export const linkLanding = {
  id: 'link-landing',
  area: 'links',
  needs: ['link-run'],
  *run(facts, intent): Iterable<Assertion> {
    const declared = facts.once(declaredLinks, intent);
    for (const run of lastLinkRuns(facts)) {
      const route = intent.links.routes.find(({ id }) => id === run.route);
      if (!route || run.probe === 'hostile') continue;
      // where the package or the site keeps it from the app, their own findings say so
      if (run.addressed ? !run.inApp && !run.crash : !isForTheApp(run, declared)) {
        yield { outcome: 'inapplicable' };
        continue;
      }
      const fault = faultOf(run, route, intent);
      yield fault
        ? { outcome: 'failed', cell: run.cell, draft: draftOf(run, route, fault) }
        : { outcome: 'passed', cell: run.cell };
    }
  },
} satisfies Check;

/** What depends on a site that nobody knows of is held to what the device did. */
function isForTheApp({ inApp, url }: LinkRunFact, { matcher }: DeclaredLinks): boolean {
  const opens = matcher?.decide(parseLinkUri(url)).opens ?? 'app';
  return opens === 'app' || (opens === 'unknown' && inApp);
}

const SEVERITY: Record<LandingFault, number> = {
  crashed: 4,
  'not-opened': 3,
  'other-screen': 2,
  'argument-lost': 1,
};

function faultOf(
  run: LinkRunFact,
  route: IntentRoute,
  { screens }: Intent,
): { kind: LandingFault; found: string; wanted: string } | undefined {
  const { crash, inApp, landed, notResponding, texts, told } = run;
  const activity = screens.find(({ id }) => id === route.screen)?.activity ?? '';
  if (crash || notResponding)
    return { kind: 'crashed', found: crash?.exception ?? 'it does not answer', wanted: route.screen };
  if (!inApp) return { kind: 'not-opened', found: landed, wanted: route.screen };
  if (!landed.endsWith(activity)) return { kind: 'other-screen', found: landed, wanted: route.screen };
  for (const [name, value] of Object.entries(run.arguments))
    if (told && told[name] !== value)
      return {
        kind: 'argument-lost',
        found: told[name] === undefined ? `no ${name}` : `${name} ${told[name]}`,
        wanted: `${name} ${value}`,
      };
  // what stands on the screen is that of the examples
  if (run.variant === 'encoded') return undefined;
  const missing = route.shows.filter((wanted) => !texts.some((text) => text.includes(wanted)));
  return missing.length > 0
    ? { kind: 'argument-lost', found: `no “${missing[0]}” on the screen`, wanted: missing.join(', ') }
    : undefined;
}

const draftOf = (
  run: LinkRunFact,
  { id, screen }: IntentRoute,
  { found, kind, wanted }: { kind: LandingFault; found: string; wanted: string },
) => ({
  identity: { screen, subject: `route ${id}`, aspect: `${kind} ${run.how}` },
  basis: 'measured' as const,
  severity: SEVERITY[kind] * 10 + (run.probe === 'good' ? 5 : 0),
  digest: `${kind} ${found}`,
  occurrence: {
    evidence: run.evidence,
    cell: { ...run.cell, screen },
    shown: run.url,
    data: {
      route: id,
      fault: kind,
      url: run.url,
      how: run.how,
      addressed: run.addressed,
      found,
      wanted,
      landed: run.landed,
    },
  },
});
