import type { BuildKey } from '../../model/candidate.ts';
import { formatCell } from '../../model/cell.ts';
import { type Change, type ComparedFinding, type Comparison, changes } from '../../model/comparison.ts';
import { type Finding, rankOfPriority } from '../../model/finding.ts';
import type { Judgement, OutcomeTable } from '../../model/judgement.ts';
import type { Looked } from '../../model/looked.ts';
import { outcomeOf } from '../apply-rulings.ts';
import { Look, whyNotLooked } from './looked-again.ts';
import { matchRenamed } from './match-renamed.ts';

/** A judgement that says what it looked at. */
export type ComparableJudgement = Judgement & { looked: Looked };

export const isComparable = (judgement: Judgement): judgement is ComparableJudgement =>
  judgement.looked !== undefined;

/**
 * Holds a later candidate against an earlier one of the same app.
 *
 * A finding is *fixed* only where the later one was looked at again, by the same check, and *new* only where the earlier
 * one was; what cannot be said is told as that. What goes by another name is matched by what stays the same, which is a guess.
 */
export function compareJudgements(before: ComparableJudgement, after: ComparableJudgement): Comparison {
  const looks = { before: new Look(before.looked), after: new Look(after.looked) };
  const findings = compareFindings(before, after, looks).sort(worstFirst);
  const counts = Object.fromEntries(changes.map((change) => [change, 0])) as Record<Change, number>;
  for (const { change } of findings) counts[change] += 1;
  const items = compareItems(before, after);
  return {
    fenlok: 'comparison/1',
    before: sideOf(before),
    after: sideOf(after),
    isWorse:
      findings.some(
        ({ after: now, change }) => (change === 'new' || change === 'worse') && now?.outcome === 'failed',
      ) ||
      items.some((item) => item.after === 'failed' && item.before !== 'failed' && item.before !== 'untested'),
    counts,
    findings,
    items,
    coverage: compareCoverage(before, after),
    rulings: compareRulings(before, after, findings),
    signOffsToRenew: after.lapsedSignOffs
      .filter(({ signOff }) => isSame(signOff.build, before.candidate.build))
      .map(({ signOff: { by, item }, why: because }) => ({ item, by, because })),
  };
}

const isSame = (a: BuildKey, b: BuildKey): boolean => a.build === b.build && a.code === b.code;

const sideOf = ({
  candidate: { build, name, platform },
  judgedAt,
  verdict,
}: Judgement): Comparison['before'] => ({
  platform,
  name,
  build,
  judgedAt,
  verdict,
});

interface Looks {
  before: Look;
  after: Look;
}

function compareFindings(before: Judgement, after: Judgement, looks: Looks): ComparedFinding[] {
  const earlier = new Map(before.findings.map((finding) => [nameOf(finding, before), finding]));
  const later = new Map(after.findings.map((finding) => [nameOf(finding, after), finding]));
  const both = [...later].flatMap(([name, finding]) => {
    const same = earlier.get(name);
    return same ? [toCompared(same, finding, after.strict, changeOf(same, finding))] : [];
  });
  const gone = [...earlier].flatMap(([name, finding]) => (later.has(name) ? [] : [finding]));
  const come = [...later].flatMap(([name, finding]) => (earlier.has(name) ? [] : [finding]));
  const renamed = matchRenamed(gone, come, looks.before, looks.after);
  const matched = new Set(renamed.flatMap((pair) => [pair.before, pair.after]));
  return [
    ...both,
    ...renamed.map((pair) =>
      toCompared(pair.before, pair.after, after.strict, [
        'moved',
        `the same by its ${pair.by}, which is a guess`,
      ]),
    ),
    ...gone
      .filter((finding) => !matched.has(finding))
      .map((finding) =>
        toCompared(
          finding,
          undefined,
          after.strict,
          whatBecame(finding, looks.before, looks.after, 'fixed', after),
        ),
      ),
    ...come
      .filter((finding) => !matched.has(finding))
      .map((finding) =>
        toCompared(
          undefined,
          finding,
          after.strict,
          whatBecame(finding, looks.after, looks.before, 'new', before),
        ),
      ),
  ];
}

/** Names a finding in both candidates, also where their app id differs by a suffix. */
function nameOf({ check, identity }: Finding, { candidate }: Judgement): string {
  const plain = (text: string | undefined) => text?.replaceAll(candidate.build.appId, '*');
  return JSON.stringify([
    check,
    identity.screen,
    plain(identity.subject),
    plain(identity.aspect),
    identity.row,
  ]);
}

/** What is measured may differ by so much in two pictures of the same. */
const SAME_WITHIN = 0.02;

function changeOf(before: Finding, after: Finding): Told {
  if (before.basis !== after.basis)
    return after.basis === 'measured'
      ? ['first-look', 'before, it could not be told for sure whether it fails']
      : ['not-looked-again', 'it cannot be told for sure any more whether it fails'];
  if (before.digest === after.digest || after.basis === 'estimated') return ['unchanged'];
  const more = after.severity - before.severity;
  const least = SAME_WITHIN * Math.max(Math.abs(before.severity), Math.abs(after.severity));
  return [Math.abs(more) <= least ? 'unchanged' : more > 0 ? 'worse' : 'better'];
}

type Told = [change: Change, why?: string];

/** Of a finding of one judgement alone: fixed or new, where the other one was looked at as well. */
function whatBecame(
  finding: Finding,
  of: Look,
  other: Look,
  change: 'fixed' | 'new',
  there: Judgement,
): Told {
  const unseen: Change = change === 'fixed' ? 'not-looked-again' : 'first-look';
  const why = whyNotLooked(finding, of, other);
  if (why) return [unseen, why];
  // rows of a list are told apart by their place alone
  if (finding.identity.row !== undefined && hasRows(finding, there))
    return [unseen, 'other rows of the same list fail there, and which row is which is not known'];
  const limits = of.checks.get(finding.check)?.limits ?? {};
  const asked = other.checks.get(finding.check)?.limits ?? {};
  const changed = Object.keys(limits).find((name) => limits[name] !== asked[name]);
  if (!changed) return [finding.basis === 'measured' ? change : change === 'fixed' ? 'cleared' : 'undecided'];
  const [was, is] = change === 'fixed' ? [limits, asked] : [asked, limits];
  return ['other-limit', `the limit ${changed} was ${was[changed]} and is ${is[changed]}`];
}

const hasRows = ({ check, identity }: Finding, { findings }: Judgement): boolean =>
  findings.some(
    (one) =>
      one.check === check &&
      one.identity.screen === identity.screen &&
      one.identity.subject === identity.subject &&
      one.identity.aspect === identity.aspect,
  );

function toCompared(
  before: Finding | undefined,
  after: Finding | undefined,
  strict: boolean,
  [change, why]: Told,
): ComparedFinding {
  const finding = (after ?? before)!;
  const { area, check, identity, priority, words } = finding;
  const row = identity.row === undefined ? '' : `, row ${identity.row}`;
  return {
    change,
    check,
    area,
    priority,
    where: `${identity.screen ? `${identity.screen}, ` : ''}${identity.subject}${row}`,
    what: words.what,
    ...(before && {
      before: { id: before.id, measured: before.words.measured, basis: before.basis },
    }),
    ...(after && {
      after: {
        id: after.id,
        measured: after.words.measured,
        required: after.words.required,
        remedy: after.words.remedy,
        basis: after.basis,
        outcome: outcomeOf(after, strict),
      },
    }),
    ...(why && { why }),
  };
}

const worstFirst = (a: ComparedFinding, b: ComparedFinding): number =>
  changes.indexOf(a.change) - changes.indexOf(b.change) ||
  Number(b.after?.outcome === 'failed') - Number(a.after?.outcome === 'failed') ||
  rankOfPriority(a.priority) - rankOfPriority(b.priority) ||
  (a.where < b.where ? -1 : a.where > b.where ? 1 : 0) ||
  (a.check < b.check ? -1 : 1);

function compareItems(before: Judgement, after: Judgement): Comparison['items'] {
  const earlier = new Map(before.items.map((item) => [item.id, item]));
  const later = new Map(after.items.map((item) => [item.id, item]));
  return [...new Map([...earlier, ...later]).values()].flatMap(({ area, id, shows }) => {
    const was = earlier.get(id)?.outcome;
    const is = later.get(id)?.outcome;
    return was === is ? [] : [{ id, area, shows, ...(was && { before: was }), ...(is && { after: is }) }];
  });
}

function compareCoverage(before: Judgement, after: Judgement): Comparison['coverage'] {
  const earlier = placesOf(before);
  const later = placesOf(after);
  return {
    gained: [...later].filter((place) => !earlier.has(place)),
    lost: [...earlier].filter((place) => !later.has(place)),
  };
}

/** All that was looked at or tried, in words. */
function placesOf({ ads, coverage, drills, messages, purchases, routes }: Judgement): Set<string> {
  const ofTable = (title: string, { columns, rows }: OutcomeTable) =>
    rows.flatMap(({ cells, name }) =>
      cells.flatMap(({ outcome }, i) =>
        outcome === 'untested' || outcome === 'inapplicable' ? [] : [`${title} ${name}, ${columns[i]}`],
      ),
    );
  return new Set([
    ...[...coverage, ...drills]
      .filter(({ evidence }) => evidence.length > 0)
      .map(({ cell }) => formatCell({ ...cell, device: '' })),
    ...ofTable('link', routes),
    ...ofTable('message', messages),
    ...ofTable('product', purchases),
    ...ofTable('placement', ads),
  ]);
}

function compareRulings(
  before: Judgement,
  after: Judgement,
  findings: readonly ComparedFinding[],
): Comparison['rulings'] {
  const byFormer = new Map(findings.flatMap((one) => (one.before ? [[one.before.id, one] as const] : [])));
  const lapsed = after.lapsed.map(({ ruling: { about, by, finding, ruling, why }, why: because }) => ({
    about,
    by,
    finding,
    ruling,
    why,
    because,
  }));
  const now = new Map(after.findings.map(({ id, ruling }) => [id, ruling]));
  const isFixed = (id: string) => byFormer.get(id)?.change === 'fixed';
  return {
    carried: before.findings.flatMap(({ check, id, ruling }) => {
      const same = now.get(id);
      if (!ruling || same?.ruling !== ruling.ruling) return [];
      return [{ finding: id, about: `${check}: ${byFormer.get(id)!.where}`, ...same }];
    }),
    lapsed: lapsed
      .filter(({ finding }) => !isFixed(finding))
      .map((one) => {
        const now = byFormer.get(one.finding)?.after?.id;
        return now && now !== one.finding ? { ...one, now } : one;
      }),
    notNeeded: lapsed.filter(({ finding }) => isFixed(finding)).map(({ because: _, ...one }) => one),
  };
}
