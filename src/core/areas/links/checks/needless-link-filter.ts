/** A filter that no route needs is a door that nobody minds: it opens a screen with arguments that nobody thought of. */

import { z } from 'zod';
import type { LinkFilterFact } from '../../../model/facts/links.ts';
import { BROWSABLE, compileFilter, DEFAULT, missOf, VIEW } from '../../../platform/links/link-filter.ts';
import { parseLinkUri } from '../../../platform/links/link-uri.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { declaredLinks } from '../declared-links.ts';
import { formatFilter } from '../format-filter.ts';

const dataSchema = z.strictObject({ component: z.string(), position: z.number(), link: z.string() });
type Data = z.infer<typeof dataSchema>;

export const needlessLinkFilter = defineCheck({
  id: 'needless-link-filter',
  area: 'links',
  priority: 'harder',
  standard: 'OWASP MASVS, MASVS-PLATFORM-1',
  basis: 'measured',
  needs: 'package',
  reads: ['link-filter', 'link-domains', 'signing', 'site-file'],
  data: dataSchema,
  words: ({ component, link, position }) => ({
    what: `No route needs the filter for ${link}`,
    measured: `filter ${position} of ${component}`,
    required: 'a route in fenlok.yaml for each filter, or no filter',
    why: 'Anybody may open that screen with any arguments, and nobody tries it before a release.',
    remedy: 'Remove the filter, or write its route under links.routes in fenlok.yaml.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const uris = facts.once(declaredLinks, intent).promised.map(({ probe }) => parseLinkUri(probe.url));
    for (const fact of facts.of('link-filter')) {
      // without routes nobody has said what is needed
      if (uris.length === 0 || !fact.filter.actions.includes(VIEW)) {
        yield { outcome: 'inapplicable' };
        continue;
      }
      const compiled = compileFilter({ ...fact.filter, categories: [BROWSABLE, DEFAULT] });
      yield uris.some((uri) => missOf(compiled, uri) === undefined)
        ? { outcome: 'passed' }
        : { outcome: 'failed', draft: draftOf(fact) };
    }
  },

  doc: {
    looksAt: 'Every link filter, once there are routes',
    against: 'A route needs it',
    matters: 'Anybody may open that screen with any arguments, and nobody tries it before a release.',
    measured: 'Every link filter against the routes of the intent file, once there are any.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'links: { routes: [{ id: ticket, url: "/tickets/{ticket}", screen: tickets }] }',
      },
    ],
  },
});

const draftOf = ({ component, evidence, filter, position }: LinkFilterFact) => ({
  identity: { subject: `${component} ${formatFilter(filter)}` },
  basis: 'measured' as const,
  severity: 1,
  digest: formatFilter(filter),
  occurrence: {
    evidence,
    shown: formatFilter(filter),
    data: { component, position, link: formatFilter(filter) },
  },
});
