/** What every report says, in the order in which it should be read. */

import { outcomeOf } from '../checklist/apply-rulings.ts';
import { NO_PLAN } from '../checklist/judge-items.ts';
import { formatCell } from '../model/cell.ts';
import { type Area, areas } from '../model/checklist.ts';
import { type Finding, type Occurrence, rankOfPriority } from '../model/finding.ts';
import type { ItemOutcome, Judgement } from '../model/judgement.ts';
import { type Outcome, worstFirst, worstOf } from '../model/outcome.ts';

export const areaTitle: Record<Area, string> = {
  candidate: 'Candidate',
  accessibility: 'Accessibility',
  contrast: 'Contrast',
  localization: 'Localization',
  resources: 'Per-device resources',
  lifecycle: 'Lifecycle and state',
  links: 'Deep links',
  push: 'Push notifications',
  purchases: 'In-app purchases',
  ads: 'Ads',
  ratings: 'Ratings prompt',
  quality: 'Quality',
  listing: 'Store listing',
};

/** Findings of one cause, the worst one first. */
export type CardOutline = readonly [Finding, ...Finding[]];

export interface AreaOutline {
  area: Area;
  counts: { outcome: Outcome; count: number }[];
  items: { item: ItemOutcome; cards: CardOutline[] }[];
  /** What several of its items lack alike. */
  note?: string;
}

/** Areas in the order of work, the ones in trouble first; within each, the worst items first. */
export function outlineAreas(judgement: Judgement): AreaOutline[] {
  return areas
    .map((area) => {
      const items = judgement.items.filter((item) => item.area === area);
      return {
        area,
        counts: countOutcomes(items),
        items: items
          .map((item) => ({
            item,
            cards: cardsOf(item, judgement),
          }))
          .sort((a, b) => rankItem(a.item) - rankItem(b.item)),
        ...sharedReason(items),
      };
    })
    .filter(({ items }) => items.length > 0)
    .sort((a, b) => rankArea(a) - rankArea(b));
}

/** Said of the area, where it would be said of each of several items. */
function sharedReason(items: readonly ItemOutcome[]): Pick<AreaOutline, 'note'> {
  const count = items.filter(({ why }) => why.endsWith(NO_PLAN)).length;
  return count > 1
    ? {
        note: `${NO_PLAN[0]!.toUpperCase()}${NO_PLAN.slice(1, -1)}: ${count} items here stay untested for it.`,
      }
    : {};
}

/** Without what the area's note says already. */
export const ownReason = ({ why }: ItemOutcome, { note }: Pick<AreaOutline, 'note'>): string =>
  note && why.endsWith(NO_PLAN) ? why.replace(`, but ${NO_PLAN}`, '.') : why;

const countOutcomes = (items: readonly ItemOutcome[]) =>
  worstFirst
    .map((outcome) => ({ outcome, count: items.filter((item) => item.outcome === outcome).length }))
    .filter(({ count }) => count > 0);

const rankItem = (item: ItemOutcome): number =>
  worstFirst.indexOf(item.outcome) * 2 + (item.level === 'blocking' ? 0 : 1);

/** Only what failed or cannot be told moves an area up; the rest keep the order of work. */
const rankArea = ({ items }: AreaOutline): number => {
  const worst = worstOf(items.map(({ item }) => item.outcome));
  return worst === 'failed' ? 0 : worst === 'cantTell' ? 1 : 2;
};

/** The cards of an item, the worst first. */
function cardsOf(item: ItemOutcome, { cards, findings, strict }: Judgement): CardOutline[] {
  const own = new Set(item.findings);
  const byId = new Map(findings.map((finding) => [finding.id, finding]));
  return cards
    .filter((card) => card.findings.some((id) => own.has(id)))
    .map((card) => card.findings.map((id) => byId.get(id)!) as unknown as CardOutline)
    .sort(
      ([a], [b]) =>
        worstFirst.indexOf(outcomeOf(a, strict)) - worstFirst.indexOf(outcomeOf(b, strict)) ||
        b.severity - a.severity,
    );
}

/** The verdict as a sentence. */
export function formatVerdict({ items, verdict }: Judgement): string {
  const count = (...outcomes: Outcome[]) =>
    items.filter((item) => item.level === 'blocking' && outcomes.includes(item.outcome)).length;
  const open = count('cantTell', 'untested');
  const undecided = `${open} blocking ${plural(open, 'item is', 'items are')} undecided`;
  switch (verdict) {
    case 'blocked':
      return `Blocked: ${count('failed')} blocking ${plural(count('failed'), 'item', 'items')} failed${open > 0 ? `, and ${undecided}` : ''}.`;
    case 'open':
      return `Open: nothing blocking failed, but ${undecided}.`;
    case 'clear':
      return 'Clear: every blocking item is decided, and none failed.';
    default:
      return verdict satisfies never;
  }
}

interface NextStep {
  outcome: Outcome;
  words: string;
  /** The finding to look at, where it is about one. */
  finding?: string;
  command?: string;
}

/**
 * What to do next, worst first: fix what failed, rule on what cannot be told, then show what nobody has looked at.
 *
 * @param limit of steps that are told one by one; of the rest only how many
 */
export function nextSteps(judgement: Judgement, limit = 12): NextStep[] {
  const cantTell = judgement.items.filter((item) => item.outcome === 'cantTell');
  const waiting = judgement.items.filter((item) => item.outcome === 'untested' && item.level === 'blocking');
  const isOpen = ([first]: CardOutline) => outcomeOf(first, judgement.strict) !== 'passed';
  const worstCard = (item: ItemOutcome, wanted: Outcome) =>
    cardsOf(item, judgement).find(([first]) => outcomeOf(first, judgement.strict) === wanted);

  const rankOf = (card: readonly Finding[] | undefined) => rankOfPriority(card?.[0]?.priority ?? 'harder');
  const failed = judgement.items
    .filter((item) => item.outcome === 'failed')
    .map((item) => ({ item, card: worstCard(item, 'failed') }))
    .sort((a, b) => rankItem(a.item) - rankItem(b.item) || rankOf(a.card) - rankOf(b.card));
  const steps: NextStep[] = failed.slice(0, limit).map(({ card, item }) => {
    if (!card) return { outcome: 'failed', words: `${item.shows} ${item.why}` };
    const [{ id, words }] = card;
    const more = cardsOf(item, judgement).filter(isOpen).length - 1;
    return {
      outcome: 'failed',
      words: `${words.what}${formatPlaceOf(card)}${more > 0 ? `; ${more} more like it` : ''}. ${words.remedy}`,
      finding: id,
    };
  });
  const rest = failed.length - steps.length;
  if (rest > 0)
    steps.push({
      outcome: 'failed',
      words: `Then ${rest} more ${plural(rest, 'item that failed, which stands', 'items that failed, which stand')} below by area.`,
    });
  const undecided = cantTell.flatMap((item) => {
    const card = worstCard(item, 'cantTell');
    return card ? [card] : [];
  });
  for (const card of undecided.slice(0, Math.max(1, limit - steps.length))) {
    const [{ id, words }] = card;
    steps.push({
      outcome: 'cantTell',
      words: `Look, then rule: ${lowerFirst(words.what)}${formatPlaceOf(card)}.`,
      finding: id,
      command: `fenlok rule ${id} --as false-alarm --why "…"`,
    });
  }
  const [first] = waiting;
  if (first)
    steps.push({
      outcome: 'untested',
      words: `Show what nobody has looked at: ${waiting.length} blocking items, the first: ${first.shows}`,
      command: `fenlok sign ${first.id} --as passed --why "…"`,
    });
  return steps;
}

function formatPlaceOf([{ identity }, ...others]: CardOutline): string {
  const places = others.length > 0 ? `, ${others.length + 1} places` : '';
  return identity.screen ? ` (${identity.screen}${places})` : '';
}

/** The other places of a card, each with what tells it from the first. */
export const formatOthers = ([first, ...others]: CardOutline): string[] =>
  others.map((finding) => {
    const measured = finding.words.measured === first.words.measured ? '' : `: ${finding.words.measured}`;
    return `${finding.id}  ${formatElement(finding)}${measured}`;
  });

const formatElement = ({ identity: { row, subject }, occurrences }: Finding): string => {
  const { shown } = occurrences[0]!;
  const name = row === undefined ? subject : `${subject}, row ${row}`;
  return shown && shown !== subject
    ? `${name} “${shown.length > 40 ? `${shown.slice(0, 39)}…` : shown}”`
    : name;
};

/** Where a finding was seen: its worst place, and how many more there are. */
export function formatPlaces(finding: Finding): string {
  const { occurrences, identity } = finding;
  const first = occurrences[0]!;
  if (!first.cell) return [formatFile(first), identity.subject].filter(Boolean).join(', ');
  const cells = new Set(occurrences.map(({ cell }) => cell && formatCell(cell)));
  const more =
    occurrences.length > 1
      ? `; seen ${occurrences.length} times in ${cells.size} ${plural(cells.size, 'capture', 'captures')}`
      : '';
  const row = identity.row === undefined ? '' : `, row ${identity.row}`;
  return `${formatCell(first.cell)}, ${identity.subject}${row}${more}`;
}

/** `res/values-de/strings.xml:12`, of a finding in a file. */
const formatFile = ({ data }: Occurrence): string =>
  typeof data.file === 'string' ? `${data.file}${data.line ? `:${data.line}` : ''}` : '';

/** What a reader must know besides: rulings that lapsed, evidence that is only asserted, items switched off. */
export function formatNotes({
  assertedEvidence,
  judgedAt,
  lapsed,
  lapsedSignOffs,
  latestKnown,
  ownChecks,
  switchedOff,
}: Judgement): string[] {
  return [
    ...(latestKnown
      ? [
          `The clock of this computer says ${judgedAt.slice(0, 10)}, yet something here is of ${latestKnown.slice(0, 10)}: rulings lapse by the later date.`,
        ]
      : []),
    ...lapsed.map(
      ({ ruling, why }) =>
        `Ruling on ${ruling.finding} has lapsed: ${why}. It is kept in the file. (${ruling.about})`,
    ),
    ...lapsedSignOffs.map(
      ({ signOff, why }) => `Sign-off of ${signOff.item} by ${signOff.by} has lapsed: ${why}.`,
    ),
    ...ownChecks.map(({ check, module }) => `The check ${check} is your own, from ${module}.`),
    ...(assertedEvidence > 0
      ? [
          `${assertedEvidence} ${plural(assertedEvidence, 'capture is', 'captures are')} bound to this build only by a person's word.`,
        ]
      : []),
    ...switchedOff.map(({ item, why }) => `${item} is switched off: ${why}`),
  ];
}

export const plural = (n: number, one: string, many: string): string => (n === 1 ? one : many);

/** A name that has capitals within, such as a class, stays as it is written. */
const lowerFirst = (text: string): string =>
  /^\p{Lu}[\p{Ll}'’]*(?![\p{L}\p{N}_.])/u.test(text) ? text.charAt(0).toLowerCase() + text.slice(1) : text;
