/** One screen as it is now: what is wrong with it, the worst first, then what a screen reader meets. */
import { scanStops } from '../areas/accessibility/scan.ts';
import type { Walk } from '../areas/accessibility/walk-stops.ts';
import { groupCards } from '../checklist/group-cards.ts';
import { type Finding, rankOfPriority } from '../model/finding.ts';
import { printable, printableText } from './escape.ts';
import { outcomeMark } from './outcome-words.ts';
import { stopTable } from './stop-table.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

interface LookSeen {
  title: string;
  /** The worst first. */
  findings: readonly Finding[];
  walk: Walk;
  /** What could not be looked at, and why. */
  notes: readonly string[];
  /** Where it was looked at in two text sizes: how high the letters of each text are, in dp. */
  growth?: readonly { text: string; beforeDp: number; afterDp: number }[];
}

const CARDS_SHOWN = 6;
const PLACES_SHOWN = 3;
const SECONDS_EACH = 1.5;
const LABEL = 10;

export function lookView({ findings, growth, notes, title, walk }: LookSeen, options: TextOptions): string {
  const { all, style, widthColumns } = options;
  const byId = new Map(findings.map((finding) => [finding.id, printable(finding)]));
  const cards = groupCards(findings, false).map(({ findings: ids }) => ids.map((id) => byId.get(id)!));
  const shown = all ? cards : cards.slice(0, CARDS_SHOWN);
  const scanned = scanStops(walk.stops, 'rows', SECONDS_EACH);
  const last = Math.max(0, ...scanned.map(({ seconds }) => seconds));
  return [
    `${style.strong(printableText(title))}  ${cards.length === 0 ? 'nothing found' : `${cards.length} ${cards.length === 1 ? 'thing' : 'things'} to look at`}`,
    ...notes.flatMap((note) => wrap(`${outcomeMark.untested} ${printableText(note)}`, widthColumns, 2, 4)),
    ...(growth ? growthLines(growth, options) : []),
    ...shown.flatMap((card) => cardLines(card, options)),
    ...(cards.length > shown.length
      ? [`  ${style.faint(`… and ${cards.length - shown.length} more; --all shows them`)}`]
      : []),
    '',
    stopTable('A screen reader meets', walk, 'all', { style, widthColumns, withKeys: true }).trimEnd(),
    `${style.strong('A switch user')} needs ${scanned.at(-1)?.presses ?? 0} presses to the last of ${scanned.length} controls, row by row: ${last.toFixed(0)} s at ${SECONDS_EACH} s each`,
    '',
  ].join('\n');
}

// Smaller differences are those of the picture's pixels.
const GROWS_FROM = 1.08;

function growthLines(
  growth: NonNullable<LookSeen['growth']>,
  { style, widthColumns }: TextOptions,
): string[] {
  const times = growth.map(({ afterDp, beforeDp }) => afterDp / beforeDp).sort((a, b) => a - b);
  const still = growth.filter(({ afterDp, beforeDp }) => afterDp / beforeDp < GROWS_FROM);
  if (times.length === 0)
    return [`  ${outcomeMark.untested} no text shows in both sizes, so growth cannot be told`];
  const outcome = still.length === 0 ? 'passed' : 'failed';
  return [
    `  ${style.outcome(outcome, outcomeMark[outcome])} ${times.length - still.length} of ${times.length} texts that show in both sizes grow; letters are ${times[0]!.toFixed(2)} to ${times.at(-1)!.toFixed(2)} times as high`,
    ...still.flatMap(({ afterDp, beforeDp, text }) =>
      wrap(
        `${printableText(text)}: ${beforeDp.toFixed(1)} dp high, then ${afterDp.toFixed(1)} dp`,
        widthColumns,
        6,
        8,
      ),
    ),
  ];
}

/** The worst first, and what is sure before what is not. */
export const sortFindings = (findings: readonly Finding[]): Finding[] =>
  findings.toSorted(
    (a, b) =>
      rankOfPriority(a.priority) - rankOfPriority(b.priority) ||
      Number(b.basis === 'measured') - Number(a.basis === 'measured') ||
      b.severity - a.severity,
  );

function cardLines(
  [first, ...others]: readonly Finding[],
  { all, style, widthColumns }: TextOptions,
): string[] {
  const { basis, words } = first!;
  const line = (label: string, text: string) =>
    wrap(`${style.faint(label.padEnd(LABEL))}${text}`, widthColumns, 4, 4 + LABEL);
  const told = all ? others : others.slice(0, PLACES_SHOWN);
  return [
    ...wrap(
      `${style.outcome('failed', outcomeMark.failed)} ${style.strong(words.what)} ${style.faint(nameOf(first!))}`,
      widthColumns,
      2,
      4,
    ),
    ...told.flatMap((other) => line('also', `${nameOf(other)}: ${other.words.measured}`)),
    ...(others.length > told.length ? line('', `and ${others.length - told.length} more`) : []),
    ...line(basis, `${words.measured}; required: ${words.required}`),
    ...line('to do', words.remedy),
  ];
}

const nameOf = ({ identity: { row, subject } }: Finding): string =>
  row === undefined ? subject : `${subject}, row ${row}`;
