/** One URL is for one activity and for one route: else the user is asked which of the app's own screens is meant. */
import type { Assertion, Check } from '../check.ts';
import { declaredLinks } from './declared-links.ts';

export const ambiguousLink = {
  id: 'ambiguous-link',
  area: 'links',
  needs: ['package'],
  *run(facts, intent): Iterable<Assertion> {
    const { evidence, promised } = facts.once(declaredLinks, intent);
    const routesOf = new Map<string, Set<string>>();
    for (const { probe } of promised)
      routesOf.set(probe.url, (routesOf.get(probe.url) ?? new Set()).add(probe.route));
    for (const { decision, probe } of promised) {
      const names = [...new Set(decision.tried.flatMap(({ miss, name }) => (miss ? [] : [name])))];
      const routes = [...routesOf.get(probe.url)!];
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
