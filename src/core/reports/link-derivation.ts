/** How a decision on a link comes about, in a few lines: what it is made of, who was asked, what the site says. */

import { matchRoute } from '../areas/links/route-template.ts';
import type { Intent } from '../model/intent.ts';
import type { Outcome } from '../model/outcome.ts';
import type { LinkDecision, LinkTrial, Verification } from '../platform/links/link-decision.ts';
import { type LinkRemark, linkRemarks } from '../platform/links/link-remarks.ts';
import { parseLinkUri } from '../platform/links/link-uri.ts';
import { columnsOf, padToColumns } from './columns.ts';
import { outcomeMark } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

interface DerivationOptions {
  style: TextStyle;
  widthColumns: number;
  /** All that could have taken it, not only the nearest. */
  all: boolean;
}

const LONGEST_SHOWN = 200;
const NEAREST_SHOWN = 4;

export function linkDerivation(
  decision: LinkDecision,
  intent: Intent,
  { all, style, widthColumns }: DerivationOptions,
): string {
  const uri = parseLinkUri(decision.url);
  const { outcome, words } = formatDecision(decision);
  const parts = [
    `scheme ${uri.scheme ?? 'none'}`,
    `host ${uri.host ?? 'none'}`,
    ...(uri.port === undefined ? [] : [`port ${uri.port}`]),
    `path ${shorten(uri.path ?? 'none')}`,
    ...(uri.query === undefined ? [] : [`query ${shorten(uri.query)}`]),
    ...(uri.fragment === undefined ? [] : [`fragment ${shorten(uri.fragment)}`]),
  ];
  const tried = [...decision.tried].sort((a, b) => rank(a) - rank(b));
  const shown = all ? tried : tried.slice(0, NEAREST_SHOWN);
  const width = Math.max(...shown.map((trial) => columnsOf(formatName(trial))), 8);
  const field = (name: string, text: string) =>
    wrap(`${style.faint(name.padEnd(8))}${text}`, widthColumns, 2, 10);
  const match = matchRoute(uri, intent.links);
  return [
    style.strong(shorten(decision.url)),
    ...wrap(`${style.outcome(outcome, outcomeMark[outcome])} ${words}`, widthColumns, 0, 2),
    '',
    ...field('parts', parts.join(', ')),
    ...linkRemarks(uri).flatMap((remark) => field('mind', REMARKS[remark])),
    '',
    ...shown.flatMap((trial) => {
      const mark = trial.miss ? style.outcome('failed', '▲') : style.outcome('passed', '■');
      return wrap(
        `${mark} ${padToColumns(formatName(trial), width)}  ${formatMiss(trial)}`,
        widthColumns,
        2,
        6 + width,
      );
    }),
    ...(tried.length > shown.length
      ? [`  ${style.faint(`… and ${tried.length - shown.length} more; --all shows them`)}`]
      : []),
    '',
    ...(decision.verification ? field('site', formatSite(decision.verification)) : []),
    ...(match
      ? field('route', `${match.route.url} → ${match.route.screen}${formatArguments(match.arguments)}`)
      : intent.links.routes.length > 0
        ? field('route', 'none of fenlok.yaml')
        : []),
  ]
    .join('\n')
    .trimEnd()
    .concat('\n');
}

/** What takes it first, then what came closest. */
const rank = ({ distance, miss }: LinkTrial): number => (miss ? 1 + distance : 0);

const shorten = (text: string): string =>
  text.length > LONGEST_SHOWN ? `${text.slice(0, LONGEST_SHOWN)}… (${text.length} characters)` : text;

const formatName = ({ name, position }: LinkTrial): string =>
  position === undefined ? name : `${name.split('.').at(-1)}, filter ${position}`;

function formatMiss({ miss }: LinkTrial): string {
  if (!miss) return 'takes it';
  const wanted = miss.wanted.slice(0, 6).join(', ') || 'nothing';
  switch (miss.test) {
    case 'category':
      return `lacks the category ${miss.found}`;
    case 'exported':
      return 'is not exported';
    case 'enabled':
      return 'is switched off';
    case 'excluded':
      return `is left out by the rule “${wanted}”`;
    case 'type':
      return `wants the type ${wanted}, and a link brings none`;
    case 'app':
      return `the site names ${wanted}, and not ${miss.found}`;
    default:
      return `${miss.test}: wants ${wanted}`;
  }
}

function formatDecision({ components, opens, verification }: LinkDecision): {
  outcome: Outcome;
  words: string;
} {
  const names = components.map((name) => name.split('.').at(-1)).join(' or ');
  switch (opens) {
    case 'app':
      return { outcome: 'passed', words: `Opens the app: ${names}` };
    case 'choice':
      return {
        outcome: 'cantTell',
        words: `The user is asked: ${names}${components.length > 1 ? '' : ' or a browser'}`,
      };
    case 'unknown':
      return {
        outcome: 'cantTell',
        words: `Opens the app (${names || 'by a rule'}) if the site agrees; its file was not given`,
      };
    case 'nobody':
      return { outcome: 'failed', words: 'Nothing opens: nobody on the device takes it' };
    case 'browser':
      return {
        outcome: 'failed',
        words:
          components.length > 0 && verification
            ? `Opens in the browser: ${names} takes it, but the site does not agree. The user can still allow it in the settings of the app`
            : 'Opens in the browser: nothing of the app takes it',
      };
    default:
      return opens satisfies never;
  }
}

function formatSite(verification: Verification): string {
  const { host, state } = verification;
  switch (state) {
    case 'verified':
      return `${host} agrees`;
    case 'not-asked':
      return `${host} is not asked: no open filter for it has android:autoVerify`;
    case 'no-file':
      return `nobody has said what ${host} serves at /.well-known/: give the file with --site`;
    case 'refused':
      return `${host} does not agree (${TROUBLES[verification.why]}): found ${verification.found || 'nothing'}, wanted ${verification.wanted}`;
    default:
      return state satisfies never;
  }
}

const TROUBLES: Record<Extract<Verification, { state: 'refused' }>['why'], string> = {
  unreadable: 'the file cannot be read',
  redirected: 'the file is redirected',
  'developer-mode': 'asked for in developer mode, in a build that is not for development',
  'content-type': 'served as another type',
  'other-app': 'another app',
  'other-certificate': 'another certificate',
};

const formatArguments = (values: Record<string, string>): string => {
  const said = Object.entries(values).map(([name, value]) => `${name} = ${shorten(value)}`);
  return said.length > 0 ? `, with ${said.join(', ')}` : '';
};

const REMARKS: Record<LinkRemark, string> = {
  'no-scheme': 'there is no scheme, so that nothing on a device knows what it is',
  'scheme-case':
    'Android compares schemes letter by letter; browsers write them small before they hand a link on',
  'user-info': 'what stands before @ is no part of the host, and often there to deceive',
  'ip-host': 'an address cannot be verified; filters and sites name hosts',
  punycode: 'the host is compared as written, in its ASCII form',
  'bad-escape': 'a percent sign without two hex digits; Android puts U+FFFD in its place',
  long: 'some programs cut links of this length',
};
