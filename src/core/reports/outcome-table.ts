/** A table of outcomes for a terminal: a mark in each cell, and below what the marks say. */

import type { Finding } from '../model/finding.ts';
import type { OutcomeTable, TableCell } from '../model/judgement.ts';
import type { Outcome } from '../model/outcome.ts';
import { columnsOf, padToColumns } from './columns.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

const GAP = 2;

/** Lines without a break at the end; nothing where there are no rows. */
export function outcomeTable(
  { columns, rows }: OutcomeTable,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string[] {
  if (rows.length === 0) return [];
  const first = Math.max(...rows.map(({ name }) => columnsOf(name)));
  const cells = rows.flatMap((row) => row.cells.map((cell, i) => ({ ...cell, row, column: columns[i]! })));
  const markOf = ({ outcome }: TableCell, column: string) => {
    const before = Math.floor((columnsOf(column) - 1) / 2);
    const mark = style.outcome(outcome, outcomeMark[outcome]);
    return `${' '.repeat(before)}${mark}${' '.repeat(columnsOf(column) - 1 - before)}`;
  };
  const blockOf = ({ from, to }: { from: number; to: number }) => [
    `${' '.repeat(first + GAP)}${style.strong(columns.slice(from, to).join(' '.repeat(GAP)))}`,
    ...rows.map(({ cells: of, name, note }) => {
      const marks = of.slice(from, to).map((cell, i) => markOf(cell, columns[from + i]!));
      return `${padToColumns(name, first + GAP)}${marks.join(' '.repeat(GAP))}  ${style.faint(note)}`.trimEnd();
    }),
    '',
  ];
  const used = [...new Set(cells.map(({ outcome }) => outcome))];
  const reasons = new Map<string, string[]>();
  for (const { column, row, why } of cells)
    if (why) reasons.set(why, [...(reasons.get(why) ?? []), `${row.name} ${column}`]);
  return [
    ...blocksOf(columns, widthColumns - first - GAP).flatMap(blockOf),
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

/** Only rows whose name or note holds every word, in capitals or not: a placement, a network, a format, a route. */
export function rowsWith(table: OutcomeTable, words: readonly string[]): OutcomeTable {
  const wanted = words.map((word) => word.toLowerCase());
  const holds = ({ name, note }: OutcomeTable['rows'][number]) => {
    const text = `${name} ${note}`.toLowerCase();
    return wanted.every((word) => text.includes(word));
  };
  return { ...table, rows: table.rows.filter(holds) };
}

/** What fails in the cells, and what to do about it; a finding that stands in several is told once. */
export function cellReasons(
  { columns, rows }: OutcomeTable,
  findings: ReadonlyMap<string, Finding>,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string[] {
  const told = new Map<string, { places: string[]; outcome: Outcome }>();
  for (const { cells, name } of rows)
    for (const [i, { findings: ids, outcome }] of cells.entries())
      for (const id of ids) {
        const before = told.get(id) ?? { places: [], outcome };
        told.set(id, { ...before, places: [...before.places, `${name} ${columns[i]}`] });
      }
  return [...told].flatMap(
    ([
      id,
      {
        outcome,
        places: [place, ...more],
      },
    ]) => {
      const words = findings.get(id)?.words;
      if (!words) return [];
      const where = `${place}${more.length > 0 ? ` and ${more.length} more` : ''}`;
      const says = `${style.outcome(outcome, outcomeMark[outcome])} ${words.what}: ${words.measured}. ${words.remedy} [${where}]`;
      return wrap(says, widthColumns, 0, 4);
    },
  );
}

/** So many columns beside one another as there is room for; each stands in one block. */
function blocksOf(columns: readonly string[], widthColumns: number): { from: number; to: number }[] {
  const blocks = [{ from: 0, to: 0 }];
  let used = 0;
  for (const [i, column] of columns.entries()) {
    used += columnsOf(column) + GAP;
    if (used > widthColumns && i > blocks.at(-1)!.from) {
      blocks.push({ from: i, to: i });
      used = columnsOf(column) + GAP;
    }
    blocks.at(-1)!.to = i + 1;
  }
  return blocks;
}
