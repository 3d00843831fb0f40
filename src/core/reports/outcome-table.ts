/** A table of outcomes for a terminal: a mark in each cell, and below what the marks say. */
import type { OutcomeTable } from '../model/judgement.ts';
import { outcomeMark, outcomeWord } from './outline.ts';
import type { TextStyle } from './text.ts';
import { wrap } from './wrap.ts';

const GAP = 2;

/** Lines without a break at the end; nothing where there are no rows. */
export function outcomeTable(
  { columns, rows }: OutcomeTable,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string[] {
  if (rows.length === 0) return [];
  const first = Math.max(...rows.map(({ name }) => name.length));
  const cells = rows.flatMap((row) => row.cells.map((cell, i) => ({ ...cell, row, column: columns[i]! })));
  const line = ({ cells: of, name, note }: OutcomeTable['rows'][number]) =>
    `${name.padEnd(first + GAP)}${of
      .map(({ outcome }, i) => {
        const before = Math.floor((columns[i]!.length - 1) / 2);
        const mark = style.outcome(outcome, outcomeMark[outcome]);
        return `${' '.repeat(before)}${mark}${' '.repeat(columns[i]!.length - 1 - before)}`;
      })
      .join(' '.repeat(GAP))}  ${style.faint(note)}`;
  const used = [...new Set(cells.map(({ outcome }) => outcome))];
  const reasons = new Map<string, string[]>();
  for (const { column, row, why } of cells)
    if (why) reasons.set(why, [...(reasons.get(why) ?? []), `${row.name} ${column}`]);
  return [
    `${' '.repeat(first + GAP)}${style.strong(columns.join(' '.repeat(GAP)))}`,
    ...rows.map((row) => line(row).trimEnd()),
    '',
    used
      .map((outcome) => `${style.outcome(outcome, outcomeMark[outcome])} ${outcomeWord[outcome]}`)
      .join('   '),
    ...[...reasons].flatMap(([why, [place, ...more]]) =>
      wrap(
        `${outcomeMark.untested} ${place}${more.length > 0 ? ` and ${more.length} more` : ''}: ${why}`,
        widthColumns,
        0,
        4,
      ),
    ),
  ];
}
