/**
 * Action, category and data tests of the platform's intent resolution. A pattern becomes one regular expression whose
 * parts give nothing back, which is what the platform's own do.
 */
import type { IntentFilter, RelativeGroup } from '../../../core/model/app-package.ts';

export interface Intent {
  action?: string;
  categories: string[];
  data?: string;
  /** Full class name. */
  className?: string;
  appId?: string;
  extras: Record<string, string>;
}

/** Started without a name, an activity must say that it is one to choose from. */
const BY_DEFAULT = 'android.intent.category.DEFAULT';
const LAUNCHER = 'android.intent.category.LAUNCHER';

export function accepts(filter: IntentFilter, { action, categories, data }: Intent): boolean {
  if (action && !filter.actions.includes(action)) return false;
  // what a launcher asks for need not be one to choose from
  const asked = categories.includes(LAUNCHER) ? categories : [...categories, BY_DEFAULT];
  if (!asked.every((category) => filter.categories.includes(category))) return false;
  if (filter.mimeTypes.length > 0) return false;
  if (data === undefined) return filter.schemes.length === 0;
  const parts = partsOf(data);
  if (!filter.schemes.includes(parts.scheme)) return false;
  if (filter.specificParts.some((pattern) => expressionOf(pattern).test(parts.specific))) return true;
  if (filter.authorities.length === 0) return filter.specificParts.length === 0;
  const isHost = filter.authorities.some(
    ({ host, port }) => sameHost(host, parts.host) && (port === undefined || port === parts.port),
  );
  if (!isHost) return false;
  const { paths, relativeGroups } = filter;
  if (paths.length === 0 && relativeGroups.length === 0) return true;
  if (paths.some((pattern) => parts.path !== null && expressionOf(pattern).test(parts.path))) return true;
  return relativeGroups.find((group) => isGroup(group, parts))?.allow ?? false;
}

export const isWebLink = ({ action, data = '' }: Intent): boolean =>
  action === 'android.intent.action.VIEW' && /^https?:/.test(data);
export const linkHost = ({ data = '' }: Intent): string => (partsOf(data).host ?? '').toLowerCase();

interface Parts {
  scheme: string;
  host: string | null;
  port: number;
  path: string | null;
  query: string | null;
  fragment: string | null;
  specific: string;
}

// RFC 3986, appendix B, with the backslash that the platform takes for a slash.
const URL_PARTS = /^(?:([^:]*):)?(\/\/([^/\\?#]*))?([^?#]*)(?:\?([^#]*))?(?:#(.*))?$/s;

function partsOf(data: string): Parts {
  const [, scheme = '', slashes, authority = '', path = '', query, fragment] = URL_PARTS.exec(data)!;
  const [, , host = '', port] = /^(.*@)?(.*?)(?::(\d*))?$/s.exec(authority)!;
  const isOpaque = scheme !== '' && slashes === undefined && !path.startsWith('/');
  const plain = (text: string | undefined) => (text === undefined ? null : undoEscapes(text));
  const number = port ? Number(port) : -1;
  return {
    scheme,
    host: slashes === undefined ? null : undoEscapes(host),
    port: number < 2 ** 31 ? number : -1,
    path: isOpaque ? null : undoEscapes(path),
    query: isOpaque ? null : plain(query),
    fragment: plain(fragment),
    specific: undoEscapes(data.slice(data.indexOf(':') + 1).split('#')[0]!),
  };
}

/** Runs of escapes are bytes of UTF-8; what is no escape becomes U+FFFD, and ends the text where it is cut short. */
function undoEscapes(text: string): string {
  const runs = text.match(/(?:%[0-9a-f]{2})+|%[\s\S]?[\s\S]?|[^%]+/gi) ?? [];
  let plain = '';
  for (const run of runs) {
    if (!run.startsWith('%')) plain += run;
    else if (/^(?:%[0-9a-f]{2})+$/i.test(run))
      plain += new TextDecoder().decode(
        Uint8Array.from(run.match(/[0-9a-f]{2}/gi)!, (hex) => Number.parseInt(hex, 16)),
      );
    else if (run.length === 1 || (run.length === 2 && /[0-9a-f]$/i.test(run))) return `${plain}\ufffd`;
    else {
      const good = /^%([0-9a-f])/i.exec(run)?.[1];
      plain += `\ufffd${String.fromCharCode(good ? Number.parseInt(good, 16) : 0)}${good ? '' : run.slice(2)}`;
    }
  }
  return plain;
}

function sameHost(declared: string, host: string | null): boolean {
  if (host === null) return false;
  const [wanted, given] = [declared.toLowerCase(), host.toLowerCase()];
  return wanted.startsWith('*') ? given.endsWith(wanted.slice(1)) : given === wanted;
}

function isGroup({ parts }: RelativeGroup, { fragment, path, query }: Parts): boolean {
  const texts = {
    path: [path],
    query: query?.split(query.includes('&') ? '&' : ';') ?? [],
    fragment: [fragment],
  };
  return (
    parts.length > 0 &&
    parts.every((declared) => {
      const part = /^(path|query|fragment)/.exec(declared)![1] as keyof typeof texts;
      const expression = expressionOf(declared);
      return texts[part].some((text) => text !== null && expression.test(text));
    })
  );
}

const literal = (text: string): string => text.replace(/[\\^$.*+?()[\]{}|/-]/g, '\\$&');

/** `pathPattern=/s/.*` and its like, as a whole. */
function expressionOf(declared: string): RegExp {
  const [, kind = '', value = ''] = /^(?:path|query|fragment|ssp)([A-Za-z]*)=(.*)$/s.exec(declared)!;
  switch (kind) {
    case 'Prefix':
      return new RegExp(`^${literal(value)}`);
    case 'Suffix':
      return new RegExp(`${literal(value)}$`);
    case 'Pattern':
      return new RegExp(`^${simpleSource(value)}$`, 's');
    case 'AdvancedPattern':
      return new RegExp(`^${advancedSource(value)}$`, 's');
    default:
      return new RegExp(`^${literal(value)}$`);
  }
}

/** Written so that nothing is given back: what was captured ahead is taken as it is. */
const possessive = (source: string, group: number): string => `(?=(${source}))\\${group}`;
/** Each part of a simple pattern wants something to be left of the text. */
const SOME_LEFT = '(?=.)';

function simpleSource(pattern: string): string {
  let [source, groups] = ['', 0];
  const tokens = pattern.match(/\.\*(?:\\?[\s\S]|$)|\\?[\s\S]\*|\\?[\s\S]/g) ?? [];
  for (const token of tokens) {
    const char = token.replace(/^\.\*(?=[\s\S])/, '').replace(/^\\(?=[\s\S])/, '');
    if (token === '.*') source += '.*';
    else if (/^\.\*/.test(token)) source += `${SOME_LEFT}[^${literal(char)}]*${literal(char)}`;
    else if (/^\\?[\s\S]\*$/.test(token))
      source += `${SOME_LEFT}${possessive(`${literal(char[0]!)}*`, ++groups)}`;
    else source += char === '.' ? `${SOME_LEFT}.` : literal(char);
  }
  return source;
}

function advancedSource(pattern: string): string {
  const tokens =
    pattern.match(/(?:\[(?:\\[\s\S]|[^\]])*\]|\\[\s\S]|[\s\S])(?:[*+]|\{\d+(?:,\d*)?\})?/g) ?? [];
  return tokens
    .filter((token) => token !== '}')
    .map((token, i) => {
      const [, atom = '', count = ''] = /^(\[[\s\S]*\]|\\[\s\S]|[\s\S])([*+]|\{[^}]*\})?$/.exec(token)!;
      const source = atom.startsWith('[')
        ? setSource(atom)
        : atom === '.'
          ? '.'
          : literal(atom.replace(/^\\/, ''));
      return { source: `${source}${count}`, i };
    })
    .map(({ source }, i) => possessive(source, i + 1))
    .join('');
}

const setSource = (set: string): string => {
  const inverse = set.startsWith('[^');
  const inside = set.slice(inverse ? 2 : 1, -1);
  // a dash means a range only between two characters
  return `[${inverse ? '^' : ''}${inside.replace(/[[\]^]/g, '\\$&').replace(/^-|-$/g, '\\-')}]`;
};
