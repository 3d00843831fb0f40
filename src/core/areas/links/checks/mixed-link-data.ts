/**
 * Elements of one filter combine: every scheme with every host with every path (Android developers, *<data>*). Where elements
 * name whole pairs, the filter also takes pairs that nobody wrote. Whether they are meant, the package does not say.
 */

import { z } from 'zod';
import type { LinkElement } from '../../../model/app-package.ts';
import type { LinkFilterFact } from '../../../model/facts/links.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPart } from '../../words.ts';

const dataSchema = z.strictObject({
  component: z.string(),
  position: z.number(),
  strays: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const mixedLinkData = defineCheck({
  id: 'mixed-link-data',
  area: 'links',
  priority: 'harder',
  standard: 'Android developers, <data>',
  basis: 'estimated',
  needs: 'package',
  reads: ['link-filter'],
  data: dataSchema,
  words: ({ component, position, strays }) => {
    const urls = strays;
    return {
      what: `A link filter takes ${urls.length === 1 ? 'a link' : `${urls.length} links`} that nobody wrote: ${urls[0]}`,
      measured: `filter ${position} of ${lastPart(component)}: also ${urls.slice(0, 4).join(', ')}${urls.length > 4 ? ` and ${urls.length - 4} more` : ''}`,
      required: 'only the pairs that its elements name',
      why: 'All <data> elements of a filter combine: every scheme with every host with every path.',
      remedy: 'Write a filter of its own for each pair.',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const fact of facts.of('link-filter')) {
      const strays = findStrays(fact.filter.elements ?? []);
      yield strays.length > 0 ? { outcome: 'cantTell', draft: draftOf(fact, strays) } : { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: '`<data>` elements of a filter that name whole pairs',
    against: 'Only these pairs. Always estimated',
    matters: 'All elements of a filter combine, so that the app takes links that nobody wrote.',
    measured:
      'The pairs of scheme, host and path that the elements name, and those that the platform makes of them.',
    errs: 'The mixture may be meant; always estimated.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: `<intent-filter><!-- one for each pair -->
  <data android:scheme="https" android:host="kelpline.example" />
</intent-filter>
<intent-filter><data android:scheme="kelpline" /></intent-filter>`,
      },
    ],
  },
});

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
