import type { Check } from '../areas/check.ts';
import { checks as shippedChecks } from '../areas/checks.ts';
import { checklistSchema } from '../model/checklist.ts';
import type { Fact, FactOf } from '../model/fact.ts';
import { emptyIntent, type Intent } from '../model/intent.ts';
import type { Judgement } from '../model/judgement.ts';
import type { RulingsFile } from '../model/ruling.ts';
import { type AssembledChecklist, assembleChecklist } from './assemble-checklist.ts';
import { type JudgeInput, judge } from './judge.ts';
import { mobileRelease } from './mobile-release.ts';

export interface JudgeFactsOptions {
  /** What should be; without it, only what the standards ask. */
  intent?: Intent;
  /** Which build is judged; without it, that of the package among the facts. */
  candidate?: JudgeInput['candidate'];
  /** The shipped list, unless another is given. */
  checklist?: AssembledChecklist;
  /** The shipped checks, unless others are given. */
  checks?: readonly Check[];
  /** Those of the team's own among them. */
  ownChecks?: Judgement['ownChecks'];
  /** None, unless they are given. */
  rulings?: RulingsFile;
  /** Estimated findings fail their items too. */
  strict?: boolean;
  /** The present, unless it is given. */
  now?: Date;
}

/**
 * Judges facts against the shipped list.
 *
 *     const { verdict, items } = judgeFacts(factsOfPackage(app), { intent });
 *
 * @param facts of one candidate: `factsOfPackage`, `factsOfCapture`, `factsOfTrace`
 * @throws RangeError where neither the facts nor the options say which build it is
 */
export function judgeFacts(facts: Iterable<Fact>, options: JudgeFactsOptions = {}): Judgement {
  const all = [...facts];
  const candidate = options.candidate ?? candidateOf(all);
  const checks = options.checks ?? shippedChecks;
  return judge({
    candidate,
    facts: all,
    checks,
    ownChecks: options.ownChecks,
    intent: options.intent ?? emptyIntent(candidate.build.appId),
    checklist: options.checklist ?? shippedList(checks),
    rulings: options.rulings ?? { fenlok: 'rulings/1', rulings: [], signOffs: [] },
    strict: options.strict ?? false,
    now: (options.now ?? new Date()).toISOString(),
  });
}

function candidateOf(facts: readonly Fact[]): JudgeInput['candidate'] {
  const app = facts.find((fact): fact is FactOf<'package'> => fact.kind === 'package');
  if (!app)
    throw new RangeError(
      'judgeFacts: no package is among the facts; say which build they are of in options.candidate',
    );
  return { platform: app.platform, name: app.build.appId, build: app.build };
}

/** The list as it is shipped, without what a team changes. */
const shippedList = (checks: readonly Check[]): AssembledChecklist =>
  assembleChecklist(
    checklistSchema.parse(mobileRelease),
    undefined,
    checks.map(({ id }) => id),
  );
