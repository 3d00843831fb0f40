/**
 * A link opens an app from a browser only through a filter with VIEW, DEFAULT and BROWSABLE on an enabled,
 * exported component (Android developers, *Create deep links to app content*).
 */
import type { LinkFilterFact } from '../../model/facts/links.ts';
import type { Intent } from '../../model/intent.ts';
import { BROWSABLE, DEFAULT, VIEW } from '../../platform/links/link-filter.ts';
import type { Assertion, Check } from '../check.ts';
import { moreLinks, sayFilter } from './say-filter.ts';

// Since target SDK 31 a component with a filter must say whether it is exported; before, a filter meant yes.
const EXPORTED_MUST_BE_SAID = 31;

export const closedLinkFilter = {
  id: 'closed-link-filter',
  area: 'links',
  needs: ['package', 'link-filter'],
  *run(facts, intent) {
    const targetSdk = facts.of('package')[0]?.targetSdk ?? 1;
    for (const filter of facts.of('link-filter')) yield judgeFilter(filter, targetSdk, intent);
  },
} satisfies Check;

function judgeFilter(fact: LinkFilterFact, targetSdk: number, intent: Intent): Assertion {
  const { filter } = fact;
  const schemes = filter.schemes.filter((scheme) => scheme !== 'content' && scheme !== 'file');
  if (!filter.actions.includes(VIEW) || schemes.length === 0) return { outcome: 'inapplicable' };
  const exported = fact.exported === 'unset' ? targetSdk < EXPORTED_MUST_BE_SAID : fact.exported;
  const lacks = [
    !filter.categories.includes(BROWSABLE) && 'browsable',
    !filter.categories.includes(DEFAULT) && 'default',
    !exported && 'exported',
    !fact.enabled && 'enabled',
  ].filter((lack) => lack !== false);
  if (lacks.length === 0) return { outcome: 'passed' };
  // A private scheme without BROWSABLE may be meant for the team's own apps; all else is asked for by a browser.
  const meantForBrowsers =
    filter.autoVerify ||
    filter.categories.includes(BROWSABLE) ||
    schemes.some((scheme) => /^https?$/i.test(scheme) || intent.links.schemes.includes(scheme));
  return {
    outcome: meantForBrowsers ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: `${fact.component} ${sayFilter(filter)}` },
      basis: meantForBrowsers ? 'measured' : 'estimated',
      severity: lacks.length,
      digest: lacks.join(' '),
      occurrence: {
        evidence: fact.evidence,
        shown: sayFilter(filter),
        data: {
          component: fact.component,
          position: fact.position,
          link: sayFilter(filter),
          more: moreLinks(filter),
          lacks,
          exported: String(fact.exported),
          meantForBrowsers,
        },
      },
    },
  };
}
