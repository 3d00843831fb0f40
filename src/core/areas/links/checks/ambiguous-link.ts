/** One URL is for one activity and for one route: else the user is asked which of the app's own screens is meant. */

import { z } from 'zod';
import { parseLinkUri } from '../../../platform/links/link-uri.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut, isFilled, lastPart } from '../../words.ts';
import { declaredLinks } from '../declared-links.ts';
import { routesFor } from '../route-template.ts';

const dataSchema = z.strictObject({
  url: z.string(),
  components: z.array(z.string()),
  routes: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const ambiguousLink = defineCheck({
  id: 'ambiguous-link',
  area: 'links',
  priority: 'wrong',
  standard: 'Android developers, Create deep links to app content',
  basis: 'measured',
  needs: 'package',
  reads: ['link-domains', 'signing', 'link-filter', 'site-file'],
  data: dataSchema,
  words: ({ components, routes, url }) => ({
    what: `Several of the app's own take ${cut(url)}`,
    measured: isFilled(components) ? components.map(lastPart).join(', ') : `routes ${routes.join(', ')}`,
    required: 'one activity and one route',
    why: isFilled(components)
      ? 'The user is asked to choose between two entries with the same name and icon.'
      : 'Two routes in fenlok.yaml promise the same URL, so that one of them never opens.',
    remedy: 'Narrow one of the filters, or let one activity take the link and lead on from there.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
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
          target: { kind: 'route', id: probe.route },
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

  doc: {
    looksAt: 'Every promised URL',
    against: 'One activity, one route',
    matters: 'The user is asked to choose between two entries with the same name and icon.',
    measured:
      'Each URL that a route promises, matched against every filter of the package as the platform matches it, and against every route.',
    errs: 'Filters that code switches on later are not seen.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<data android:scheme="https" android:host="kelpline.example" android:pathPrefix="/sailings/" />',
      },
    ],
  },
});
