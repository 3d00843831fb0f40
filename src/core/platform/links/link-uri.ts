/**
 * The parts of a URL as Android's own class takes them apart (android.net.Uri; RFC 3986, section 3): nothing is
 * resolved or refused, host, path, query and fragment are decoded, and bytes that are no UTF-8 become U+FFFD.
 * Departs from RFC 3986 as that class does: a backslash ends the authority, and a port is digits and nothing else.
 */

export interface LinkUri {
  text: string;
  /** As written: the platform tells upper from lower case. */
  scheme?: string;
  /** Undefined without `//`. */
  host?: string;
  /** In lower case, for comparing. */
  hostKey?: string;
  /** Undefined where there is none, or none that is a number. */
  port?: number;
  /** Undefined where something else than a slash follows the scheme. */
  path?: string;
  /** The path up to its second slash: what filters are looked up by. */
  segment?: string;
  query?: string;
  fragment?: string;
  /** Everything between the scheme and the fragment. */
  specificPart: string;
  /** As written, which is what the rules of iOS are held against. */
  encoded: { path: string; query?: string; fragment?: string };
  /** Of the path as written. */
  encodedSegment: string;
  hasUserInfo: boolean;
}

const MAX_INT = 0x7fffffff;
// Ends of an authority.
const AUTHORITY_END = /[/\\?#]/;

export function parseLinkUri(text: string): LinkUri {
  const colon = text.indexOf(':');
  const scheme = colon < 0 ? undefined : text.slice(0, colon);
  const hash = text.indexOf('#', Math.max(colon, 0));
  const rest = text.slice(colon + 1, hash < 0 ? undefined : hash);
  const mark = rest.indexOf('?');
  const hierarchical = mark < 0 ? rest : rest.slice(0, mark);
  const authority = hierarchical.startsWith('//') ? upTo(hierarchical.slice(2), AUTHORITY_END) : undefined;
  const { hasUserInfo, host, port } = readAuthority(authority);
  const encoded: LinkUri['encoded'] = {
    path: authority === undefined ? hierarchical : hierarchical.slice(2 + authority.length),
    query: mark < 0 ? undefined : rest.slice(mark + 1),
    fragment: hash < 0 ? undefined : text.slice(hash + 1),
  };
  const isOpaque = scheme !== undefined && !rest.startsWith('/');
  const path = isOpaque ? undefined : decodeEscapes(encoded.path);
  const plain = (part: string | undefined) => (part === undefined ? undefined : decodeEscapes(part));
  // every key is there, so that engines keep all of them in one shape
  return {
    text,
    scheme,
    host,
    hostKey: host === undefined ? undefined : ofItsOwn(host.toLowerCase()),
    port,
    path,
    segment: path === undefined ? undefined : ofItsOwn(firstSegment(path)),
    query: isOpaque ? undefined : plain(encoded.query),
    fragment: plain(encoded.fragment),
    specificPart: decodeEscapes(rest),
    encoded,
    encodedSegment: ofItsOwn(firstSegment(encoded.path || '/')),
    hasUserInfo,
  };
}

/** With the slash before it: `/sailings` of `/sailings/2`. */
export function firstSegment(path: string): string {
  const end = path.indexOf('/', 1);
  return end < 0 ? path : path.slice(0, end);
}

/** Engines keep a part of a text as a window into the whole, which is slow to look up; this one stands by itself. */
const ofItsOwn = (text: string): string => text.split('').join('');

function upTo(text: string, end: RegExp): string {
  const at = text.search(end);
  return at < 0 ? text : text.slice(0, at);
}

function readAuthority(authority: string | undefined): Pick<LinkUri, 'hasUserInfo' | 'host' | 'port'> {
  if (authority === undefined) return { hasUserInfo: false };
  const digits = /:(\d*)$/.exec(authority)?.[1];
  const at = authority.lastIndexOf('@');
  const host = authority.slice(
    at + 1,
    digits === undefined ? undefined : authority.length - digits.length - 1,
  );
  const port = digits ? Number(digits) : undefined;
  return {
    host: decodeEscapes(host),
    hasUserInfo: at >= 0,
    port: port !== undefined && port <= MAX_INT ? port : undefined,
  };
}

const UTF8 = new TextDecoder('utf-8');
const WRONG = '\ufffd';

/** An escape that is cut short ends the text; one that holds no hex digit leaves U+FFFD and a NUL behind. */
function decodeEscapes(text: string): string {
  if (!text.includes('%')) return text;
  let decoded = '';
  let bytes: number[] = [];
  const flush = () => {
    if (bytes.length > 0) decoded += UTF8.decode(Uint8Array.from(bytes));
    bytes = [];
  };
  for (let i = 0; i < text.length; ) {
    if (text[i] !== '%') {
      flush();
      decoded += text[i++];
      continue;
    }
    const [, high, low] = /^%([0-9a-f])?([0-9a-f])?/i.exec(text.slice(i, i + 3))!;
    if (high !== undefined && low !== undefined) {
      bytes.push(Number.parseInt(high + low, 16));
      i += 3;
      continue;
    }
    flush();
    decoded += WRONG;
    const wrongAt = i + (high === undefined ? 1 : 2);
    if (wrongAt >= text.length) return decoded;
    bytes.push(high === undefined ? 0 : Number.parseInt(high, 16));
    i = wrongAt + 1;
  }
  flush();
  return decoded;
}
