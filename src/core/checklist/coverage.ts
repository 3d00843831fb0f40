import type { FactIndex } from '../areas/check.ts';
import type { Cell } from '../model/cell.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { CoverageCell } from '../model/judgement.ts';
import { worstOf } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';
import type { ProvenFacts } from './unproven-captures.ts';

type PlannedCell = CoverageCell['cell'];

/** The cells that the intent wants covered: every screen under each row's combinations. */
export function plannedCells(intent: Intent): PlannedCell[] {
  const cells = new Map<string, PlannedCell>();
  for (const row of intent.coverage)
    for (const screen of row.screens ?? intent.screens.map(({ id }) => id))
      for (const locale of row.locales ?? [intent.sourceLocale])
        for (const theme of row.themes ?? intent.themes)
          for (const textScale of row.textScales)
            for (const orientation of row.orientations) {
              const cell = {
                screen,
                procedure: row.procedure,
                step: '',
                locale,
                theme,
                textScale,
                orientation,
              };
              cells.set(keyOf(cell), cell);
            }
  return [...cells.values()];
}

/** Planned cells and those captured besides, each with its outcome. An empty cell is untested, never passed. */
export function coverCells(
  facts: FactIndex,
  unproven: ProvenFacts['unproven'],
  findings: readonly Finding[],
  intent: Intent,
  strict: boolean,
): CoverageCell[] {
  const planned = new Map(plannedCells(intent).map((cell) => [keyOf(cell), cell] as const));
  const captured = new Map(facts.of('capture').map(({ cell }) => [keyOf(cell), withoutDevice(cell)]));
  const digests = new Map<string, string[]>();
  for (const { cell, evidence } of facts.of('capture'))
    digests.set(keyOf(cell), [...(digests.get(keyOf(cell)) ?? []), evidence]);
  const touching = new Map<string, Finding[]>();
  for (const finding of findings)
    for (const key of new Set(finding.occurrences.flatMap(({ cell }) => (cell ? [keyOf(cell)] : []))))
      touching.set(key, [...(touching.get(key) ?? []), finding]);
  const without = new Map(unproven.map((capture) => [keyOf(capture.cell), capture]));
  const besides = [...without].map(([key, { cell }]) => [key, withoutDevice(cell)] as const);
  return [...new Map([...planned, ...besides, ...captured])].map(([key, cell]) => {
    const isPlanned = planned.has(key);
    const { evidence, why } = without.get(key) ?? {};
    if (!captured.has(key))
      return {
        cell,
        planned: isPlanned,
        outcome: 'untested',
        ...(why && { why }),
        findings: [],
        evidence: evidence ? [evidence] : [],
      };
    const here = touching.get(key) ?? [];
    return {
      cell,
      planned: isPlanned,
      outcome: worstOf(here.map((finding) => outcomeOf(finding, strict))) ?? 'passed',
      findings: here.map(({ id }) => id),
      evidence: digests.get(key) ?? [],
    };
  });
}

const keyOf = (cell: Omit<Cell, 'device'>): string =>
  [cell.screen, cell.procedure, cell.step, cell.locale, cell.theme, cell.textScale, cell.orientation].join(
    '|',
  );

const withoutDevice = ({ device: _, ...cell }: Cell): PlannedCell => cell;
