/**
 * Every URL that the app promises is asked for in its package: each web scheme and host, with a slash at the end and
 * without, and as mail programs write it. What keeps a browser from a filter that is there is told by
 * `closed-link-filter`, what sites say by `unverified-domain`.
 */

import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut, lastPart, quote } from '../../words.ts';
import { declaredLinks, nearestMiss, type TriedProbe } from '../declared-links.ts';
import { VARIANTS } from '../words.ts';

const TOLD_ELSEWHERE = new Set(['category', 'enabled', 'exported']);

const dataSchema = z.strictObject({
  route: z.string(),
  url: z.string(),
  more: z.array(z.string()),
  variant: z.enum([
    'plain',
    'http',
    'host',
    'slash',
    'encoded',
    'query',
    'fragment',
    'argument-missing',
    'argument-malformed',
    'bad-escape',
    'too-long',
  ]),
  test: z.string(),
  found: z.string(),
  wanted: z.array(z.string()),
  nearest: z.string(),
  position: z.number(),
});
type Data = z.infer<typeof dataSchema>;

export const undeclaredRoute = defineCheck({
  id: 'undeclared-route',
  area: 'links',
  priority: 'cannot-use',
  standard: 'Android developers, <data>; Apple, Supporting associated domains',
  basis: 'measured',
  needs: 'package',
  reads: ['link-domains', 'signing', 'link-filter', 'site-file'],
  data: dataSchema,
  words: ({ found, more, nearest, position, route, test, url, variant, wanted }) => {
    const others = more;
    const asked = wanted.slice(0, 6).join(', ') || 'nothing';
    return {
      what: `The app does not ask for ${cut(url)}${others.length > 0 ? ` and ${others.length} more of route ${route}` : ''}`,
      measured: `${TESTS[test] ?? test}: ${quote(found)}, and ${lastPart(nearest)} asks for ${asked}`,
      required: `route ${route}${variant === 'plain' ? '' : `, ${VARIANTS[variant]}`}`,
      why:
        position > 0
          ? `What comes closest is filter ${position} of ${nearest}; there the ${TESTS[test] ?? test} differs. The link opens in the browser, or nothing does.`
          : `Nothing that the app is signed or declared for takes it (${nearest}).`,
      remedy: UNDECLARED[test] ?? 'Declare it, or take the route out of fenlok.yaml.',
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
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
            target: { kind: 'route', id: route },
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

  doc: {
    looksAt:
      'Every URL that a route of the intent file promises: both web schemes, each host, a slash at the end, encoded arguments, a query, a fragment',
    against:
      'A filter, or a rule of the site, takes it. What `closed-link-filter` and `unverified-domain` tell is left to them',
    matters: 'The link opens in the browser, or nothing opens it.',
    measured:
      "Every form of each promised URL (both web schemes, each host, a slash at the end, encoded arguments, a query, a fragment) against the filters and the site's rules.",
    errs: 'What closed-link-filter and unverified-domain tell is left to them.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<data android:scheme="https" android:host="www.kelpline.example" android:pathPrefix="/sailings/" />',
      },
      {
        where: 'apple-app-site-association',
        language: 'json',
        code: '{ "applinks": { "details": [{ "appIDs": ["TEAM123456.example.kelpline"], "components": [{ "/": "/sailings/*" }] }] } }',
      },
    ],
  },
});

function byRoute(promised: readonly TriedProbe[]): Map<string, TriedProbe[]> {
  const routes = new Map<string, TriedProbe[]>();
  for (const one of promised) routes.set(one.probe.route, [...(routes.get(one.probe.route) ?? []), one]);
  return routes;
}

const TESTS: Record<string, string> = {
  action: 'action',
  scheme: 'scheme',
  host: 'host',
  port: 'port',
  path: 'path',
  query: 'query',
  fragment: 'fragment',
  type: 'type',
  domain: 'domain',
  app: 'app id',
  excluded: 'exclusion',
};

const UNDECLARED: Record<string, string> = {
  scheme: 'Add a <data> element with the scheme to the filter; https and http are two.',
  host: 'Add a <data> element with the host to the filter; the bare host and www are two.',
  port: 'Leave the port out of the filter, or out of the links.',
  path: 'Widen the path of the filter; a path in full takes no slash at its end, so declare both.',
  type: 'Take the MIME type out of the filter: a link brings none.',
  action: 'Declare android.intent.action.VIEW.',
  domain: 'Add applinks:HOST to the associated domains, in the entitlements and the profile.',
  app: "Name the app in the site's association file, with team id and bundle id.",
  excluded: "Put the rule that lets it in before the one that excludes it in the site's association file.",
  query: "Loosen the rule of the site's association file, or of the relative group.",
  fragment: "Loosen the rule of the site's association file, or of the relative group.",
};
