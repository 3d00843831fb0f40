/**
 * URLs that try a route out: as promised, in the ways that people and mail programs change them, and malformed. They
 * are made from the intent file alone, and know nothing of what the package declares.
 */
import type { IntentLinks, IntentRoute } from '../../model/intent-parts.ts';
import type { IntentWith } from '../check.ts';
import { basesOf, fillTemplate, parseTemplate } from './route-template.ts';

type ProbeKind = 'good' | 'edge' | 'hostile';

/** In what it differs from the route as promised. */
type ProbeVariant =
  | 'plain'
  | 'http'
  | 'host'
  | 'slash'
  | 'encoded'
  | 'query'
  | 'fragment'
  | 'argument-missing'
  | 'argument-malformed'
  | 'bad-escape'
  | 'too-long';

export interface LinkProbe {
  route: string;
  url: string;
  kind: ProbeKind;
  variant: ProbeVariant;
  /** Decoded, by name; of hostile ones what was put in their place. */
  arguments: Record<string, string>;
}

export const probesOf = (intent: IntentWith): LinkProbe[] =>
  intent.links.routes.flatMap((route) => probeRoute(route, intent.links));

function probeRoute(route: IntentRoute, links: IntentLinks): LinkProbe[] {
  const template = parseTemplate(route.url);
  const values = Object.fromEntries(template.names.map(({ name }) => [name, exampleOf(route, name)]));
  const bases = basesOf(route, links);
  const make = (
    kind: ProbeKind,
    variant: ProbeVariant,
    base: string,
    of: Record<string, string> = values,
    change: (url: string) => string = (url) => url,
  ): LinkProbe => ({
    route: route.id,
    kind,
    variant,
    url: change(base + fillTemplate(template, of)),
    arguments: of,
  });
  const [{ base = '' } = {}] = bases;
  const probes = [
    make('good', 'plain', base),
    ...bases.slice(1).map(({ base: other, variant }) => make('edge', variant, other)),
    ...(template.isWeb ? [make('edge', 'slash', base, values, withSlash)] : []),
    ...template.names
      .filter(({ name }) => (route.arguments[name]?.type ?? 'text') === 'text')
      .map(({ name }) => make('edge', 'encoded', base, { ...values, [name]: BEYOND_ASCII })),
    make('edge', 'query', base, values, (url) => `${url}${url.includes('?') ? '&' : '?'}from=mail`),
    make('edge', 'fragment', base, values, (url) => `${url}#top`),
    ...template.names.flatMap(({ name }) => [
      make('hostile', 'argument-missing', base, { ...values, [name]: '' }),
      ...malformed(route, name).map((wrong) =>
        make('hostile', 'argument-malformed', base, { ...values, [name]: wrong }),
      ),
    ]),
    make(
      'hostile',
      'bad-escape',
      base,
      values,
      (url) => `${url}${template.names.length > 0 ? '%zz' : '?x=%zz'}`,
    ),
    make(
      'hostile',
      'too-long',
      base,
      values,
      (url) => `${url}${url.includes('?') ? '&' : '?'}x=${'y'.repeat(TOO_LONG)}`,
    ),
  ];
  return [...new Map(probes.reverse().map((probe) => [probe.url, probe])).values()].reverse();
}

/** Comes encoded: a blank, and a letter that ASCII does not have. */
const BEYOND_ASCII = 'Åkra 7';

/** Longer than what some servers and mail programs let pass, and still a legal URL. */
const TOO_LONG = 4096;

const BY_TYPE = { text: 'north', integer: '2', date: '2026-11-27' };

const exampleOf = (route: IntentRoute, name: string): string => {
  const { example, type = 'text' } = route.arguments[name] ?? {};
  return example ?? BY_TYPE[type];
};

const MALFORMED = {
  integer: ['abc', '-1', '99999999999999999999'],
  date: ['2026-02-30', 'tomorrow'],
  text: ['\'"<b>', '../..', '\0'],
};

const malformed = ({ arguments: of }: IntentRoute, name: string): string[] =>
  MALFORMED[of[name]?.type ?? 'text'];

/** A slash at the end of the path, or none where there is one. */
function withSlash(url: string): string {
  const [, path = '', tail = ''] = /^([^?#]*)(.*)$/s.exec(url)!;
  return path.endsWith('/') ? path.replace(/\/+$/, '') + tail : `${path}/${tail}`;
}
