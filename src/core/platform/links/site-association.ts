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

/** The rules of one app on one site, ready to be asked. */
export interface Association {
  takes(uri: LinkUri): boolean;
  /** What stands against a link, or undefined where the file gives it to the app. */
  missOf(uri: LinkUri): AssociationMiss | undefined;
}

/** @param appId team and bundle: `9XXXXXXXX9.example.kelpline`. The first rule that matches decides */
export function compileAssociation(links: AppLinks, appId: string): Association {
  const own = links.details.filter((detail) => detail.appID === appId || detail.appIDs?.includes(appId));
  if (own.length === 0) {
    const miss: AssociationMiss = { test: 'app', found: appId, wanted: appsOf(links) };
    return { takes: () => false, missOf: () => miss };
  }
  const rules = own.flatMap((detail) => rulesOf(detail, links));
  const ruleFor = indexRules(rules);
  return {
    takes: (uri) => ruleFor(uri)?.exclude === false,
    missOf: (uri) => {
      const rule = ruleFor(uri);
      if (!rule) return furthestMiss(rules, uri);
      return rule.exclude ? { test: 'excluded', found: pathOf(uri.encoded), wanted: [rule.said] } : undefined;
    },
  };
}

/** The first rule that matches, of those that name the link's first segment or none, in their order. */
function indexRules(rules: readonly Rule[]): (uri: LinkUri) => Rule | undefined {
  const open = rules.filter(({ segment }) => segment === undefined);
  const bySegment = new Map<string, Rule[]>();
  for (const { segment } of rules)
    if (segment !== undefined)
      bySegment.set(
        segment,
        rules.filter((rule) => rule.segment === undefined || rule.segment === segment),
      );
  return ({ encoded, encodedSegment }) => {
    for (const rule of bySegment.get(encodedSegment) ?? open) if (rule.holds(encoded)) return rule;
    return undefined;
  };
}

/** What the rules fail at that come furthest, all of them together. */
function furthestMiss(rules: readonly Rule[], { encoded }: LinkUri): AssociationMiss {
  let furthest: AssociationMiss = { test: 'path', found: pathOf(encoded), wanted: [] };
  for (const { tests } of rules) {
    const { found, test, wanted } = tests.find((one) => !one.holds(encoded))!;
    if (test === furthest.test) furthest.wanted.push(wanted);
    else if (TESTS.indexOf(test) > TESTS.indexOf(furthest.test))
      furthest = { test, found: found(encoded), wanted: [wanted] };
  }
  return furthest;
}

const TESTS: readonly AssociationMiss['test'][] = ['path', 'query', 'fragment'];

/** A site without a path is its root. */
const pathOf = ({ path }: LinkUri['encoded']): string => path || '/';

interface Rule {
  exclude: boolean;
  said: string;
  tests: Test[];
  /** All of them. */
  holds(parts: LinkUri['encoded']): boolean;
  /** Up to the second slash, where every path that matches begins so. */
  segment?: string;
}

interface Test {
  test: AssociationMiss['test'];
  wanted: string;
  found(parts: LinkUri['encoded']): string;
  holds(parts: LinkUri['encoded']): boolean;
}

function rulesOf(detail: AppLinks['details'][number], links: AppLinks): Rule[] {
  const defaults = { ...links.defaults, ...detail.defaults };
  return componentsOf(detail).map((component) => {
    const compile = (pattern: string) => compilePart(component, pattern, defaults, links);
    const { '#': fragment, '/': path, '?': query } = component;
    const tests: Test[] = [];
    if (path !== undefined) tests.push(partTest('path', path, compile(path), pathOf));
    if (typeof query === 'string') tests.push(partTest('query', query, compile(query), queryOf));
    if (typeof query === 'object')
      for (const [name, pattern] of Object.entries(query))
        tests.push(itemTest(name, pattern, compile(pattern)));
    if (fragment !== undefined)
      tests.push(partTest('fragment', fragment, compile(fragment), (parts) => parts.fragment ?? ''));
    const [first, ...more] = tests;
    const segment = segmentOf(component, defaults);
    return {
      exclude: component.exclude ?? false,
      said: formatComponent(component),
      tests,
      holds:
        first && more.length === 0
          ? first.holds
          : (parts: LinkUri['encoded']) => tests.every((test) => test.holds(parts)),
      ...(segment !== undefined && { segment }),
    };
  });
}

/** Only of patterns that are held against the link as it is written, case included. */
function segmentOf({ '/': path, ...component }: LinkComponent, defaults: LinkDefaults): string | undefined {
  const isPlain =
    (component.caseSensitive ?? defaults.caseSensitive ?? true) &&
    (component.percentEncoded ?? defaults.percentEncoded ?? true);
  return isPlain ? /^(\/[^/?*$]*)(?:\/|$)/.exec(path ?? '')?.[1] : undefined;
}

const queryOf = ({ query }: LinkUri['encoded']): string => query ?? '';

const partTest = (
  test: AssociationMiss['test'],
  wanted: string,
  matches: Matches,
  found: (parts: LinkUri['encoded']) => string,
): Test => ({ test, wanted, found, holds: (parts) => matches(found(parts)) });

/** The link must have an item of that name, and each of them a value that matches. */
const itemTest = (name: string, pattern: string, matches: Matches): Test => ({
  test: 'query',
  wanted: `${name}=${pattern}`,
  found: queryOf,
  holds: ({ query = '' }) => {
    const values = query.split('&').flatMap((item) => {
      const [key, value = ''] = item.split(/=(.*)/s);
      return key === name ? [value] : [];
    });
    return values.length > 0 && values.every(matches);
  },
});

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
function formatComponent({ '#': fragment, '/': path, '?': query, exclude }: LinkComponent): string {
  const items = typeof query === 'object' ? Object.entries(query).map((item) => item.join('=')) : [query];
  const parts = [path ?? '*', ...items.map((item) => item && `?${item}`), fragment && `#${fragment}`];
  return `${exclude ? 'not ' : ''}${parts.filter(Boolean).join(' ')}`;
}
