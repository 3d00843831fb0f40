/** A release's memory for a terminal: each candidate's outcomes, and what stays or comes back. */
import type { Trend } from '../checklist/trend.ts';
import { type Outcome, worstFirst } from '../model/outcome.ts';
import { fitColumns } from './columns.ts';
import { printable } from './escape.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import { areaTitle, plural } from './outline.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

const VERDICT: Record<Trend['candidates'][number]['verdict'], Outcome> = {
  blocked: 'failed',
  open: 'cantTell',
  clear: 'passed',
};
const NAME_COLUMNS = 18;
// More are told by the drawing.
const CANDIDATES_SHOWN = 6;

export function trendView(given: Trend, { style, widthColumns }: TextOptions): string {
  const trend = printable(given);
  const shown = trend.candidates.slice(-CANDIDATES_SHOWN);
  const left = trend.candidates.length - shown.length;
  const outcomes = worstFirst.filter((outcome) => outcome !== 'inapplicable');
  const rows = shown.map(({ build, counts, judgedAt, name, verdict }) => {
    const numbers = outcomes.map((outcome) =>
      style.outcome(outcome, `${outcomeMark[outcome]} ${String(counts[outcome]).padStart(3)}`.padEnd(12)),
    );
    const mark = style.outcome(VERDICT[verdict], `${outcomeMark[VERDICT[verdict]]} ${verdict.padEnd(9)}`);
    return `  ${fitColumns(name, NAME_COLUMNS)} ${build.padEnd(8)} ${judgedAt.slice(0, 10)}  ${mark} ${numbers.join('')}`.trimEnd();
  });
  const head = `  ${'Candidate'.padEnd(NAME_COLUMNS)} ${'build'.padEnd(8)} ${'judged'.padEnd(10)}  ${'verdict'.padEnd(11)} ${outcomes.map((outcome) => outcomeWord[outcome].padEnd(12)).join('')}`;
  const first = CANDIDATES_SHOWN < trend.candidates.length ? left : 0;
  return `${[
    style.strong('Items by outcome, candidate by candidate'),
    style.faint(head.trimEnd()),
    ...(left > 0 ? [style.faint(`  … ${left} earlier`)] : []),
    ...rows,
    ...wrap(greenWords(trend), widthColumns, 0, 2),
    '',
    style.strong('Failed and untested items by area'),
    ...areaRows(trend, first).map((row) => `  ${row}`),
    ...listOf(
      'Open the longest',
      trend.oldest.map(
        ({ candidates, id, since, what }) =>
          `${style.strong(id)}  ${what} ${style.faint(`(since ${since}, ${candidates} ${plural(candidates, 'candidate', 'candidates')})`)}`,
      ),
      { style, widthColumns },
    ),
    ...listOf(
      'Comes back after it was gone',
      trend.returning.map(
        ({ id, isOpen, times, what }) =>
          `${style.strong(id)}  ${what} ${style.faint(`(${times} ${plural(times, 'time', 'times')}${isOpen ? ', open now' : ''})`)}`,
      ),
      { style, widthColumns },
    ),
  ].join('\n')}\n`;
}

function greenWords({ candidates, toGreen }: Trend): string {
  if (toGreen)
    return `Clear after ${toGreen.candidates} ${plural(toGreen.candidates, 'candidate', 'candidates')} and ${toGreen.days} ${plural(toGreen.days, 'day', 'days')}.`;
  return candidates.at(0)?.verdict === 'clear'
    ? 'The first candidate was clear.'
    : 'No candidate has been clear yet.';
}

/** Only areas in which something failed; what is untested besides, since fewer failures may be fewer looks. */
function areaRows({ areas, candidates }: Trend, first: number): string[] {
  const failed = areas
    .map(({ area, counts }) => ({ area, counts: counts.slice(first) }))
    .filter(({ counts }) => counts.some((count) => count.failed > 0))
    .sort((a, b) => b.counts.at(-1)!.failed - a.counts.at(-1)!.failed);
  if (failed.length === 0) return ['none'];
  const cell = ({ failed: bad, untested }: Record<Outcome, number>) =>
    `${outcomeMark.failed}${String(bad).padStart(3)}  ${outcomeMark.untested}${String(untested).padStart(3)}`.padEnd(
      CELL_COLUMNS,
    );
  const names = candidates.slice(first).map(({ name }) => fitColumns(name, CELL_COLUMNS));
  return [
    `${''.padEnd(22)} ${names.join(' ')}`.trimEnd(),
    ...failed.map(({ area, counts }) =>
      `${areaTitle[area].padEnd(22)} ${counts.map(cell).join(' ')}`.trimEnd(),
    ),
  ];
}
const CELL_COLUMNS = 12;

const listOf = (
  title: string,
  lines: readonly string[],
  { style, widthColumns }: Pick<TextOptions, 'style' | 'widthColumns'>,
): string[] =>
  lines.length > 0
    ? ['', style.strong(title), ...lines.flatMap((line) => wrap(line, widthColumns, 2, 4))]
    : [];
