/** Screens by drills, for a terminal: drills down, screens across, a mark in each cell. */

import type { CoverageCell } from '../model/judgement.ts';
import type { Outcome } from '../model/outcome.ts';
import { columnsOf } from './columns.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

export interface MatrixCell {
  screen: string;
  drill: string;
  outcome: Outcome;
  /** Why nothing can be said. */
  why?: string;
}

export const matrixCell = ({ cell, outcome, why }: CoverageCell): MatrixCell => ({
  screen: cell.screen,
  drill: cell.procedure,
  outcome,
  why,
});

const GAP = 2;

/** Lines without a break at the end; nothing where there are no cells. */
export function drillMatrix(
  cells: readonly MatrixCell[],
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string[] {
  if (cells.length === 0) return [];
  const screens = [...new Set(cells.map(({ screen }) => screen))];
  const drills = [...new Set(cells.map(({ drill }) => drill))];
  const first = Math.max(...drills.map(({ length }) => length));
  const at = new Map(cells.map((cell) => [`${cell.screen}|${cell.drill}`, cell]));
  const row = (drill: string) =>
    screens
      .map((screen) => {
        const cell = at.get(`${screen}|${drill}`);
        const mark = cell ? style.outcome(cell.outcome, outcomeMark[cell.outcome]) : ' ';
        const before = Math.floor((columnsOf(screen) - 1) / 2);
        return `${' '.repeat(before)}${mark}${' '.repeat(columnsOf(screen) - 1 - before)}`;
      })
      .join(' '.repeat(GAP));
  const used = [...new Set(cells.map(({ outcome }) => outcome))];
  const reasons = new Map<string, MatrixCell[]>();
  for (const cell of cells) if (cell.why) reasons.set(cell.why, [...(reasons.get(cell.why) ?? []), cell]);
  return [
    `${' '.repeat(first + GAP)}${style.strong(screens.join(' '.repeat(GAP)))}`,
    ...drills.map((drill) => `${drill.padEnd(first + GAP)}${row(drill)}`.trimEnd()),
    '',
    used
      .map((outcome) => `${style.outcome(outcome, outcomeMark[outcome])} ${outcomeWord[outcome]}`)
      .join('   '),
    ...[...reasons].flatMap(([why, of]) => wrap(`${formatCells(of)}: ${why}`, widthColumns, 0, 4)),
  ];
}

/** `discard on timetable and 6 more`, the same reason said once. */
const formatCells = (cells: readonly MatrixCell[]): string =>
  `${outcomeMark.untested} ${cells[0]!.drill} on ${cells[0]!.screen}${cells.length > 1 ? ` and ${cells.length - 1} more` : ''}`;
