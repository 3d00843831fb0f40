/** Routes of the intent file: `/sailings/{sailing}?day={day?}` on every host of the app, or whole: `kelpline://tickets`. */
import type { IntentLinks, IntentRoute } from '../../model/intent-parts.ts';
import type { LinkUri } from '../../platform/links/link-uri.ts';

interface RouteTemplate {
  /** Behind scheme and host. */
  pieces: { text: string; name?: string }[];
  names: { name: string; isOptional: boolean }[];
  isWeb: boolean;
}

const ABSOLUTE = /^([a-z][a-z0-9+.-]*):(\/\/[^/?#{]*)?/i;

export function parseTemplate(url: string): RouteTemplate {
  const rest = url.startsWith('/') ? url : url.replace(ABSOLUTE, '');
  const pieces = rest.split(/(\{\w+\??\})/).map((text) => {
    const name = /^\{(\w+)\??\}$/.exec(text)?.[1];
    return name === undefined ? { text } : { text, name };
  });
  const names = pieces.flatMap(({ name, text }) =>
    name === undefined ? [] : [{ name, isOptional: text.endsWith('?}') }],
  );
  return { pieces, names, isWeb: url.startsWith('/') || /^https?:/i.test(url) };
}

export const fillTemplate = ({ pieces }: RouteTemplate, values: Record<string, string>): string =>
  pieces
    .map(({ name, text }) => (name === undefined ? text : encodeURIComponent(values[name] ?? '')))
    .join('');

interface RouteBase {
  /** `https://kelpline.example` */
  base: string;
  variant: 'plain' | 'http' | 'host';
}

/** Scheme and host of a route, the promised ones first. */
export function basesOf({ url }: IntentRoute, { hosts, webSchemes }: IntentLinks): RouteBase[] {
  if (!url.startsWith('/')) return [{ base: ABSOLUTE.exec(url)![0], variant: 'plain' }];
  return webSchemes.flatMap((scheme, i) =>
    hosts.map((host, j) => ({
      base: `${scheme}://${host}`,
      variant: i > 0 ? ('http' as const) : j > 0 ? ('host' as const) : ('plain' as const),
    })),
  );
}

/** The route that a URL belongs to, and its arguments, decoded; a slash at the end of a path does not count. */
export const matchRoute = (uri: LinkUri, links: IntentLinks): RouteMatch | undefined =>
  matchingRoutes(uri, links)[0];

/** All routes that a URL is good for, by the types of their arguments too. */
export const routesFor = (uri: LinkUri, links: IntentLinks): IntentRoute[] =>
  matchingRoutes(uri, links)
    .filter(({ arguments: given, route }) =>
      Object.entries(given).every(([name, value]) =>
        TYPES[route.arguments[name]?.type ?? 'text'].test(value),
      ),
    )
    .map(({ route }) => route);

const TYPES = { text: /./s, integer: /^\d+$/, date: /^\d{4}-\d{2}-\d{2}$/ };

interface RouteMatch {
  route: IntentRoute;
  /** Decoded. */
  arguments: Record<string, string>;
}

function matchingRoutes(uri: LinkUri, links: IntentLinks): RouteMatch[] {
  const { encoded, host = '', scheme = '' } = uri;
  const base = `${scheme}:${uri.host === undefined ? '' : `//${host}`}`.toLowerCase();
  return links.routes.flatMap((route) => {
    if (!basesOf(route, links).some((one) => one.base.toLowerCase() === base)) return [];
    const template = parseTemplate(route.url);
    const [path = '', query = ''] = splitQuery(template);
    const found = new RegExp(`^${path}/?$`).exec(encoded.path);
    if (!found) return [];
    return [
      { route, arguments: { ...decodeAll(found.groups ?? {}), ...itemsOf(query, encoded.query ?? '') } },
    ];
  });
}

/** The path as a pattern with named groups; the query as it stands. */
function splitQuery({ pieces }: RouteTemplate): [path: string, query: string] {
  const text = pieces.map((piece) => piece.text).join('');
  // the question mark of an optional argument stands before its brace
  const [path = '', query = ''] = text.split(/\?(?!\})/);
  const source = path
    .replace(/\/$/, '')
    .split(/\{(\w+)\??\}/)
    .map((part, i) => (i % 2 === 1 ? `(?<${part}>[^/?#]*)` : part.replace(/[\\^$.*+?()[\]{}|]/g, '\\$&')))
    .join('');
  return [source, query];
}

const itemsOf = (wanted: string, query: string): Record<string, string> =>
  Object.fromEntries(
    [...wanted.matchAll(/([^&=]+)=\{(\w+)\??\}/g)].flatMap(([, key, name]) => {
      const item = query.split('&').find((one) => one.startsWith(`${key}=`));
      return item === undefined ? [] : [[name!, decode(item.slice(key!.length + 1))]];
    }),
  );

const decodeAll = (groups: Record<string, string>): Record<string, string> =>
  Object.fromEntries(Object.entries(groups).map(([name, value]) => [name, decode(value)]));

function decode(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
