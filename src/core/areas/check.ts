/** What a check is. Everything about one stands in its own file: what it reads, its words, its documentation, its run. */
import type { z } from 'zod';
import type { Cell } from '../model/cell.ts';
import type { Area } from '../model/checklist.ts';
import type { Fact, FactKind, FactOf } from '../model/fact.ts';
import type {
  Finding,
  FindingData,
  FindingIdentity,
  Occurrence,
  Priority,
  Target,
  Words,
} from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { Limits } from '../model/limits.ts';
import type { Basis } from '../model/outcome.ts';

/** What a check tells about a finding: plain values, by name. */
export type CheckData = Record<string, FindingData[string] | undefined>;

/** One failure in one place. Drafts of the same identity become one finding. */
export interface Draft<Data extends CheckData = CheckData> {
  identity: FindingIdentity;
  /** What it is about, where a table has a row or a column for it. */
  target?: Target;
  /** What it was called before, by which earlier rulings name it. */
  formerly?: FindingIdentity;
  basis: Basis;
  /** Higher is worse; comparable within the check. */
  severity: number;
  /** Measured values, rounded, as text: a ruling lapses when they change. */
  digest: string;
  /** What fails, without what differs from element to element; with the same remedy it is one cause. */
  cause?: string;
  occurrence: OccurrenceOf<Data>;
}

type OccurrenceOf<Data extends CheckData> = Omit<Occurrence, 'data'> & { data: Data };

/** What a check says of one subject. A subject that it cannot decide on is `cantTell`, with the reason. */
export type Assertion<Data extends CheckData = CheckData> =
  /** `count` subjects at once, where there are too many to speak of each. */
  | { outcome: 'passed' | 'inapplicable'; cell?: Cell; count?: number }
  /** The evidence cannot show it, because it does not carry something: `headings`, `traits`. */
  | { outcome: 'untested'; cell?: Cell; missingEvidence: string }
  /** The same, in a clause of its own: `the texts are elsewhere`. */
  | { outcome: 'untested'; because: string }
  | { outcome: 'failed' | 'cantTell'; cell?: Cell; draft: Draft<Data> };

/** Facts by kind, as checks read them: only of the kinds that they declare. */
export interface FactIndex<Kind extends FactKind = FactKind> {
  of<K extends Kind>(kind: K): readonly FactOf<K>[];
  /** What several checks need to work out of all facts, worked out once. */
  once<T, I extends object>(make: (facts: FactIndex<Kind>, intent: I) => T, intent: I): T;
  /** For types alone: an index of fewer kinds is none of more. */
  readonly kinds?: (kind: Kind) => void;
}

type LimitName = keyof Limits;
/** The intent as checks see it: of the limits only those that they declare. */
export type IntentWith<Limit extends LimitName = never> = Omit<Intent, 'limits'> & {
  limits: Pick<Limits, Limit>;
};

/** One way to correct it, with a few lines of code where code is what helps. */
export interface Fix {
  /** Where the code belongs: `Android, Compose`, `iOS`, `AndroidManifest.xml`. */
  where: string;
  language: 'kotlin' | 'swift' | 'xml' | 'yaml' | 'json' | 'text' | 'groovy' | 'sh';
  code: string;
}

/** The page of a check, `docs/checks/ID.md`. */
export interface CheckDoc {
  /** What it looks at, and what it holds it against. */
  looksAt: string;
  against: string;
  /** To whom it matters, and why. */
  matters: string;
  /** How its values come about. */
  measured: string;
  /** Where it may be wrong, or says nothing. */
  errs: string;
  fixes: readonly Fix[];
}

/** A finding, as its words see it. */
type FindingOf<Data extends CheckData> = Pick<Finding, 'basis' | 'identity'> & {
  occurrences: readonly OccurrenceOf<Data>[];
};

/** Compares facts with the intent and the standards. Pure. What each part is for stands at `CheckParts`. */
export interface Check extends CheckParts<FactKind, FactKind, CheckData, LimitName> {
  reads: readonly FactKind[];
  limits: readonly LimitName[];
}

/** What a check is made of. */
interface CheckParts<
  Need extends FactKind,
  Read extends FactKind,
  Data extends CheckData,
  Limit extends LimitName,
> {
  id: string;
  area: Area;
  priority: Priority;
  /** What it goes by, with the section: `WCAG 2.2, 1.4.3 Contrast (Minimum)`. */
  standard: string;
  /** What its findings can be: always measured, always estimated (a person rules on them), or either. */
  basis: Basis | 'either';
  /** The kind of fact without which its items are untested. */
  needs: Need;
  /** The other kinds that it reads. */
  reads?: readonly Read[];
  /** Limits of the intent file that it goes by. */
  limits?: readonly Limit[];
  /** What its findings carry, for its words and for machines. */
  data: z.ZodType<Data>;
  doc: CheckDoc;
  words(data: Data, finding: FindingOf<Data>): Words;
  run(facts: FactIndex<Need | Read>, intent: IntentWith<Limit>): Iterable<Assertion<Data>>;
}

/** Makes a check of its parts; types hold its run to the facts and limits that it declares, and its words to its data. */
export const defineCheck = <
  const Need extends FactKind,
  Data extends CheckData,
  const Read extends FactKind = never,
  const Limit extends LimitName = never,
>(
  parts: CheckParts<Need, Read, Data, Limit>,
): Check => ({ reads: [], limits: [], ...parts });

export function indexFacts(facts: Iterable<Fact>): FactIndex {
  const byKind = new Map<FactKind, Fact[]>();
  for (const fact of facts) {
    const list = byKind.get(fact.kind);
    if (list) list.push(fact);
    else byKind.set(fact.kind, [fact]);
  }
  const made = new Map<object, Map<unknown, unknown>>();
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

/**
 * The same facts, as one check may read them.
 *
 * @throws RangeError where it reads a kind that it does not declare
 */
export function factsFor({ id, needs, reads }: Check, facts: FactIndex): FactIndex {
  const declared = new Set([needs, ...reads]);
  return {
    of: (kind) => {
      if (!declared.has(kind))
        throw new RangeError(`the check ${id} reads ${kind}, which it does not declare`);
      return facts.of(kind);
    },
    once: (make, intent) => facts.once(make, intent),
  };
}

/** The draft of a finding on an element of a capture. */
export function elementDraft<Data extends CheckData>(
  fact: Extract<Fact, { element: unknown }>,
  of: { basis: Basis; severity: number; digest: string; cause?: string; aspect?: string; data: Data },
): Draft<Data> {
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
