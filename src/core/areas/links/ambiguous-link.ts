/** One URL is for one activity and for one route: else the user is asked which of the app's own screens is meant. */
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import type { Assertion, Check } from '../check.ts';
import { declaredLinks } from './declared-links.ts';
import { routesFor } from './route-template.ts';

export const ambiguousLink = {
  id: 'ambiguous-link',
  area: 'links',
  needs: ['package'],
  *run(facts, intent): Iterable<Assertion> {
    const { evidence, promised } = facts.once(declaredLinks, intent);
    for (const { decision, probe } of promised) {
      const names = [...new Set(decision.tried.flatMap(({ miss, name }) => (miss ? [] : [name])))];
      const routes = routesFor(parseLinkUri(probe.url), intent.links).map(({ id }) => id);
      if (names.length < 2 && routes.length < 2) {
        yield { outcome: 'passed' };
        continue;
      }
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: `route ${probe.route}` },
          basis: 'measured',
          severity: names.length + routes.length,
          digest: [...names, ...routes].join(' '),
          occurrence: {
            evidence,
            shown: probe.url,
            data: { url: probe.url, components: names.length > 1 ? names : [], routes },
          },
        },
      };
    }
  },
} satisfies Check;
