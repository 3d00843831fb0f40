/**
 * Whether an intent filter takes a link that a browser or a mail hands to the platform: action VIEW, category
 * BROWSABLE, no type (Android developers, *Intents and intent filters*, "Intent resolution"; API level 35 for relative
 * groups). The tests are made in the platform's order: action, data, type, categories.
 */
import type { IntentFilter, RelativeGroup } from '../../model/app-package.ts';
import type { LinkUri } from './link-uri.ts';
import { type CompiledPattern, compilePattern, type Matches } from './match-pattern.ts';

export const VIEW = 'android.intent.action.VIEW';
export const DEFAULT = 'android.intent.category.DEFAULT';
export const BROWSABLE = 'android.intent.category.BROWSABLE';

type FilterTest = 'action' | 'scheme' | 'host' | 'port' | 'path' | 'type' | 'category';

/** The first test that a link fails, in the words of the manifest. */
export interface FilterMiss {
  test: FilterTest;
  /** What the link has. */
  found: string;
  /** What the filter asks for. */
  wanted: string[];
}

export interface CompiledFilter {
  filter: IntentFilter;
  schemes: ReadonlySet<string>;
  /** In lower case; `*` is cut off of wild ones. */
  authorities: { key: string; isWild: boolean; port?: number }[];
  paths: CompiledPattern[];
  /** Undefined where the filter names no paths: every path will do. */
  path?: (uri: LinkUri) => boolean;
  specificParts: Matches[];
}

/** @throws UnreadableError for a pattern that the platform refuses too */
export function compileFilter(filter: IntentFilter): CompiledFilter {
  const paths = filter.paths.map(compilePattern);
  const groups = filter.relativeGroups.map(compileGroup);
  const hasPaths = paths.length > 0 || groups.length > 0;
  return {
    filter,
    schemes: new Set(filter.schemes),
    authorities: filter.authorities.map(({ host, port }) => {
      const isWild = host.startsWith('*');
      return {
        key: (isWild ? host.slice(1) : host).toLowerCase(),
        isWild,
        ...(port !== undefined && { port }),
      };
    }),
    paths,
    ...(hasPaths && {
      path: (uri: LinkUri) =>
        (uri.path !== undefined && paths.some(({ matches }) => matches(uri.path!))) ||
        groups.find(({ matches }) => matches(uri))?.allow === true,
    }),
    specificParts: filter.specificParts.map((part) => compilePattern(part).matches),
  };
}

/** @returns undefined where the filter takes the link */
export function missOf(compiled: CompiledFilter, uri: LinkUri): FilterMiss | undefined {
  const { filter } = compiled;
  if (!filter.actions.includes(VIEW)) return { test: 'action', found: VIEW, wanted: filter.actions };
  const miss = dataMiss(compiled, uri);
  if (miss) return miss;
  if (filter.mimeTypes.length > 0) return { test: 'type', found: '', wanted: filter.mimeTypes };
  const missing = [BROWSABLE, DEFAULT].find((category) => !filter.categories.includes(category));
  return missing ? { test: 'category', found: missing, wanted: filter.categories } : undefined;
}

/** The same without the reason, for many links. */
export const takes = (compiled: CompiledFilter, uri: LinkUri): boolean =>
  takesData(compiled, uri) &&
  compiled.filter.mimeTypes.length === 0 &&
  compiled.filter.actions.includes(VIEW) &&
  compiled.filter.categories.includes(BROWSABLE) &&
  compiled.filter.categories.includes(DEFAULT);

function takesData(compiled: CompiledFilter, uri: LinkUri): boolean {
  const { authorities, path, schemes, specificParts } = compiled;
  if (!schemes.has(uri.scheme ?? '')) return isLocal(compiled, uri);
  if (specificParts.length > 0) {
    if (specificParts.some((matches) => matches(uri.specificPart))) return true;
    if (authorities.length === 0) return false;
  }
  if (authorities.length === 0) return true;
  return authorities.some((one) => isHost(one, uri) && isPort(one, uri)) && (path?.(uri) ?? true);
}

/** A filter with a type and without a scheme is for what lies on the device. */
const isLocal = ({ filter, schemes }: CompiledFilter, { scheme = '' }: LinkUri): boolean =>
  schemes.size === 0 && filter.mimeTypes.length > 0 && ['', 'content', 'file'].includes(scheme);

function dataMiss(compiled: CompiledFilter, uri: LinkUri): FilterMiss | undefined {
  const { authorities, filter, schemes } = compiled;
  if (takesData(compiled, uri)) return undefined;
  if (!schemes.has(uri.scheme ?? ''))
    return { test: 'scheme', found: uri.scheme ?? '', wanted: filter.schemes };
  const onHost = authorities.filter((one) => isHost(one, uri));
  if (authorities.length > 0 && onHost.length === 0)
    return { test: 'host', found: uri.host ?? '', wanted: filter.authorities.map(({ host }) => host) };
  if (authorities.length > 0 && !onHost.some((one) => isPort(one, uri)))
    return {
      test: 'port',
      found: String(uri.port ?? ''),
      wanted: onHost.flatMap(({ port }) => (port === undefined ? [] : [String(port)])),
    };
  return { test: 'path', found: uri.path ?? uri.specificPart, wanted: formatPaths(filter) };
}

/** How far a filter is from a link: the scheme is the least of it, since filters of one screen differ in it alone. */
export function distanceOf({ authorities, path, schemes }: CompiledFilter, uri: LinkUri): number {
  const isOnHost =
    authorities.length === 0 || authorities.some((one) => isHost(one, uri) && isPort(one, uri));
  return (schemes.has(uri.scheme ?? '') ? 0 : 1) + (isOnHost ? 0 : 2) + ((path?.(uri) ?? true) ? 0 : 2);
}

const formatPaths = ({ paths, relativeGroups, specificParts }: IntentFilter): string[] => [
  ...paths,
  ...specificParts,
  ...relativeGroups.map(({ allow, parts }) => `${allow ? '' : 'not '}${parts.join(' and ')}`),
];

export const isHost = (
  { isWild, key }: CompiledFilter['authorities'][number],
  { hostKey }: LinkUri,
): boolean => hostKey !== undefined && (isWild ? hostKey.endsWith(key) : hostKey === key);

export const isPort = ({ port }: CompiledFilter['authorities'][number], uri: LinkUri): boolean =>
  port === undefined || port === uri.port;

function compileGroup({ allow, parts }: RelativeGroup): { allow: boolean; matches(uri: LinkUri): boolean } {
  const tests = parts.map((part) => {
    const { matches } = compilePattern(part);
    if (part.startsWith('path')) return ({ path }: LinkUri) => path !== undefined && matches(path);
    if (part.startsWith('fragment'))
      return ({ fragment }: LinkUri) => fragment !== undefined && matches(fragment);
    return ({ query }: LinkUri) => query !== undefined && itemsOf(query).some(matches);
  });
  return { allow, matches: (uri) => tests.length > 0 && tests.every((test) => test(uri)) };
}

/** A query is matched item by item; semicolons part them where no ampersand does. */
const itemsOf = (query: string): string[] => query.split(query.includes('&') ? '&' : ';');
