/**
 * The site's association file of iOS, and which of its rules a link meets (Apple developer documentation, *Supporting
 * associated domains*, `applinks.Details.Components`; for `paths` the archived *Support Universal Links*).
 */
import type { AppLinks, LinkComponent, LinkDefaults } from '../../model/site-file.ts';
import type { LinkUri } from './link-uri.ts';
import { compileGlob } from './match-glob.ts';
import type { Matches } from './match-pattern.ts';

export interface AssociationMiss {
  test: 'app' | 'path' | 'query' | 'fragment' | 'excluded';
  found: string;
  wanted: string[];
}

export const appsOf = ({ details }: AppLinks): string[] =>
  details.flatMap(({ appID, appIDs = [] }) => (appID ? [appID, ...appIDs] : appIDs));

/**
 * @param appId team and bundle: `9XXXXXXXX9.example.kelpline`
 * @returns what stands against a link, or undefined where the file gives it to the app. The first rule that matches decides
 */
export function compileAssociation(
  links: AppLinks,
  appId: string,
): (uri: LinkUri) => AssociationMiss | undefined {
  const own = links.details.filter((detail) => detail.appID === appId || detail.appIDs?.includes(appId));
  if (own.length === 0) return () => ({ test: 'app', found: appId, wanted: appsOf(links) });
  const rules = own.flatMap((detail) => rulesOf(detail, links));
  return (uri) => {
    const { encoded } = uri;
    // a site without a path is its root
    const parts = { ...encoded, path: encoded.path || '/' };
    let furthest: AssociationMiss = { test: 'path', found: parts.path, wanted: [] };
    for (const { exclude, missOf, said } of rules) {
      const miss = missOf(parts);
      if (!miss) return exclude ? { test: 'excluded', found: parts.path, wanted: [said] } : undefined;
      if (miss.test === furthest.test) furthest.wanted.push(...miss.wanted);
      else if (TESTS.indexOf(miss.test) > TESTS.indexOf(furthest.test)) furthest = miss;
    }
    return furthest;
  };
}

const TESTS: readonly AssociationMiss['test'][] = ['path', 'query', 'fragment'];

interface Rule {
  exclude: boolean;
  said: string;
  missOf(parts: LinkUri['encoded']): AssociationMiss | undefined;
}

function rulesOf(detail: AppLinks['details'][number], links: AppLinks): Rule[] {
  const defaults = { ...links.defaults, ...detail.defaults };
  return componentsOf(detail).map((component) => {
    const compile = (pattern: string) => compilePart(component, pattern, defaults, links);
    const { '#': fragment, '/': path, '?': query } = component;
    const tests: Test[] = [];
    if (path !== undefined) tests.push(partTest('path', path, compile(path), (parts) => parts.path));
    if (typeof query === 'string')
      tests.push(partTest('query', query, compile(query), (parts) => parts.query ?? ''));
    if (typeof query === 'object')
      for (const [name, pattern] of Object.entries(query))
        tests.push(itemTest(name, pattern, compile(pattern)));
    if (fragment !== undefined)
      tests.push(partTest('fragment', fragment, compile(fragment), (parts) => parts.fragment ?? ''));
    return {
      exclude: component.exclude ?? false,
      said: sayComponent(component),
      missOf: (parts) => {
        for (const test of tests) {
          const miss = test(parts);
          if (miss) return miss;
        }
        return undefined;
      },
    };
  });
}

type Test = (parts: LinkUri['encoded']) => AssociationMiss | undefined;

const partTest =
  (
    test: AssociationMiss['test'],
    pattern: string,
    matches: Matches,
    partOf: (parts: LinkUri['encoded']) => string,
  ): Test =>
  (parts) =>
    matches(partOf(parts)) ? undefined : { test, found: partOf(parts), wanted: [pattern] };

/** The link must have an item of that name, and each of them a value that matches. */
const itemTest =
  (name: string, pattern: string, matches: Matches): Test =>
  ({ query = '' }) => {
    const values = query.split('&').flatMap((item) => {
      const [key, value = ''] = item.split(/=(.*)/s);
      return key === name ? [value] : [];
    });
    if (values.length > 0 && values.every(matches)) return undefined;
    return { test: 'query', found: query, wanted: [`${name}=${pattern}`] };
  };

/** Rules of the older form, as the newer one would write them. */
function componentsOf({ components, paths = [] }: AppLinks['details'][number]): LinkComponent[] {
  if (components) return components;
  return paths.map((path) => ({ '/': path.replace(/^NOT /, ''), exclude: path.startsWith('NOT ') }));
}

function compilePart(
  component: LinkComponent,
  pattern: string,
  defaults: LinkDefaults,
  { substitutionVariables = {} }: AppLinks,
): Matches {
  const caseSensitive = component.caseSensitive ?? defaults.caseSensitive ?? true;
  const encoded = component.percentEncoded ?? defaults.percentEncoded ?? true;
  const matches = compileGlob(pattern, caseSensitive, substitutionVariables);
  return encoded ? matches : (text) => matches(decoded(text));
}

function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** One rule in a line: `not /staff/*`, `/help/* ?articleNumber=????`. */
export function sayComponent({ '#': fragment, '/': path, '?': query, exclude }: LinkComponent): string {
  const items = typeof query === 'object' ? Object.entries(query).map((item) => item.join('=')) : [query];
  const parts = [path ?? '*', ...items.map((item) => item && `?${item}`), fragment && `#${fragment}`];
  return `${exclude ? 'not ' : ''}${parts.filter(Boolean).join(' ')}`;
}
