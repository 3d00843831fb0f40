import { type Check, type FactIndex, indexFacts } from '../areas/check.ts';
import { themePairs } from '../areas/contrast/theme-pairs.ts';
import { variantMatrix } from '../areas/resources/variant-matrix.ts';
import type { BuildKey, Platform } from '../model/candidate.ts';
import type { Fact } from '../model/fact.ts';
import type { Finding } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { ItemOutcome, Judgement, OutcomeTable, Verdict } from '../model/judgement.ts';
import { type Outcome, outcomeSchema } from '../model/outcome.ts';
import type { RulingsFile } from '../model/ruling.ts';
import { applyRulings, applySignOffs, outcomeOf } from './apply-rulings.ts';
import type { AssembledChecklist } from './assemble-checklist.ts';
import { collectFindings } from './collect-findings.ts';
import { coverDrills } from './cover-drills.ts';
import { coverCells } from './coverage.ts';
import { groupCards } from './group-cards.ts';
import { judgeItems } from './judge-items.ts';
import { lookedAt } from './looked.ts';
import { matrices } from './matrices/matrices.ts';
import { type Matrix, MatrixContext } from './matrices/matrix.ts';
import { signOffDigest } from './sign-off-basis.ts';
import { sortUnproven } from './unproven-captures.ts';

export interface JudgeInput {
  candidate: { platform: Platform; name: string; build: BuildKey };
  facts: Iterable<Fact>;
  intent: Intent;
  checklist: AssembledChecklist;
  rulings: RulingsFile;
  checks: readonly Check[];
  /** Those of the team's own among them. */
  ownChecks?: Judgement['ownChecks'];
  /** Estimated findings fail their items too. */
  strict?: boolean;
  /** ISO 8601, UTC. */
  now: string;
  /** A later time that was known before: an accepted ruling that has ended does not come back when a clock is set back. */
  latestKnown?: string;
}

/** Facts, intent, checklist and rulings in; findings, outcomes and the verdict out. Measures nothing. */
export function judge(input: JudgeInput): Judgement {
  const { candidate, checklist, intent, strict = false } = input;
  const proven = sortUnproven(input.facts, intent.sourceLocale);
  const facts = indexFacts(proven.facts);
  const latest = latestOf(input);
  const reports = collectFindings(input.checks, facts, intent);
  const ruled = applyRulings(
    reports.flatMap((report) => report.findings),
    input.rulings.rulings,
    candidate.build,
    latest.slice(0, 10),
  );
  const byId = new Map(ruled.findings.map((finding) => [finding.id, finding]));
  const ruledReports = reports.map((report) => ({
    ...report,
    findings: report.findings.map((finding) => byId.get(finding.id)!),
  }));
  const signOffs = applySignOffs(input.rulings.signOffs, {
    itemIds: new Set(checklist.items.map(({ id }) => id)),
    build: candidate.build,
    today: latest.slice(0, 10),
    digestOf: (what) => signOffDigest(what, facts, candidate.build),
  });
  const coverage = coverCells(facts, proven.unproven, ruled.findings, intent, strict);
  const tables = new MatrixContext(facts, intent, ruled.findings, strict);
  const drills = coverDrills(facts, ruled.findings, intent, candidate.platform, strict);
  const items = judgeItems(checklist.items, {
    reports: ruledReports,
    signOffs: signOffs.holding,
    coverage,
    drills,
    drillsRun: drillsRunIn(facts),
    platform: candidate.platform,
    strict,
  });
  return {
    fenlok: 'judgement/1',
    candidate,
    judgedAt: input.now,
    ...(latest > input.now && { latestKnown: latest }),
    checklist: checklist.name,
    strict,
    verdict: verdictOf(items),
    counts: countOutcomes(items),
    items,
    findings: ruled.findings,
    cards: groupCards(ruled.findings, strict),
    switchedOff: checklist.switchedOff,
    lapsed: ruled.lapsed,
    lapsedSignOffs: signOffs.lapsed,
    coverage,
    drills,
    ...(Object.fromEntries(matrices.map(({ id, table }) => [id, table(tables)])) as Record<
      Matrix['id'],
      OutcomeTable
    >),
    ...offersIn(facts),
    variants: variantMatrix(facts, intent, troubledResources(ruled.findings)),
    themePairs: themePairs(facts, intent, ruled.findings, (finding) => outcomeOf(finding, strict)),
    ownChecks: [...(input.ownChecks ?? [])],
    looked: lookedAt(reports, facts, intent),
    assertedEvidence: facts.of('capture').filter((fact) => fact.buildBasis === 'asserted').length,
  };
}

const troubledResources = (findings: readonly Finding[]): string[] => [
  ...new Set(findings.flatMap(({ area, identity }) => (area === 'resources' ? [identity.subject] : []))),
];

/** Blocked when something blocking failed; open while something blocking is undecided. */
export function verdictOf(items: readonly Pick<ItemOutcome, 'level' | 'outcome'>[]): Verdict {
  const blocking = new Set(items.filter((item) => item.level === 'blocking').map((item) => item.outcome));
  if (blocking.has('failed')) return 'blocked';
  return blocking.has('cantTell') || blocking.has('untested') ? 'open' : 'clear';
}

function countOutcomes(items: readonly ItemOutcome[]): Record<Outcome, number> {
  const counts = Object.fromEntries(outcomeSchema.options.map((outcome) => [outcome, 0])) as Record<
    Outcome,
    number
  >;
  for (const item of items) counts[item.outcome] += 1;
  return counts;
}

const drillsRunIn = (facts: FactIndex): Set<string> =>
  new Set([
    ...facts.of('drill-run').map(({ drill }) => drill),
    ...facts.of('link-run').map(({ cell }) => cell.procedure),
    ...facts.of('push-token').map(({ cell }) => cell.procedure),
    ...facts.of('push-run').map(({ cell }) => cell.procedure),
    ...facts.of('purchase-history').map(({ cell }) => cell.procedure),
    ...facts.of('ad-session').map(({ cell }) => cell.procedure),
  ]);

function latestOf({ latestKnown = '', now, rulings }: JudgeInput): string {
  const today = now.slice(0, 10);
  const decided = [...rulings.rulings, ...rulings.signOffs]
    .map(({ at }) => at)
    .filter((at) => at > today)
    .map((at) => `${at}T00:00:00.000Z`);
  return [now, latestKnown, ...decided].reduce((a, b) => (a > b ? a : b));
}

/** The last that was offered counts. */
function offersIn(facts: FactIndex): Pick<Judgement, 'offers'> {
  const offers = new Map(
    facts
      .of('store-offer')
      .toSorted((a, b) => a.at.localeCompare(b.at))
      .map(({ amount, currency, price, product }) => [
        `${product} ${currency}`,
        { product, currency, amount, price },
      ]),
  );
  return offers.size > 0 ? { offers: [...offers.values()] } : {};
}
