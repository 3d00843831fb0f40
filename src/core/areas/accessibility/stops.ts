/** What the checks of stops share. */
import type { StopFact } from '../../model/fact.ts';
import type { Basis } from '../../model/outcome.ts';
import { type Assertion, type CheckData, elementDraft, type FactIndex } from '../check.ts';

/** Those that a reader comes to. */
export const reachedStops = (facts: FactIndex<'stop'>): StopFact[] =>
  facts.of('stop').filter(({ shutInBy }) => !shutInBy);

/** The stops of one capture each, in reading order. */
export function stopsByScreen(facts: FactIndex<'stop'>): StopFact[][] {
  const screens = new Map<string, StopFact[]>();
  for (const stop of reachedStops(facts)) {
    const list = screens.get(stop.evidence);
    if (list) list.push(stop);
    else screens.set(stop.evidence, [stop]);
  }
  return [...screens.values()];
}

export const passed = ({ cell }: StopFact) => ({ outcome: 'passed' as const, cell });
type Untested = Extract<Assertion, { missingEvidence: string }>;

const FIELDS_NAMED = 4;

/** Fields that may be named by a text beside them, which the OS's dump does not say. */
export function* withoutLabels(fields: readonly StopFact[]): Iterable<Untested> {
  const names = [...new Set(fields.map(({ cell, element }) => `${element.key} on ${cell.screen}`))];
  const more = names.length > FIELDS_NAMED ? ` and ${names.length - FIELDS_NAMED} more` : '';
  const missingEvidence = `label-for, which names fields (${names.slice(0, FIELDS_NAMED).join(', ')}${more})`;
  for (const { cell } of fields) yield { outcome: 'untested', cell, missingEvidence };
}
export const untested = ({ cell }: StopFact, missingEvidence: string): Untested => ({
  outcome: 'untested',
  cell,
  missingEvidence,
});

export const departed = <Data extends CheckData>(
  stop: StopFact,
  of: { basis: Basis; severity: number; digest: string; cause?: string; aspect?: string; data: Data },
): Assertion<Data> => ({
  outcome: of.basis === 'measured' ? 'failed' : 'cantTell',
  cell: stop.cell,
  draft: elementDraft(stop, of),
});
