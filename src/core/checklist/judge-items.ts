import type { Platform } from '../model/candidate.ts';
import type { Item } from '../model/checklist.ts';
import { drillIds, isDriven, isScreenDrill } from '../model/drill.ts';
import { factSources } from '../model/fact-sources.ts';
import type { Finding } from '../model/finding.ts';
import type { CoverageCell, ItemOutcome } from '../model/judgement.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import type { SignOff } from '../model/ruling.ts';
import { outcomeOf } from './apply-rulings.ts';
import type { CheckReport } from './collect-findings.ts';
import { groupCards } from './group-cards.ts';

interface ItemEvidence {
  reports: readonly CheckReport[];
  signOffs: ReadonlyMap<string, SignOff>;
  coverage: readonly CoverageCell[];
  drills: readonly CoverageCell[];
  /** Ids of drills of which there is a run. */
  drillsRun: ReadonlySet<string>;
  platform: Platform;
  strict: boolean;
}

/** One part of what an item rests on: checks, a drill, a person. */
interface Part {
  outcome: Outcome;
  why: string;
  findings: string[];
}

/** The outcome of every item: the worst of what shows it. */
export function judgeItems(items: readonly Item[], evidence: ItemEvidence): ItemOutcome[] {
  return items.map((item) => {
    const parts = item.platforms.includes(evidence.platform)
      ? partsOf(item, evidence)
      : [{ outcome: 'inapplicable' as const, why: `Only on ${item.platforms.join(', ')}.`, findings: [] }];
    const outcome = worstOf(parts.map((part) => part.outcome)) ?? 'untested';
    return {
      id: item.id,
      area: item.area,
      shows: item.shows,
      level: item.level,
      outcome,
      why:
        parts
          .filter((part) => part.outcome === outcome)
          .map((part) => part.why)
          .join(' ') || 'Nothing shows this yet.',
      findings: [...new Set(parts.flatMap((part) => part.findings))],
      by: item.by,
    };
  });
}

function partsOf(item: Item, evidence: ItemEvidence): Part[] {
  const signOff = evidence.signOffs.get(item.id);
  const { drill } = item.by;
  // of what a drill on every screen shows only its own runs count, and they are told with it
  const byDrill = drill !== undefined && isScreenDrill(drill);
  const wasRun = drill !== undefined && evidence.drillsRun.has(drill);
  const named = item.by.checks.map((id) => evidence.reports.find((report) => report.check.id === id)!);
  const reports = named.filter(
    ({ check }) => !(byDrill && check.needs === 'drill-run') && (wasRun || !readsRuns(check)),
  );
  const parts = reports.length > 0 ? [checksPart(reports, evidence)] : [];
  if (signOff)
    parts.push({
      outcome: signOff.outcome,
      why: `Signed by ${signOff.by} on ${signOff.at}: ${signOff.why}${attachedWords(signOff)}`,
      findings: [],
    });
  // checks that read what it wrote say what came of it
  else if (drill !== undefined && !(wasRun && named.some(({ check }) => readsRuns(check))))
    parts.push(drillPart(drill, item.by.procedures, evidence));
  else if (item.by.person)
    parts.push({
      outcome: 'untested',
      why: `Waits for a person to look and sign: fenlok sign ${item.id}`,
      findings: [],
    });
  return parts;
}

const attachedWords = ({ attached = [] }: SignOff): string =>
  attached.length > 0 ? ` (with ${attached.join(', ')})` : '';

const readsRuns = ({ needs }: CheckReport['check']): boolean => factSources[needs].isRun === true;

function checksPart(reports: readonly CheckReport[], { coverage, strict }: ItemEvidence): Part {
  const findings = reports.flatMap((report) => report.findings);
  const passed = reports.reduce((sum, report) => sum + report.passed, 0);
  const open = findings.filter((finding) => outcomeOf(finding, strict) !== 'passed');
  const ids = findings.map(({ id }) => id);
  const failing = open.filter((finding) => outcomeOf(finding, strict) === 'failed');
  const undecided = open.filter((finding) => outcomeOf(finding, strict) !== 'failed');
  if (failing.length > 0)
    return {
      outcome: 'failed',
      why: `${formatCauses(failing, strict)}.${undecided.length > 0 ? ` ${formatCauses(undecided, strict)} to rule on.` : ''}`,
      findings: ids,
    };
  if (open.length > 0)
    return {
      outcome: 'cantTell',
      why: `${formatCauses(open, strict)} to rule on.`,
      findings: ids,
    };
  const needCaptures = reports.some((report) => report.check.needs === 'capture');
  const without = reports.find((report) => !report.hadFacts)?.check.needs;
  if (without) return { outcome: 'untested', why: factSources[without].missing, findings: ids };
  const gap = needCaptures ? formatGap(coverage) : undefined;
  if (gap) return { outcome: 'untested', why: `${passed} looked at and passed, but ${gap}`, findings: ids };
  const unseen = [...new Set(reports.flatMap((report) => report.unseen))];
  if (unseen.length > 0)
    return {
      outcome: 'untested',
      why: `${passed > 0 ? `${passed} looked at and passed, but ` : 'Not looked at: '}${unseen.join('; ')}.`,
      findings: ids,
    };
  const missingEvidence = [...new Set(reports.flatMap((report) => report.missingEvidence))];
  if (missingEvidence.length > 0)
    return {
      outcome: 'untested',
      why: needCaptures
        ? `${passed > 0 ? `${passed} looked at and passed, but some` : 'The'} captures do not carry ${missingEvidence.join(', ')}: see docs/captures.md for those that do.`
        : reports.some(({ check }) => readsRuns(check))
          ? `${passed} passed, but nobody has seen ${missingEvidence.join(', ')}.`
          : `Nobody has added ${missingEvidence.join(', ')}: fenlok add FILE.`,
      findings: ids,
    };
  if (passed + findings.length === 0)
    return { outcome: 'inapplicable', why: 'There is nothing of the kind in this candidate.', findings: ids };
  const ruled = findings.length > 0 ? `, ${count(findings.length, 'finding')} ruled on` : '';
  return { outcome: 'passed', why: `${passed} looked at${ruled}.`, findings: ids };
}

/** `2 findings in 7 places`. */
function formatCauses(findings: readonly Finding[], strict: boolean): string {
  const cards = groupCards(findings, strict).length;
  const places = cards < findings.length ? ` in ${findings.length} places` : '';
  return `${count(cards, 'finding')}${places}`;
}

/** Whether the drill was run where it should have been, and what was found by it. */
function drillPart(drill: string, procedures: readonly string[], evidence: ItemEvidence): Part {
  const { coverage, drills, drillsRun, platform } = evidence;
  const untested = (why: string): Part => ({ outcome: 'untested', why, findings: [] });
  if (!isDriven(drill, platform))
    return untested('No drill does it on iOS yet: a person does, and signs (docs/ios.md).');
  if (drill === 'capture-sweep') {
    const gap = formatGap(coverage);
    if (gap) return untested(`${gap.charAt(0).toUpperCase()}${gap.slice(1)}`);
    const without = procedures.find((procedure) => !isCaptured(procedure, coverage));
    if (without)
      return untested(
        `Not captured under the setting ${without}, or not on every screen that fenlok.yaml plans for it: coverage with procedure: ${without}.`,
      );
    return { outcome: 'passed', why: 'All planned cells are captured.', findings: [] };
  }
  const notRun = `Not run yet: fenlok drill ${drill}`;
  if (!isDrill(drill))
    return untested(`Needs the drill "${drill}", which this version cannot run; a person can sign for it.`);
  if (!isScreenDrill(drill)) return drillsRun.has(drill) ? foundBy(drill, evidence) : untested(notRun);
  const cells = drills.filter(({ cell }) => cell.procedure === drill);
  if (cells.length === 0) return untested(`${notRun} (no screens are named in fenlok.yaml).`);
  const findings = cells.flatMap((cell) => cell.findings);
  const outcome = worstOf(cells.map((cell) => cell.outcome)) ?? 'untested';
  const of = cells.filter((cell) => cell.outcome === outcome);
  const onScreens = of.map(({ cell }) => cell.screen).join(', ');
  const invalid = cells.find(({ why }) => why);
  const loud = invalid?.why ? ` On ${invalid.cell.screen}: ${invalid.why}` : '';
  if (outcome === 'untested')
    return {
      outcome,
      why: invalid
        ? `Undecided on ${onScreens}.${loud}`
        : of.length === cells.length
          ? notRun
          : `${notRun} (missing: ${onScreens}).`,
      findings,
    };
  if (outcome === 'passed') return { outcome, why: `${cells.length} screens passed.`, findings };
  return {
    outcome,
    why: `${outcome === 'failed' ? 'Fails' : 'Undecided'} on ${onScreens}.${loud}`,
    findings,
  };
}

function foundBy(drill: string, { reports, strict }: ItemEvidence): Part {
  const findings = reports
    .flatMap((report) => report.findings)
    .filter(({ occurrences }) => occurrences.some(({ cell }) => cell?.procedure === drill));
  const outcome = worstOf([...findings.map((finding) => outcomeOf(finding, strict)), 'passed']) ?? 'passed';
  const why =
    findings.length > 0
      ? `It was run, with ${count(findings.length, 'finding')}.`
      : 'It was run, and found nothing.';
  return { outcome, why, findings: findings.map(({ id }) => id) };
}

/** Somewhere, and wherever it is planned. */
function isCaptured(procedure: string, coverage: readonly CoverageCell[]): boolean {
  const cells = coverage.filter(({ cell }) => cell.procedure === procedure);
  return cells.length > 0 && cells.every(({ outcome }) => outcome !== 'untested');
}

const isDrill = (id: string): boolean => (drillIds as readonly string[]).includes(id);

/** What many items of an area lack alike: reports say it once. */
export const NO_PLAN = 'no coverage is planned in fenlok.yaml, so nobody knows which screens are missing.';

/** Why captures do not yet show an item for the whole app. */
function formatGap(coverage: readonly CoverageCell[]): string | undefined {
  const planned = coverage.filter((cell) => cell.planned && cell.cell.procedure === 'as-is');
  if (planned.length === 0) return NO_PLAN;
  const missing = planned.filter((cell) => cell.outcome === 'untested').map(({ cell }) => cell);
  const first = missing[0];
  return (
    first &&
    `${missing.length} of ${planned.length} planned cells have no capture, the first: ${first.screen}, ${first.theme}, ${first.locale}.`
  );
}

const count = (n: number, noun: string): string => `${n} ${noun}${n === 1 ? '' : 's'}`;
