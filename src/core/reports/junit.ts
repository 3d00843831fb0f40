/** JUnit XML: an area is a suite, an item a case. What cannot be told or is untested counts as skipped, since nothing failed. */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { formatCell } from '../model/cell.ts';
import type { ItemOutcome, Judgement, OutcomeTable } from '../model/judgement.ts';
import type { Outcome } from '../model/outcome.ts';
import { escapeMarkup } from './escape.ts';
import { outcomeWord } from './outcome-words.ts';
import {
  type AreaOutline,
  areaTitle,
  type CardOutline,
  formatOthers,
  formatPlaces,
  outlineAreas,
} from './outline.ts';

export function junitReport(judgement: Judgement): string {
  const { build } = judgement.candidate;
  const suites = outlineAreas(judgement).map((area) => suite(area, judgement));
  const cells = casesOf(judgement);
  const all = [...judgement.items, ...cells];
  const failures = all.filter(({ outcome }) => outcome === 'failed').length;
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="${escapeMarkup(`${judgement.candidate.name} ${build.version} (${build.build})`)}" tests="${all.length}" failures="${failures}">`,
    ...suites,
    ...(cells.length > 0 ? [coverageSuite(cells, judgement)] : []),
    '</testsuites>',
    '',
  ].join('\n');
}

function suite({ area, items }: AreaOutline, { judgedAt, strict }: Judgement): string {
  const failures = items.filter(({ item }) => item.outcome === 'failed').length;
  const skipped = items.filter(({ item }) => item.outcome !== 'failed' && item.outcome !== 'passed').length;
  return [
    `  <testsuite name="${areaTitle[area]}" timestamp="${judgedAt.slice(0, 19)}" tests="${items.length}" failures="${failures}" errors="0" skipped="${skipped}">`,
    ...items.map(({ cards, item }) => testCase(item, cards, strict)),
    '  </testsuite>',
  ].join('\n');
}

/** One cell of what was covered, by a name. */
interface CoverageCase {
  name: string;
  outcome: Outcome;
  why?: string;
  findings: string[];
}

/** Screens under their settings, drills on screens, routes, messages, purchases and ads; without what does not apply. */
function casesOf({ ads, coverage, drills, messages, purchases, routes }: Judgement): CoverageCase[] {
  const ofTable = ({ columns, rows }: OutcomeTable): CoverageCase[] =>
    rows.flatMap(({ cells, name }) => cells.map((cell, i) => ({ ...cell, name: `${name}, ${columns[i]}` })));
  return [
    ...[...coverage, ...drills].map(({ cell, findings, outcome, why }) => ({
      name: formatCell({ ...cell, device: '' }),
      outcome,
      why,
      findings,
    })),
    ...[routes, messages, purchases, ads].flatMap(ofTable),
  ].filter(({ outcome }) => outcome !== 'inapplicable');
}

function coverageSuite(cells: readonly CoverageCase[], { judgedAt }: Judgement): string {
  const count = (...outcomes: Outcome[]) => cells.filter(({ outcome }) => outcomes.includes(outcome)).length;
  const failures = count('failed');
  return [
    `  <testsuite name="Coverage" timestamp="${judgedAt.slice(0, 19)}" tests="${cells.length}" failures="${failures}" errors="0" skipped="${cells.length - failures - count('passed')}">`,
    ...cells.map(({ findings, name, outcome, why }) => {
      const head = `    <testcase classname="fenlok.coverage" name="${escapeMarkup(name)}"`;
      const says = escapeMarkup(why ?? (findings.length > 0 ? findings.join(', ') : 'no evidence'));
      if (outcome === 'passed') return `${head} />`;
      return outcome === 'failed'
        ? `${head}>\n      <failure message="${says}" />\n    </testcase>`
        : `${head}>\n      <skipped message="${outcomeWord[outcome]}: ${says}" />\n    </testcase>`;
    }),
    '  </testsuite>',
  ].join('\n');
}

function testCase(item: ItemOutcome, cards: readonly CardOutline[], strict: boolean): string {
  const head = `    <testcase classname="fenlok.${item.area}" name="${escapeMarkup(`${item.id}: ${item.shows}`)}"`;
  if (item.outcome === 'passed') return `${head} />`;
  if (item.outcome !== 'failed')
    return `${head}>\n      <skipped message="${escapeMarkup(`${outcomeWord[item.outcome]}: ${item.why}`)}" />\n    </testcase>`;
  const details = cards.filter(([first]) => outcomeOf(first, strict) === 'failed').map(formatCard);
  return `${head}>\n      <failure type="${item.level}" message="${escapeMarkup(item.why)}">${escapeMarkup(details.join('\n\n'))}</failure>\n    </testcase>`;
}

function formatCard(card: CardOutline): string {
  const [finding] = card;
  return [
    `${finding.id}  ${finding.words.what}`,
    `where: ${formatPlaces(finding)}`,
    ...formatOthers(card).map((other) => `and: ${other}`),
    `measured: ${finding.words.measured}`,
    `required: ${finding.words.required}`,
    `why: ${finding.words.why}`,
    `do: ${finding.words.remedy}`,
  ].join('\n');
}
