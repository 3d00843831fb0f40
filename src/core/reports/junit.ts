/**
 * JUnit XML, in the form of `jenkins-junit.xsd`: an area is a suite, an item a case. A case fails where it makes a CI red, which
 * items that block do unless something else is asked for; what else is not well counts as skipped, with the reason as its text.
 */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import { formatCell } from '../model/cell.ts';
import type { ItemOutcome, Judgement, OutcomeTable } from '../model/judgement.ts';
import { escapeMarkup } from './escape.ts';
import { outcomeWord } from './outcome-words.ts';
import { areaTitle, type CardOutline, formatOthers, formatPlaces, outlineAreas } from './outline.ts';
import type { ReportContext } from './report-format.ts';

export function junitReport(
  judgement: Judgement,
  { failOn = 'blocking' }: Partial<ReportContext> = {},
): string {
  const { build } = judgement.candidate;
  const suites = [
    ...outlineAreas(judgement).map(({ area, items }) => ({
      name: areaTitle[area],
      cases: items.map(({ cards, item }) => itemCase(item, cards, judgement.strict, failOn)),
    })),
    { name: 'Coverage', cases: coverageCases(judgement, failOn) },
  ].filter(({ cases }) => cases.length > 0);
  const all = suites.flatMap(({ cases }) => cases);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<testsuites name="${escapeMarkup(`${judgement.candidate.name} ${build.version} (${build.build})`)}" tests="${all.length}" failures="${count(all, 'failure')}" errors="0">`,
    ...suites.flatMap(({ cases, name }) => [
      `  <testsuite name="${name}" timestamp="${judgement.judgedAt.slice(0, 19)}" tests="${cases.length}" failures="${count(cases, 'failure')}" errors="0" skipped="${count(cases, 'skipped')}">`,
      ...cases.map(formatCase),
      '  </testsuite>',
    ]),
    '</testsuites>',
    '',
  ].join('\n');
}

interface Case {
  className: string;
  name: string;
  result: 'passed' | 'skipped' | 'failure';
  /** Of a failure. */
  type?: string;
  /** Why it came out so, in a sentence. */
  why: string;
  /** All that is known of it. */
  details: string;
}

const count = (cases: readonly Case[], wanted: Case['result']): number =>
  cases.filter(({ result }) => result === wanted).length;

function formatCase({ className, details, name, result, type, why }: Case): string {
  const head = `    <testcase classname="${className}" name="${escapeMarkup(name)}"`;
  if (result === 'passed') return `${head} />`;
  const body =
    result === 'failure'
      ? `<failure type="${type}" message="${escapeMarkup(why)}">${escapeMarkup(details)}</failure>`
      : `<skipped>${escapeMarkup(why)}</skipped>\n      <system-out>${escapeMarkup(details || why)}</system-out>`;
  return `${head}>\n      ${body}\n    </testcase>`;
}

function itemCase(item: ItemOutcome, cards: readonly CardOutline[], strict: boolean, failOn: FailOn): Case {
  const isRed =
    item.outcome === 'failed' && (failOn === 'any' || (failOn === 'blocking' && item.level === 'blocking'));
  const wanted = item.outcome === 'failed' ? 'failed' : 'cantTell';
  return {
    className: `fenlok.${item.area}`,
    name: `${item.id}: ${item.shows}`,
    result: item.outcome === 'passed' ? 'passed' : isRed ? 'failure' : 'skipped',
    type: item.level,
    why: isRed ? item.why : `${outcomeWord[item.outcome]} (${item.level}): ${item.why}`,
    details: cards
      .filter(([first]) => outcomeOf(first, strict) === wanted)
      .map(formatCard)
      .join('\n\n'),
  };
}

type FailOn = NonNullable<ReportContext['failOn']>;

/** Screens under their settings, drills on screens, routes, messages, purchases and ads; without what does not apply. */
function coverageCases(judgement: Judgement, failOn: FailOn): Case[] {
  const { ads, coverage, drills, items, messages, purchases, routes } = judgement;
  const blocking = new Set(
    items
      .filter(({ level, outcome }) => level === 'blocking' && outcome === 'failed')
      .flatMap((item) => item.findings),
  );
  const ofTable = ({ columns, rows }: OutcomeTable) =>
    rows.flatMap(({ cells, name }) => cells.map((cell, i) => ({ ...cell, name: `${name}, ${columns[i]}` })));
  return [
    ...[...coverage, ...drills].map(({ cell, ...of }) => ({
      ...of,
      name: formatCell({ ...cell, device: '' }),
    })),
    ...[routes, messages, purchases, ads].flatMap(ofTable),
  ]
    .filter(({ outcome }) => outcome !== 'inapplicable')
    .map(({ findings, name, outcome, why }): Case => {
      const isRed =
        outcome === 'failed' &&
        (failOn === 'any' || (failOn === 'blocking' && findings.some((id) => blocking.has(id))));
      const says = why ?? (findings.length > 0 ? findings.join(', ') : 'no evidence');
      return {
        className: 'fenlok.coverage',
        name,
        result: outcome === 'passed' ? 'passed' : isRed ? 'failure' : 'skipped',
        type: 'coverage',
        why: isRed ? says : `${outcomeWord[outcome]}: ${says}`,
        details: '',
      };
    });
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
