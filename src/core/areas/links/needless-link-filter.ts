/** A filter that no route needs is a door that nobody minds: it opens a screen with arguments that nobody thought of. */
import type { LinkFilterFact } from '../../model/facts/links.ts';
import { BROWSABLE, compileFilter, DEFAULT, missOf, VIEW } from '../../platform/links/link-filter.ts';
import { parseLinkUri } from '../../platform/links/link-uri.ts';
import type { Assertion, Check } from '../check.ts';
import { declaredLinks } from './declared-links.ts';
import { sayFilter } from './say-filter.ts';

export const needlessLinkFilter = {
  id: 'needless-link-filter',
  area: 'links',
  needs: ['package', 'link-filter'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;

const draftOf = ({ component, evidence, filter, position }: LinkFilterFact) => ({
  identity: { subject: `${component} ${sayFilter(filter)}` },
  basis: 'measured' as const,
  severity: 1,
  digest: sayFilter(filter),
  occurrence: {
    evidence,
    shown: sayFilter(filter),
    data: { component, position, link: sayFilter(filter) },
  },
});
