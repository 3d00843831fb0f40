import type { Cell } from '../model/cell.ts';
import type { Area } from '../model/checklist.ts';
import type { Fact, FactKind, FactOf } from '../model/fact.ts';
import type { FindingData, FindingIdentity, Occurrence } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { Basis } from '../model/outcome.ts';

/** One departure in one place. Drafts of the same identity become one finding. */
export interface Draft {
  identity: FindingIdentity;
  basis: Basis;
  /** Higher is worse; comparable within the check. */
  severity: number;
  /** Measured values, rounded, as text: a ruling lapses when they change. */
  digest: string;
  /** What departs, without what differs from element to element; with the same remedy it is one cause. */
  cause?: string;
  occurrence: Occurrence;
}

/** What a check says of one subject. A subject that it cannot decide on is `cantTell`, with the reason. */
export type Assertion =
  /** `count` subjects at once, where there are too many to speak of each. */
  | { outcome: 'passed' | 'inapplicable'; cell?: Cell; count?: number }
  /** The evidence cannot show it, because it does not carry something: `headings`, `traits`. */
  | { outcome: 'untested'; cell?: Cell; lacking: string }
  /** The same, in a clause of its own: `the texts are elsewhere`. */
  | { outcome: 'untested'; because: string }
  | { outcome: 'failed' | 'cantTell'; cell?: Cell; draft: Draft };

/** Facts by kind, as checks read them. */
export interface FactIndex {
  of<K extends FactKind>(kind: K): readonly FactOf<K>[];
  /** What several checks need to work out of all facts, worked out once. */
  once<T>(make: (facts: FactIndex, intent: Intent) => T, intent: Intent): T;
}

/** Compares facts with the intent and the standards. Pure; gives plain data, the words stand in `messages.ts`. */
export interface Check {
  id: string;
  area: Area;
  needs: readonly FactKind[];
  run(facts: FactIndex, intent: Intent): Iterable<Assertion>;
}

export function indexFacts(facts: Iterable<Fact>): FactIndex {
  const byKind = new Map<FactKind, Fact[]>();
  for (const fact of facts) {
    const list = byKind.get(fact.kind);
    if (list) list.push(fact);
    else byKind.set(fact.kind, [fact]);
  }
  const made = new Map<Intent, Map<unknown, unknown>>();
  const index: FactIndex = {
    of: (kind) => (byKind.get(kind) ?? []) as never,
    once: (make, intent) => {
      const ofIntent = made.get(intent) ?? new Map<unknown, unknown>();
      made.set(intent, ofIntent);
      if (!ofIntent.has(make)) ofIntent.set(make, make(index, intent));
      return ofIntent.get(make) as never;
    },
  };
  return index;
}

/** The draft of a finding on an element of a capture. */
export function elementDraft(
  fact: Extract<Fact, { element: unknown }>,
  of: { basis: Basis; severity: number; digest: string; cause?: string; aspect?: string; data: FindingData },
): Draft {
  const { cell, element, evidence } = fact;
  return {
    identity: { screen: cell.screen, subject: element.key, aspect: of.aspect },
    basis: of.basis,
    severity: of.severity,
    digest: of.digest,
    cause: `${element.className}: ${of.cause ?? of.digest}`,
    occurrence: { evidence, cell, boundsPx: element.boundsPx, shown: element.shown, data: of.data },
  };
}
