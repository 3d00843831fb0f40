/** A filter that takes links of others: every host, hosts that only end alike, a site's pages that are no routes. */

import { z } from 'zod';
import type { IntentFilter } from '../../../model/app-package.ts';
import type { LinkFilterFact } from '../../../model/facts/links.ts';
import { BROWSABLE, compileFilter, DEFAULT, missOf, VIEW } from '../../../platform/links/link-filter.ts';
import { parseLinkUri } from '../../../platform/links/link-uri.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut } from '../../words.ts';
import { formatFilter } from '../format-filter.ts';

type Breadth = 'every-host' | 'alike-hosts' | 'other-host' | 'browser-url' | 'alike-path';

const dataSchema = z.strictObject({
  component: z.string(),
  position: z.number(),
  breadth: z.enum(['every-host', 'alike-hosts', 'other-host', 'browser-url', 'alike-path']),
  example: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const broadLinkFilter = defineCheck({
  id: 'broad-link-filter',
  area: 'links',
  priority: 'harder',
  standard: 'Android developers, <data>',
  basis: 'either',
  needs: 'package',
  reads: ['link-filter'],
  data: dataSchema,
  words: ({ breadth, component, example, position }) => {
    const kind = BREADTHS[breadth]!;
    return {
      what: `The app takes links that are not its own: ${cut(example)}`,
      measured: `filter ${position} of ${component}: ${kind.measured}`,
      required: 'links of the routes, and no others',
      why: kind.why,
      remedy: kind.remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const fact of facts.of('link-filter')) {
      if (!fact.filter.actions.includes(VIEW)) continue;
      const [worst] = breadthsOf(fact.filter, intent);
      if (!worst) yield { outcome: 'passed' };
      else if (worst.isSure) yield { outcome: 'failed', draft: draftOf(fact, worst) };
      else yield { outcome: 'cantTell', draft: draftOf(fact, worst) };
    }
  },

  doc: {
    looksAt: 'Every link filter',
    against:
      'The hosts of the intent file, none of `links.browser`. A prefix that ends in the middle of a name is estimated',
    matters: 'Links of others open the app, which has nothing to show for them.',
    measured:
      'Every link filter against the hosts of the intent file and the URLs that must stay in the browser.',
    errs: "A prefix that ends in the middle of a name is estimated, since the site's pages are not known.",
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<data android:scheme="https" android:host="kelpline.example" android:pathPrefix="/sailings/" />',
      },
    ],
  },
});

interface Broad {
  breadth: Breadth;
  /** A link of others that it takes. */
  example: string;
  severity: number;
  isSure: boolean;
}

const WEB = /^https?$/;
const STRANGER = 'somebody-else.example';

function breadthsOf(filter: IntentFilter, { links }: IntentWith): Broad[] {
  const broad: Broad[] = [];
  const scheme = filter.schemes.find((one) => WEB.test(one));
  if (scheme !== undefined)
    for (const { host } of filter.authorities.length > 0 ? filter.authorities : [{ host: '*' }]) {
      const [breadth, example] = hostBreadth(host, links.hosts) ?? [];
      if (breadth)
        broad.push({
          breadth,
          example: `${scheme}://${example}`,
          severity: breadth === 'every-host' ? 5 : 3,
          isSure: true,
        });
    }
  const compiled = compileFilter({ ...filter, categories: [BROWSABLE, DEFAULT] });
  const taken = (url: string) => missOf(compiled, parseLinkUri(url)) === undefined;
  for (const example of links.browser.filter(taken))
    broad.push({ breadth: 'browser-url', example, severity: 4, isSure: true });
  // a prefix that ends in the middle of a name goes on into other names
  for (const path of filter.paths) {
    const prefix = /^pathPrefix=(.*[^/])$/.exec(path)?.[1];
    if (prefix === undefined || prefix === '') continue;
    const example = `${filter.schemes[0]}://${filter.authorities[0]?.host ?? ''}${prefix}-of-others`;
    if (taken(example)) broad.push({ breadth: 'alike-path', example, severity: 1, isSure: false });
  }
  return broad.sort((a, b) => b.severity - a.severity);
}

function hostBreadth(host: string, own: readonly string[]): [Breadth, string] | undefined {
  if (host === '*') return ['every-host', `${STRANGER}/`];
  if (/^\*[^.]/.test(host)) return ['alike-hosts', `not-${host.slice(1)}/`];
  const isOwn = own.some((one) => one === host || (host.startsWith('*.') && one.endsWith(host.slice(1))));
  return own.length > 0 && !isOwn ? ['other-host', `${host}/`] : undefined;
}

const draftOf = ({ component, evidence, filter, position }: LinkFilterFact, broad: Broad) => ({
  identity: { subject: `${component} ${formatFilter(filter)}`, aspect: broad.breadth },
  basis: broad.isSure ? ('measured' as const) : ('estimated' as const),
  severity: broad.severity,
  digest: broad.example,
  occurrence: {
    evidence,
    shown: broad.example,
    data: { component, position, breadth: broad.breadth, example: broad.example },
  },
});

const BREADTHS: Record<string, { measured: string; why: string; remedy: string }> = {
  'every-host': {
    measured: 'every host',
    why: 'Each web link on the device is offered to the app, and the user is asked about it or never sees it.',
    remedy: 'Name the hosts of the app with android:host.',
  },
  'alike-hosts': {
    measured: 'every host that ends alike',
    why: 'A star without a dot also takes hosts that only end with the same letters.',
    remedy: 'Write *.kelpline.example with the dot, and the bare host beside it.',
  },
  'other-host': {
    measured: 'a host that fenlok.yaml does not name',
    why: 'Either the host is no site of the app, or links.hosts does not know of it.',
    remedy: 'Take the host out of the filter, or add it to links.hosts in fenlok.yaml.',
  },
  'browser-url': {
    measured: 'a URL that must stay in the browser',
    why: 'The page exists only on the web, so that the app opens and has nothing to show.',
    remedy: 'Narrow the path of the filter.',
  },
  'alike-path': {
    measured: 'a prefix that ends in the middle of a name',
    why: 'It also takes longer names that begin alike; whether the site has any cannot be seen from here.',
    remedy:
      'Let the prefix end with a slash, and declare the path without it besides; or rule that the site has no such pages.',
  },
};
