/** The judgement for a terminal: the verdict, what to do next, then area by area with the worst first. */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { formatBuild } from '../model/candidate.ts';
import type { ItemOutcome, Judgement, OutcomeTable } from '../model/judgement.ts';
import { drillMatrix, matrixCell } from './drill-matrix.ts';
import { printable } from './escape.ts';
import { cellReasons, outcomeTable, rowsWith } from './outcome-table.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import {
  type AreaOutline,
  areaTitle,
  type CardOutline,
  formatNotes,
  formatOthers,
  formatPlaces,
  formatVerdict,
  nextSteps,
  outlineAreas,
  ownReason,
} from './outline.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

export { plainStyle, type TextOptions, type TextStyle } from './text-style.ts';

const CARDS_SHOWN = 4;
const PLACES_SHOWN = 5;

export function textReport(given: Judgement, options: TextOptions): string {
  const judgement = printable(given);
  const { style } = options;
  const verdictOutcome = ({ blocked: 'failed', open: 'cantTell', clear: 'passed' } as const)[
    judgement.verdict
  ];
  const lines = [
    `${style.strong(judgement.candidate.name)}  ${formatBuild(judgement.candidate.build)}`,
    style.outcome(verdictOutcome, `${outcomeMark[verdictOutcome]} ${style.strong(formatVerdict(judgement))}`),
    '',
    style.strong('Do next'),
    ...nextSteps(judgement).flatMap((step, i) => [
      ...wrap(
        `${i + 1}. ${style.outcome(step.outcome, outcomeMark[step.outcome])} ${step.words}`,
        options.widthColumns,
        3 - `${i + 1}`.length,
        7,
      ),
      ...(step.command ? [`       ${style.faint(step.command)}`] : []),
    ]),
    '',
  ];
  for (const area of outlineAreas(judgement)) lines.push(...areaLines(area, judgement, options));
  lines.push(...drillLines(judgement, options), ...tables(judgement, options));
  return `${[...lines, ...noteLines(judgement, options)].join('\n').trimEnd()}\n`;
}

type TableOptions = TextOptions & { rows?: readonly string[] };

const tables = (judgement: Judgement, options: TableOptions): string[] =>
  (
    [
      ['Links', judgement.routes],
      ['Push messages', judgement.messages],
      ['Purchases', judgement.purchases],
      ['Ads', judgement.ads],
    ] as const
  ).flatMap(([title, table]) => tableLines(title, table, judgement, options));

/** Of the tables only rows with these words, each with what fails in it; and nothing else. */
export function tableReport(given: Judgement, options: TextOptions & { rows: readonly string[] }): string {
  const lines = tables(printable(given), options);
  return lines.length > 0 ? `${lines.slice(1).join('\n')}\n` : '';
}

/** Where nothing was run, the items say so. */
function drillLines({ drills }: Judgement, options: TextOptions): string[] {
  if (drills.every(({ evidence }) => evidence.length === 0)) return [];
  return [
    '',
    options.style.strong('Drills'),
    ...drillMatrix(drills.map(matrixCell), options).map((line) => `  ${line}`.trimEnd()),
  ];
}

/** Nothing where nothing of it was promised. */
function tableLines(
  title: string,
  given: OutcomeTable,
  judgement: Judgement,
  options: TableOptions,
): string[] {
  const { rows } = options;
  const table = rows ? rowsWith(given, rows) : given;
  if (table.rows.length === 0) return [];
  const findings = new Map(judgement.findings.map((finding) => [finding.id, finding]));
  return [
    '',
    options.style.strong(title),
    ...[...outcomeTable(table, options), ...(rows ? cellReasons(table, findings, options) : [])].map((line) =>
      `  ${line}`.trimEnd(),
    ),
  ];
}

function areaLines(outline: AreaOutline, judgement: Judgement, options: TextOptions): string[] {
  const { area, counts, items, note } = outline;
  const { style, all } = options;
  const summary = counts
    .map(({ outcome, count }) =>
      style.outcome(outcome, `${outcomeMark[outcome]} ${count} ${outcomeWord[outcome]}`),
    )
    .join('   ');
  const shown = items.filter(({ item }) => all || item.outcome === 'failed' || item.outcome === 'cantTell');
  const detail = shown.flatMap(({ cards, item }) =>
    itemLines({ ...item, why: ownReason(item, outline) }, cards, judgement.strict, options),
  );
  return [
    `${style.strong(areaTitle[area].padEnd(22))} ${summary}`,
    ...(note ? wrap(note, options.widthColumns, 2, 2) : []),
    ...detail,
    ...(detail.length > 0 ? [''] : []),
  ];
}

function itemLines(
  item: ItemOutcome,
  cards: readonly CardOutline[],
  strict: boolean,
  options: TextOptions,
): string[] {
  const { style, widthColumns, all } = options;
  const open = cards.filter(([first]) => all || outcomeOf(first, strict) !== 'passed');
  const shown = all ? open : open.slice(0, CARDS_SHOWN);
  const head = wrap(
    `${style.outcome(item.outcome, `${outcomeMark[item.outcome]} ${outcomeWord[item.outcome]}`)}  ${item.shows} ${style.faint(`[${item.id}, ${item.level}]`)}`,
    widthColumns,
    2,
    4,
  );
  const why = shown.length === 0 ? wrap(item.why, widthColumns, 4, 4) : [];
  const rest =
    open.length > shown.length
      ? [`    ${style.faint(`… and ${open.length - shown.length} more; --all shows them`)}`]
      : [];
  return [...head, ...why, ...shown.flatMap((card) => cardLines(card, strict, options)), ...rest];
}

function cardLines(card: CardOutline, strict: boolean, { all, style, widthColumns }: TextOptions): string[] {
  const [finding] = card;
  const { words, ruling } = finding;
  const others = formatOthers(card);
  const told = all ? others : others.slice(0, PLACES_SHOWN);
  const rest = others.length - told.length;
  const outcome = outcomeOf(finding, strict);
  const field = (name: string, text: string) =>
    wrap(`${style.faint(name.padEnd(10))}${text}`, widthColumns, 6, 16);
  return [
    ...wrap(
      `${style.outcome(outcome, outcomeMark[outcome])} ${style.strong(finding.id)}  ${words.what}`,
      widthColumns,
      4,
      6,
    ),
    ...field('where', formatPlaces(finding)),
    ...told.flatMap((other, i) => field(i === 0 ? 'and' : '', other)),
    ...(rest > 0 ? field('', `… and ${rest} more; --all shows them`) : []),
    ...field(finding.basis === 'measured' ? 'measured' : 'estimate', words.measured),
    ...field('required', words.required),
    ...field('why', words.why),
    ...field('do', words.remedy),
    ...(ruling ? field('ruling', `${ruling.ruling}, ${ruling.by}: ${ruling.why}`) : []),
  ];
}

function noteLines(judgement: Judgement, { style, widthColumns }: TextOptions): string[] {
  const notes = formatNotes(judgement);
  return notes.length > 0
    ? ['', style.strong('Notes'), ...notes.flatMap((note) => wrap(note, widthColumns, 2, 4))]
    : [];
}
