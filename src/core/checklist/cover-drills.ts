import type { FactIndex } from '../areas/check.ts';
import { classOfRun, lastRuns } from '../areas/lifecycle/runs/class-of-run.ts';
import { formatInvalid } from '../areas/lifecycle/runs/invalid-words.ts';
import type { Platform } from '../model/candidate.ts';
import type { Cell } from '../model/cell.ts';
import { isDriven, isScreenDrill } from '../model/drill.ts';
import type { DrillRunFact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { CoverageCell } from '../model/judgement.ts';
import { worstOf } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';

/**
 * Screens by drills: what was run on a device, and what of it should have been. Of runs on several devices the worst counts; a run
 * that proves nothing leaves its cell untested, and says why.
 */
export function coverDrills(
  facts: FactIndex,
  findings: readonly Finding[],
  intent: Intent,
  platform: Platform,
  strict: boolean,
): CoverageCell[] {
  const cells = new Map<string, { cell: CoverageCell['cell']; planned: boolean; runs: DrillRunFact[] }>();
  const keyOf = (screen: string, drill: string) => `${screen}|${drill}`;
  for (const { id } of intent.screens)
    for (const drill of intent.drills.run)
      if (isDriven(drill, platform))
        cells.set(keyOf(id, drill), { cell: plainCell(id, drill, intent), planned: true, runs: [] });
  for (const run of lastRuns(facts)) {
    if (!isScreenDrill(run.drill)) continue;
    const key = keyOf(run.cell.screen, run.drill);
    const { device: _, ...cell } = run.cell;
    const known = cells.get(key);
    cells.set(key, { cell, planned: known?.planned ?? false, runs: [...(known?.runs ?? []), run] });
  }
  return [...cells.values()].map(({ cell, planned, runs }) => {
    const here = findings.filter(({ occurrences }) =>
      occurrences.some((one) => one.cell?.screen === cell.screen && one.cell.procedure === cell.procedure),
    );
    const invalid = runs.flatMap((run) => {
      const found = classOfRun(run, intent.drills.ignore);
      return found.kind === 'invalid' ? [formatInvalid(found.why, run)] : [];
    });
    const seen = here.map((finding) => outcomeOf(finding, strict));
    const isProven = runs.length > invalid.length;
    return {
      cell,
      planned,
      outcome: worstOf([...seen, isProven ? 'passed' : 'untested']) ?? 'untested',
      ...(invalid[0] && { why: invalid[0] }),
      findings: here.map(({ id }) => id),
      evidence: runs.map(({ evidence }) => evidence),
    };
  });
}

const plainCell = (screen: string, procedure: string, { sourceLocale }: Intent): Omit<Cell, 'device'> => ({
  screen,
  procedure,
  step: '',
  locale: sourceLocale,
  theme: 'light',
  textScale: 1,
  orientation: 'portrait',
});
