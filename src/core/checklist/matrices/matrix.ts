/** A table of the judgement: what is tried in the same ways many times, a row or a column for each. */
import type { FactIndex } from '../../areas/check.ts';
import type { DrillId } from '../../model/drill.ts';
import type { Finding, Target } from '../../model/finding.ts';
import type { Intent } from '../../model/intent.ts';
import type { OutcomeTable, TableCell } from '../../model/judgement.ts';
import { type Outcome, worstOf } from '../../model/outcome.ts';
import { outcomeOf } from '../apply-rulings.ts';

export interface Matrix {
  /** The field of the judgement. */
  id: 'routes' | 'messages' | 'purchases' | 'ads';
  /** The drill whose results it shows. */
  drill: DrillId;
  table(context: MatrixContext): OutcomeTable;
}

/** What a table is made of: facts say what was tried, findings what came of it. */
export class MatrixContext {
  readonly facts: FactIndex;
  readonly intent: Intent;
  readonly #findings: readonly Finding[];
  readonly #strict: boolean;

  constructor(facts: FactIndex, intent: Intent, findings: readonly Finding[], strict: boolean) {
    this.facts = facts;
    this.intent = intent;
    this.#findings = findings;
    this.#strict = strict;
  }

  where(holds: (finding: Finding) => boolean): Finding[] {
    return this.#findings.filter(holds);
  }

  /** Findings of these checks about one thing. */
  about({ id, kind, part }: Target, ...checks: readonly string[]): Finding[] {
    return this.where(
      ({ check, target }) =>
        checks.includes(check) &&
        target?.kind === kind &&
        target.id === id &&
        (part === undefined || target.part === part),
    );
  }

  /** @param otherwise what it is without a finding: untested, until a fact says that it was tried */
  cell(findings: readonly Finding[], otherwise: Outcome, why?: string): TableCell {
    const outcomes = findings.map((finding) => outcomeOf(finding, this.#strict));
    const outcome = worstOf([...outcomes, otherwise]) ?? otherwise;
    return {
      outcome,
      ...(why !== undefined && outcome === otherwise && { why }),
      findings: findings.map(({ id }) => id),
    };
  }
}

export const untestedCell = (why?: string): TableCell => ({
  outcome: 'untested',
  ...(why !== undefined && { why }),
  findings: [],
});
export const inapplicableCell: TableCell = { outcome: 'inapplicable', findings: [] };
