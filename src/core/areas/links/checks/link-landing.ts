/** A link, handed over as a user's tap would, lands on its screen with its arguments: cold, warm and in front. */

import { z } from 'zod';
import type { LinkRunFact } from '../../../model/facts/links.ts';
import type { IntentRoute } from '../../../model/intent-parts.ts';
import { parseLinkUri } from '../../../platform/links/link-uri.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { SAME_SCREEN } from '../../lifecycle/state/screen-state.ts';
import { cut } from '../../words.ts';
import { type DeclaredLinks, declaredLinks } from '../declared-links.ts';
import { lastLinkRuns } from '../last-link-runs.ts';
import { HOW } from '../words.ts';

type LandingFault = 'crashed' | 'not-opened' | 'other-screen' | 'argument-lost';

const dataSchema = z.strictObject({
  fault: z.enum(['crashed', 'not-opened', 'other-screen', 'argument-lost']),
  url: z.string(),
  how: z.enum(['cold', 'warm', 'front']),
  addressed: z.boolean(),
  found: z.string(),
  wanted: z.string(),
  landed: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const linkLanding = defineCheck({
  id: 'link-landing',
  area: 'links',
  priority: 'cannot-use',
  standard: 'Android developers, Create deep links; Apple, Supporting associated domains',
  basis: 'measured',
  needs: 'link-run',
  reads: ['package', 'link-domains', 'signing', 'link-filter', 'site-file'],
  data: dataSchema,
  words: ({ addressed, fault, found, how, landed, url, wanted }) => {
    const state = HOW[how]!;
    const said: Record<string, [what: string, measured: string, why: string, remedy: string]> = {
      crashed: [
        `A link ends the app ${state}`,
        found,
        'Who follows the link sees the app vanish.',
        'Read the arguments of the link with care: what a screen loads before may not be there yet.',
      ],
      'not-opened': [
        `A link does not reach the app ${state}`,
        `in front afterwards: ${landed || 'nothing'}`,
        'The package asks for it, and yet this device gave it to somebody else.',
        'Ask the device what it verified (Android: pm get-app-links). Install again after a change of the site, and see that no other app has it.',
      ],
      'other-screen': [
        `A link lands on another screen ${state}`,
        `in front afterwards: ${found}`,
        'The user asked for one thing and sees another.',
        `Lead it to ${wanted} where the app reads its links, also when it is started by one.`,
      ],
      'argument-lost': [
        `An argument of a link is lost ${state}`,
        found,
        'The right screen opens, and shows something else than the link is about.',
        'Read the arguments of each link, also of one that comes while the app runs, and wait for what they need to be loaded.',
      ],
    };
    const [what, measured, why, remedy] = said[fault]!;
    return {
      what: `${what}: ${cut(url)}${addressed ? ' (addressed to the app)' : ''}`,
      measured,
      required: wanted,
      why,
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const declared = facts.once(declaredLinks, intent);
    for (const run of lastLinkRuns(facts)) {
      const route = intent.links.routes.find(({ id }) => id === run.route);
      if (!route || run.probe === 'hostile') continue;
      // where the package or the site keeps it from the app, their own findings say so
      if (run.addressed ? !run.inApp && !run.crash : !isForTheApp(run, declared)) {
        yield { outcome: 'inapplicable' };
        continue;
      }
      if (run.platform === 'ios' && run.inApp && run.likeGoal === undefined) {
        yield {
          outcome: 'untested',
          because: `${route.screen} could not be reached by the steps of fenlok.yaml, so nobody knows what it looks like`,
        };
        continue;
      }
      const fault = faultOf(run, route, intent);
      yield fault
        ? { outcome: 'failed', cell: run.cell, draft: draftOf(run, route, fault) }
        : { outcome: 'passed', cell: run.cell };
    }
  },

  doc: {
    looksAt: 'Each promised URL, fired at a device cold, warm and in front',
    against:
      'The screen of its route, what it `shows`, the arguments that the app logged. What package or site keep out is left to their checks',
    matters: 'The user asked for one thing and sees another, or sees the app vanish.',
    measured:
      'Each promised URL is handed to a device with the app not running, in background and in front; the screen, its texts and the arguments that the app logs are read.',
    errs: 'What package or site keep out is left to their own checks.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onNewIntent(intent: Intent) { super.onNewIntent(intent); setIntent(intent); show(intent.data) }',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'ContentView().onOpenURL { router.show($0) }' },
    ],
  },
});

/** What depends on a site that nobody knows of is held to what the device did. */
function isForTheApp({ inApp, url }: LinkRunFact, { matcher }: DeclaredLinks): boolean {
  const opens = matcher?.decide(parseLinkUri(url)).opens ?? 'app';
  return opens === 'app' || (opens === 'unknown' && inApp);
}

/** Of iOS nothing names the screen in front; it is told by what stands on it. */
const isThere = ({ landed, likeGoal }: LinkRunFact, activity: string): boolean =>
  likeGoal === undefined ? landed.endsWith(activity) : likeGoal >= SAME_SCREEN;

const titled = ([title = '']: readonly string[]): string => `a screen that begins with “${title}”`;

const SEVERITY: Record<LandingFault, number> = {
  crashed: 4,
  'not-opened': 3,
  'other-screen': 2,
  'argument-lost': 1,
};

function faultOf(
  run: LinkRunFact,
  route: IntentRoute,
  { screens }: IntentWith,
): { kind: LandingFault; found: string; wanted: string } | undefined {
  const { crash, inApp, landed, notResponding, texts, told } = run;
  const activity = screens.find(({ id }) => id === route.screen)?.activity ?? '';
  if (crash || notResponding)
    return { kind: 'crashed', found: crash?.exception ?? 'it does not answer', wanted: route.screen };
  if (!inApp) return { kind: 'not-opened', found: landed, wanted: route.screen };
  if (!isThere(run, activity))
    return {
      kind: 'other-screen',
      found: landed.endsWith('/') ? titled(texts) : landed,
      wanted: route.screen,
    };
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
  target: { kind: 'route' as const, id, part: run.how },
  basis: 'measured' as const,
  severity: SEVERITY[kind] * 10 + (run.probe === 'good' ? 5 : 0),
  digest: `${kind} ${found}`,
  occurrence: {
    evidence: run.evidence,
    cell: { ...run.cell, screen },
    shown: run.url,
    data: {
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
