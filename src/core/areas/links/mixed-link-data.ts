/**
 * Elements of one filter combine: every scheme with every host with every path (Android developers, *<data>*). Where elements
 * name whole pairs, the filter also takes pairs that nobody wrote. Whether they are meant, the package does not say.
 */
import type { LinkElement } from '../../model/app-package.ts';
import type { LinkFilterFact } from '../../model/facts/links.ts';
import type { Assertion, Check } from '../check.ts';

export const mixedLinkData = {
  id: 'mixed-link-data',
  area: 'links',
  needs: ['package', 'link-filter'],
  *run(facts): Iterable<Assertion> {
    for (const fact of facts.of('link-filter')) {
      const strays = findStrays(fact.filter.elements ?? []);
      yield strays.length > 0 ? { outcome: 'cantTell', draft: draftOf(fact, strays) } : { outcome: 'passed' };
    }
  },
} satisfies Check;

/** Links of pairs that no element names, though each half stands only in elements that name a pair. */
function findStrays(elements: readonly LinkElement[]): string[] {
  const withScheme = strayPairs(
    elements.map(({ host, scheme }) => ({ first: scheme, seconds: host ? [host] : [] })),
  ).map(([scheme, host]) => `${scheme}://${host}`);
  const scheme = elements.find((element) => element.scheme)?.scheme ?? 'https';
  const withPath = strayPairs(elements.map(({ host, paths = [] }) => ({ first: host, seconds: paths }))).map(
    ([host, path]) => `${scheme}://${host}${path.replace(/^pathPrefix=(.*)$/, '$1…').replace(/^\w+=/, '')}`,
  );
  return [...new Set([...withScheme, ...withPath])];
}

function strayPairs(elements: readonly { first?: string; seconds: string[] }[]): [string, string][] {
  const pairs = new Set(
    elements.flatMap(({ first, seconds }) => seconds.map((second) => `${first}\n${second}`)),
  );
  const firsts = new Set(
    elements.flatMap(({ first, seconds }) => (first && seconds.length > 0 ? [first] : [])),
  );
  const seconds = new Set(elements.flatMap(({ first, seconds: of }) => (first ? of : [])));
  // a half that stands alone somewhere is meant to combine with all
  for (const { first, seconds: of } of elements) {
    if (first && of.length === 0) firsts.delete(first);
    if (!first) for (const second of of) seconds.delete(second);
  }
  return [...firsts].flatMap((first) =>
    [...seconds].flatMap((second): [string, string][] =>
      pairs.has(`${first}\n${second}`) ? [] : [[first, second]],
    ),
  );
}

const draftOf = ({ component, evidence, position }: LinkFilterFact, strays: string[]) => ({
  identity: { subject: `${component} filter ${position}` },
  basis: 'estimated' as const,
  severity: 1,
  digest: strays.join(' '),
  occurrence: { evidence, shown: component, data: { component, position, strays } },
});
