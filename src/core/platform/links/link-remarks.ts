/** What is odd about a URL itself, whoever takes it (RFC 3986; RFC 3492 for punycode). */
import type { LinkUri } from './link-uri.ts';

export type LinkRemark =
  | 'no-scheme'
  | 'scheme-case'
  | 'user-info'
  | 'ip-host'
  | 'punycode'
  | 'bad-escape'
  | 'long';

/** Links longer than that are cut by some programs that pass them on. */
const LONG = 2048;

export function linkRemarks(uri: LinkUri): LinkRemark[] {
  const { hasUserInfo, hostKey = '', scheme, text } = uri;
  const remarks: [LinkRemark, boolean][] = [
    ['no-scheme', !scheme],
    ['scheme-case', scheme !== undefined && scheme !== scheme.toLowerCase()],
    ['user-info', hasUserInfo],
    ['ip-host', /^\d+(\.\d+){3}$/.test(hostKey) || hostKey.startsWith('[')],
    ['punycode', hostKey.split('.').some((label) => label.startsWith('xn--'))],
    ['bad-escape', /%(?![0-9a-f]{2})/i.test(text)],
    ['long', text.length > LONG],
  ];
  return remarks.flatMap(([remark, holds]) => (holds ? [remark] : []));
}
