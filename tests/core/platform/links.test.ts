import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliDecompressSync } from 'node:zlib';
import fc from 'fast-check';
import type { IntentFilter } from '../../../src/core/model/app-package.ts';
import { UnreadableError } from '../../../src/core/model/problem.ts';
import type { SiteFile } from '../../../src/core/model/site-file.ts';
import {
  BROWSABLE,
  compileFilter,
  DEFAULT,
  missOf,
  takes,
  VIEW,
} from '../../../src/core/platform/links/link-filter.ts';
import { parseLinkUri } from '../../../src/core/platform/links/link-uri.ts';
import { linkMatcher, matchLink } from '../../../src/core/platform/links/match-link.ts';
import { compileAssociation } from '../../../src/core/platform/links/site-association.ts';
import { activityXml, androidCandidate, casesOf, linkCases, manifestXml } from '../../support/link-cases.ts';
import { root } from '../../support/paths.ts';

describe('links on Android', () => {
  test.each(
    linkCases.android.flatMap((group) =>
      casesOf(group).map(([url, wanted]) => [group.about, url, wanted, group] as const),
    ),
  )('%s: %s %s', (_, url, wanted, group) => {
    const decision = matchLink(url, androidCandidate(manifestXml([activityXml(group, '.One')])), []);
    expect(decision.tried.map(({ miss }) => miss?.test ?? '')).toEqual([wanted]);
    const isWeb = /^https?:/.test(url);
    expect(decision.components).toEqual(wanted === '' ? ['example.links.One'] : []);
    if (wanted !== '') expect(decision.opens).toBe(isWeb ? 'browser' : 'nobody');
    // nobody asked for the domain to be verified
    else expect(decision.opens).toBe(isWeb ? 'browser' : 'app');
  });
});

describe('links on iOS', () => {
  const APP = '9XXXXXXXX9.example.kelpline';
  test.each(
    linkCases.ios.flatMap((group) =>
      casesOf(group).map(([url, wanted]) => [group.about, url, wanted, group] as const),
    ),
  )('%s: %s %s', (_, url, wanted, group) => {
    const {
      appIDs = [APP],
      components,
      defaults,
      domains,
      paths,
      schemes = [],
      substitutionVariables,
    } = group;
    const site: SiteFile = {
      host: 'ferry.example',
      kind: 'apple-app-site-association',
      sizeBytes: 0,
      problems: [],
      appLinks: {
        details: [{ appIDs, ...(components && { components }), ...(paths && { paths }) }],
        defaults,
        substitutionVariables,
      } as SiteFile['appLinks'],
    };
    const candidate = { appId: 'example.kelpline', ios: { fullAppId: APP, domains, schemes } };
    const decision = matchLink(url, candidate, [site]);
    expect(decision.tried.map(({ miss }) => miss?.test ?? '')).toEqual([wanted]);
    expect(decision.opens === 'app').toBe(wanted === '');
  });
});

/** What the platform's own classes (Android 10) say of random filters and URLs; see tests/fixtures/links/make.mjs. */
describe("the platform's own filter class", () => {
  const KINDS = ['path', 'pathPrefix', 'pathPattern', 'pathAdvancedPattern'];
  interface Asked {
    schemes: string[];
    authorities: [host: string, port: string][];
    paths: [type: number, pattern: string][];
    specificParts: [type: number, pattern: string][];
    answers: string;
  }
  const file = join(root, 'tests/fixtures/links/platform-answers.json.br');
  const asked = JSON.parse(brotliDecompressSync(readFileSync(file)).toString()) as {
    urls: string[];
    filters: Asked[];
  };
  const filterOf = ({ authorities, paths, schemes, specificParts }: Asked): IntentFilter => ({
    actions: [VIEW],
    categories: [BROWSABLE, DEFAULT],
    schemes,
    authorities: authorities.map(([host, port]) => ({ host, ...(port && { port: Number(port) }) })),
    paths: paths.map(([type, value]) => `${KINDS[type]}=${value}`),
    specificParts: specificParts.map(([type, value]) => `${KINDS[type]!.replace('path', 'ssp')}=${value}`),
    relativeGroups: [],
    mimeTypes: [],
    autoVerify: false,
  });

  test('agrees on every pair, and refuses the same patterns', () => {
    const uris = asked.urls.map(parseLinkUri);
    const differing: unknown[] = [];
    let taken = 0;
    for (const one of asked.filters) {
      const compiled = attemptCompile(filterOf(one));
      if ((compiled === undefined) !== (one.answers === 'X')) differing.push(one);
      if (!compiled) continue;
      for (const [i, uri] of uris.entries()) {
        const isTaken = missOf(compiled, uri) === undefined;
        taken += isTaken ? 1 : 0;
        if (isTaken !== (one.answers[i] === '1') || isTaken !== takes(compiled, uri))
          differing.push([uri.text, one.schemes, one.authorities, one.paths, one.specificParts]);
      }
    }
    expect(differing.slice(0, 5)).toEqual([]);
    expect(taken).toBeGreaterThan(10_000);
  });

  test('so does an app of many filters, asked without the reasons', () => {
    const uris = asked.urls.map(parseLinkUri);
    const good = asked.filters.filter(({ answers }) => answers !== 'X').map(filterOf);
    for (let from = 0; from + 40 <= good.length; from += 40) {
      const filters = good.slice(from, from + 40).map((filter, i) => ({
        component: `app.Screen${i % 30}`,
        componentType: 'activity' as const,
        position: 1,
        exported: i % 9 !== 0,
        enabled: i % 11 !== 0,
        filter: {
          ...filter,
          autoVerify: i % 2 === 0,
          relativeGroups: i % 7 ? [] : [{ allow: i % 2 === 0, parts: ['pathPrefix=/a'] }],
        },
      }));
      const android = { filters, targetSdk: 34, certificates: [], deviceSdk: 34 };
      const { decide, opens } = linkMatcher({ appId: 'example.links', android }, []);
      for (const uri of uris) {
        const { tried: _, url, ...decision } = decide(uri);
        expect([url, opens(uri)]).toEqual([url, decision]);
      }
    }
  });

  const attemptCompile = (filter: IntentFilter) => {
    try {
      return compileFilter(filter);
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      return undefined;
    }
  };
});

test('rules of a site: the first that matches decides, whatever they are looked up by', () => {
  const piece = fc.constantFrom('a', 'b', '/', '/a', '*', '?', '?*', 'A', '%C3%A9', '.', '$(digit)', '7');
  const pattern = fc.array(piece, { maxLength: 5 }).map((parts) => `/${parts.join('')}`);
  const rule = fc.record({ '/': pattern, exclude: fc.boolean(), caseSensitive: fc.boolean() });
  const path = fc
    .array(fc.constantFrom('a', 'b', '/', 'A', '%C3%A9', '.', '7'), { maxLength: 6 })
    .map((parts) => `/${parts.join('')}`);
  // plain, slow, and of other code
  const expressionOf = ({ '/': text, caseSensitive }: { '/': string; caseSensitive: boolean }) =>
    new RegExp(
      `^${text
        .split('$(digit)')
        .map((part) =>
          part
            .replace(/[.\\^$+()[\]{}|]/g, '\\$&')
            .replaceAll('?', '.')
            .replaceAll('*', '.*'),
        )
        .join('[0-9]')}$`,
      caseSensitive ? '' : 'i',
    );
  fc.assert(
    fc.property(fc.array(rule, { maxLength: 6 }), path, (rules, at) => {
      const first = rules.find((one) => expressionOf(one).test(at));
      const { missOf, takes: isTaken } = compileAssociation(
        { details: [{ appIDs: ['T.a'], components: rules }] },
        'T.a',
      );
      const uri = parseLinkUri(`https://ferry.example${at}`);
      expect(isTaken(uri)).toBe(first?.exclude === false);
      expect(missOf(uri)?.test ?? 'taken').toBe(first ? (first.exclude ? 'excluded' : 'taken') : 'path');
    }),
    { numRuns: 2000 },
  );
});

test.each([
  ['many runs', `/${'*a'.repeat(40)}b`, `/${'a'.repeat(20_000)}`],
  ['many variables', `/${'$(lang)*'.repeat(12)}!`, `/${'de'.repeat(4_000)}`],
])('a hostile rule takes no longer than pattern times text: %s', (_, pattern, path) => {
  const { takes: isTaken } = compileAssociation(
    { details: [{ appIDs: ['T.a'], components: [{ '/': pattern }] }] },
    'T.a',
  );
  expect(isTaken(parseLinkUri(`https://ferry.example${path}`))).toBe(false);
});
