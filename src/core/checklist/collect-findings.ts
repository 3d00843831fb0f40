import { type Assertion, type Check, type Draft, type FactIndex, factsFor } from '../areas/check.ts';
import type { PackagePart } from '../model/app-package.ts';
import { type Cell, formatCell } from '../model/cell.ts';
import type { FactKind } from '../model/fact.ts';
import { factSources } from '../model/fact-sources.ts';
import type { Finding, FindingData } from '../model/finding.ts';
import type { Intent } from '../model/intent.ts';
import type { ToolkitName } from '../model/made-with.ts';
import { LOOKS_UP_BY_NAME, TEXTS_ELSEWHERE } from '../platform/app-toolkits.ts';
import { findingDigest, findingId } from './finding-id.ts';
import { listRows } from './list-rows.ts';

/** What one check said: its findings, and how many subjects passed or did not apply. */
export interface CheckReport {
  check: Check;
  findings: Finding[];
  passed: number;
  inapplicable: number;
  /** What some evidence would have to carry, for the check to look at it. */
  missingEvidence: string[];
  /** The same, of what is bound to no cell. */
  missingAtLarge: string[];
  /** Why some of what it looks for is out of its sight, each as a clause. */
  unseen: string[];
  /** Where it decided on something; and where the evidence lacked something. */
  decidedIn: Cell[];
  lackingIn: Cell[];
  hadFacts: boolean;
}

/** Runs the checks; drafts of one identity become one finding, worst occurrence first. */
export function collectFindings(checks: readonly Check[], facts: FactIndex, intent: Intent): CheckReport[] {
  return checks.map((check) => {
    // without the evidence that it needs, a check has nothing to say
    const had = hadFacts(check, facts);
    const assertions = had ? [...check.run(factsFor(check, facts), intent), ...blindSpots(check, facts)] : [];
    const count = (outcome: Assertion['outcome']) =>
      assertions.reduce(
        (sum, assertion) =>
          sum + (assertion.outcome === outcome ? ('count' in assertion ? (assertion.count ?? 1) : 1) : 0),
        0,
      );
    const drafts = assertions.flatMap((assertion) => ('draft' in assertion ? [assertion.draft] : []));
    const lacking = assertions.flatMap((of) => ('missingEvidence' in of ? [of] : []));
    return {
      check,
      findings: groupDrafts(check, drafts, facts, intent),
      passed: count('passed'),
      inapplicable: count('inapplicable'),
      missingEvidence: unique(lacking.map(({ missingEvidence }) => missingEvidence)),
      missingAtLarge: unique(lacking.flatMap(({ cell, missingEvidence }) => (cell ? [] : [missingEvidence]))),
      unseen: unique(assertions.flatMap((assertion) => ('because' in assertion ? [assertion.because] : []))),
      decidedIn: assertions.flatMap((of) => (of.outcome !== 'untested' && of.cell ? [of.cell] : [])),
      lackingIn: lacking.flatMap(({ cell }) => cell ?? []),
      hadFacts: had,
    };
  });
}

const unique = (words: readonly string[]): string[] => [...new Set(words)];

/**
 * Captures of one surface, such as a game's, with nothing inside that a check of elements could look at; and those whose
 * picture shows another moment, for checks that look at it.
 */
function blindSpots(check: Check, facts: FactIndex): Assertion[] {
  const kinds = [check.needs, ...check.reads];
  if (!kinds.includes('capture')) return [...lostParts(kinds, facts), ...otherPlaces(kinds, facts)];
  // where a capture comes from can be told whatever is in it
  if (kinds.length === 1) return [];
  const surfaces = facts.of('capture').filter(({ toolkit }) => toolkit === 'surface');
  const others = kinds.some((kind) => factSources[kind].isPictured) ? facts.of('unread-part') : [];
  return [
    ...surfaces.map(
      ({ cell }): Assertion => ({
        outcome: 'untested',
        cell,
        missingEvidence: 'elements (the screen is one surface)',
      }),
    ),
    ...others.flatMap(({ cell }): Assertion[] =>
      cell
        ? [{ outcome: 'untested', cell, missingEvidence: 'a picture of the same moment as their tree' }]
        : [],
    ),
  ];
}

/** Parts of the package that could not be read, for checks that look for something in them: none found proves nothing. */
function lostParts(kinds: readonly FactKind[], facts: FactIndex): Assertion[] {
  const matters = kinds.flatMap((kind) => factSources[kind].foundIn ?? []);
  const lost = facts
    .of('unread-part')
    .find(({ cell, isOdd, place }) => !cell && !isOdd && matters.some((pattern) => pattern.test(place)));
  if (lost) return [{ outcome: 'untested', because: `${lost.place} could not be read` }];
  const leftOut = facts.of('package').flatMap((of) => of.leftOut ?? []);
  const part = kinds.map((kind) => factSources[kind].part).find((one) => one && leftOut.includes(one));
  return part ? [{ outcome: 'untested', because: `the package was read without its ${PARTS[part]}` }] : [];
}

const PARTS: Record<PackagePart, string> = {
  texts: 'texts',
  unusedResources: 'unused resources',
  colourPairs: 'colours',
  classNames: 'classes',
  codeUse: 'calls',
  namedColours: 'named colours',
  layoutViews: 'layouts',
  variants: 'variants of resources',
  assetTexts: 'texts among the assets',
};

/** What toolkits keep where no reader of resources finds it. */
function otherPlaces(kinds: readonly FactKind[], facts: FactIndex): Assertion[] {
  const toolkits = facts.of('package').flatMap((of) => of.toolkits ?? []);
  const found: Assertion[] = [];
  const hasCatalogues = () => facts.of('catalogue-text').some(({ catalogue }) => catalogue !== '');
  for (const toolkit of toolkits) {
    const texts = TEXTS_ELSEWHERE[toolkit];
    if (texts && kinds.includes('catalogue-text') && !hasCatalogues())
      found.push({
        outcome: 'untested',
        because: `the texts of ${formatApp(toolkit)} stand in ${texts.where}: add ${texts.add}`,
      });
    if (kinds.includes('unused-resource') && LOOKS_UP_BY_NAME.has(toolkit))
      found.push({
        outcome: 'untested',
        because: `${toolkit} looks resources up by their names, so that what is not used cannot be told`,
      });
  }
  return found;
}

const formatApp = (toolkit: ToolkitName): string =>
  toolkit === 'a web view shell'
    ? 'an app in a web view'
    : `${/^[AEIOU.]/.test(toolkit) ? 'an' : 'a'} ${toolkit} app`;

/** Whether evidence of the sort that a check reads was there, whatever was found in it. */
export const hadFacts = ({ needs }: Check, facts: FactIndex): boolean => facts.of(needs).length > 0;

function groupDrafts(check: Check, drafts: readonly Draft[], facts: FactIndex, intent: Intent): Finding[] {
  const groups = groupBy(drafts, ({ identity }) => findingId(check.id, identity));
  return [...groups]
    .flatMap(([id, group]): Finding[] => {
      if (!rowsDiffer(group)) return [findingOf(check, group, intent.sourceLocale)];
      const former = { id, digest: findingDigest(group.map(({ digest }) => digest)) };
      const { rowOf } = facts.once(listRows, intent);
      const rows = groupBy(group, ({ occurrence }) => String(rowOf(group[0]!.identity.subject, occurrence)));
      return [...rows].map(([row, ofRow]) => ({
        ...findingOf(
          check,
          ofRow.map((draft) => ({ ...draft, identity: { ...draft.identity, row: Number(row) } })),
          intent.sourceLocale,
        ),
        former,
      }));
    })
    .sort((a, b) => b.severity - a.severity || (a.id < b.id ? -1 : 1));
}

/** On one capture, several of one key with other values. */
const rowsDiffer = (group: readonly Draft[]): boolean =>
  group.every(({ occurrence }) => occurrence.boundsPx !== undefined) &&
  [...groupBy(group, ({ occurrence }) => occurrence.evidence).values()].some(
    (ofCapture) => new Set(ofCapture.map(({ digest }) => digest)).size > 1,
  );

function groupBy<T>(list: readonly T[], keyOf: (of: T) => string): Map<string, T[]> {
  const groups = new Map<string, T[]>();
  for (const one of list) {
    const group = groups.get(keyOf(one));
    if (group) group.push(one);
    else groups.set(keyOf(one), [one]);
  }
  return groups;
}

function findingOf(check: Check, drafts: readonly Draft[], sourceLocale: string): Finding {
  const sorted = [...drafts].sort(
    (a, b) =>
      rank(b) - rank(a) ||
      b.severity - a.severity ||
      oddness(a, sourceLocale) - oddness(b, sourceLocale) ||
      compare(placeOf(a), placeOf(b)),
  );
  const worst = sorted[0]!;
  const occurrences = sorted.map(({ occurrence }) => ({
    ...occurrence,
    data: withoutUndefined(occurrence.data) as FindingData,
  }));
  const identity = withoutUndefined(worst.identity);
  return {
    id: findingId(check.id, identity),
    check: check.id,
    area: check.area,
    priority: check.priority,
    identity,
    ...(worst.target && { target: worst.target }),
    digest: findingDigest(drafts.map((draft) => draft.digest)),
    ...(worst.cause !== undefined && { cause: worst.cause }),
    ...(worst.formerly && {
      former: {
        id: findingId(check.id, withoutUndefined(worst.formerly)),
        digest: findingDigest(drafts.map((draft) => draft.digest)),
      },
    }),
    basis: worst.basis,
    severity: worst.severity,
    occurrences,
    words: check.words(occurrences[0]!.data, { basis: worst.basis, identity, occurrences }),
  };
}

/** Of occurrences that are equally bad, the one that most of its readers understand comes first. */
const oddness = ({ occurrence: { cell } }: Draft, sourceLocale: string): number =>
  cell
    ? Number(cell.locale !== sourceLocale) * 16 +
      Number(cell.textScale !== 1) * 8 +
      Number(cell.orientation !== 'portrait') * 4 +
      Number(cell.procedure !== 'as-is') * 2 +
      Number(cell.theme !== 'light')
    : 0;

/** In whatever order evidence comes, the same place is named first. */
const placeOf = ({ occurrence: { boundsPx, cell } }: Draft): string =>
  JSON.stringify([cell && formatCell(cell), cell?.device, boundsPx]);
const compare = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0);

/** What is measured stands before what is estimated. */
const rank = (draft: Draft): number => (draft.basis === 'measured' ? 1 : 0);

const withoutUndefined = <T extends object>(value: T): T =>
  Object.fromEntries(Object.entries(value).filter(([, v]) => v !== undefined)) as T;
