/**
 * Every URL that the app promises is asked for in its package: each web scheme and host, with a slash at the end and
 * without, and as mail programs write it. What keeps a browser from a filter that is there is told by
 * `closed-link-filter`, what sites say by `unverified-domain`.
 */
import type { Assertion, Check } from '../check.ts';
import { declaredLinks, nearestMiss, type TriedProbe } from './declared-links.ts';

const TOLD_ELSEWHERE = new Set(['category', 'enabled', 'exported']);

export const undeclaredRoute = {
  id: 'undeclared-route',
  area: 'links',
  needs: ['package'],
  *run(facts, intent): Iterable<Assertion> {
    const { evidence, promised } = facts.once(declaredLinks, intent);
    for (const [route, tried] of byRoute(promised)) {
      const departing = new Map<string, TriedProbe[]>();
      for (const one of tried) {
        const miss = nearestMiss(one.decision);
        if (!miss) yield { outcome: 'passed' };
        else if (TOLD_ELSEWHERE.has(miss.miss.test)) yield { outcome: 'inapplicable' };
        else departing.set(miss.miss.test, [...(departing.get(miss.miss.test) ?? []), one]);
      }
      for (const [test, [first, ...more]] of departing) {
        const { miss, name, position } = nearestMiss(first!.decision)!;
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: `route ${route}`, aspect: test },
            basis: 'measured',
            severity: first!.probe.kind === 'good' ? 10 + more.length : 1 + more.length,
            digest: [first!, ...more].map(({ probe }) => probe.url).join(' '),
            occurrence: {
              evidence,
              shown: first!.probe.url,
              data: {
                route,
                url: first!.probe.url,
                more: more.map(({ probe }) => probe.url),
                variant: first!.probe.variant,
                test,
                found: miss.found,
                wanted: miss.wanted,
                nearest: name,
                position: position ?? 0,
              },
            },
          },
        };
      }
    }
  },
} satisfies Check;

function byRoute(promised: readonly TriedProbe[]): Map<string, TriedProbe[]> {
  const routes = new Map<string, TriedProbe[]>();
  for (const one of promised) routes.set(one.probe.route, [...(routes.get(one.probe.route) ?? []), one]);
  return routes;
}
