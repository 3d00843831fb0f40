/** CSV (RFC 4180): one row a finding, the worst first. */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { type Finding, rankOfPriority } from '../model/finding.ts';
import type { Judgement } from '../model/judgement.ts';
import { worstFirst } from '../model/outcome.ts';
import { formatPlaces } from './outline.ts';
import type { ReportContext } from './report-format.ts';

export function csvReport(judgement: Judgement, { comparison, places }: ReportContext): string {
  const changeOf = new Map(comparison?.findings.map((one) => [one.after?.id, one.change]));
  const columns: Record<string, (finding: Finding) => string> = {
    finding: ({ id }) => id,
    outcome: (finding) => outcomeOf(finding, judgement.strict),
    basis: ({ basis }) => basis,
    priority: ({ priority }) => priority,
    area: ({ area }) => area,
    check: ({ check }) => check,
    screen: ({ identity }) => identity.screen ?? '',
    subject: ({ identity }) => identity.subject,
    aspect: ({ identity }) => identity.aspect ?? '',
    row: ({ identity }) => `${identity.row ?? ''}`,
    what: ({ words }) => words.what,
    places: (finding) => formatPlaces(finding),
    measured: ({ words }) => words.measured,
    required: ({ words }) => words.required,
    why: ({ words }) => words.why,
    remedy: ({ words }) => words.remedy,
    ruling: ({ ruling }) => ruling?.ruling ?? '',
    'ruled by': ({ ruling }) => ruling?.by ?? '',
    'ruled because': ({ ruling }) => ruling?.why ?? '',
    ...(comparison && { change: ({ id }: Finding) => changeOf.get(id) ?? '' }),
    ...(places && {
      source: ({ id }: Finding) => {
        const place = places.get(id);
        return place ? `${place.path}:${place.line}` : '';
      },
    }),
  };
  const rank = (finding: Finding) =>
    worstFirst.indexOf(outcomeOf(finding, judgement.strict)) * 10 + rankOfPriority(finding.priority);
  const rows = [...judgement.findings]
    .sort((a, b) => rank(a) - rank(b))
    .map((finding) => Object.values(columns).map((value) => value(finding)));
  return [Object.keys(columns), ...rows].map((row) => `${row.map(csvField).join(',')}\r\n`).join('');
}

/**
 * A spreadsheet takes a field that begins so for a formula, and runs it: an apostrophe before it makes it text. Leading blanks
 * do not help, since they are dropped.
 */
const FORMULA = /^[\s\u0000]*[=+\-@\uff0b\uff0d\uff1d\uff20|%]|^[\t\r\n]/;

function csvField(text: string): string {
  const safe = FORMULA.test(text) ? `'${text}` : text;
  return /[",\r\n]|^\s|\s$/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}
