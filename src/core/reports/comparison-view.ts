/** Two candidates for a terminal: whether the later one is worse, then what changed, what asks for something first. */
import { formatBuild } from '../model/candidate.ts';
import type { Change, ComparedFinding, Comparison } from '../model/comparison.ts';
import type { Outcome } from '../model/outcome.ts';
import { printable } from './escape.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import { plural } from './outline.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

/** What each change is called, what it means where that must be said, and the mark that it stands under. */
export const changeWords: Readonly<Record<Change, { title: string; means?: string; mark: Outcome }>> = {
  new: { title: 'New', means: 'It passed in the candidate before.', mark: 'failed' },
  worse: { title: 'Worse', mark: 'failed' },
  undecided: {
    title: 'New, and only an estimate',
    means: 'It passed in the candidate before; look, then rule.',
    mark: 'cantTell',
  },
  'first-look': {
    title: 'Seen for the first time',
    means: 'The candidate before was not looked at there, so that nobody knows since when it fails.',
    mark: 'cantTell',
  },
  'not-looked-again': {
    title: 'Not looked at again',
    means: 'It failed before, and nobody has looked there since: it is neither fixed nor unchanged.',
    mark: 'untested',
  },
  'other-limit': { title: 'Held against another limit', mark: 'cantTell' },
  moved: { title: 'Under another name', mark: 'failed' },
  unchanged: { title: 'Unchanged', mark: 'failed' },
  better: { title: 'Better, and not good enough', mark: 'failed' },
  cleared: { title: 'Cleared up', means: 'It was an estimate, and passes now.', mark: 'passed' },
  fixed: { title: 'Fixed', mark: 'passed' },
};

/** Told one by one; of the others only how many, unless all are wanted. */
const TOLD: readonly Change[] = ['new', 'worse', 'undecided', 'first-look', 'other-limit', 'moved', 'better'];
const LINES: readonly Change[] = ['fixed', 'cleared'];
const REASONS_SHOWN = 6;
const PLACES_SHOWN = 8;

export function comparisonView(given: Comparison, options: TextOptions): string {
  const comparison = printable(given);
  const { style, widthColumns } = options;
  const { after, before, findings } = comparison;
  const mark: Outcome = comparison.isWorse ? 'failed' : 'passed';
  const sections = [...new Set(findings.map(({ change }) => change))];
  return `${[
    `${style.strong(after.name)}  ${formatBuild(after.build)}`,
    style.faint(`held against ${formatBuild(before.build)}`),
    ...wrap(
      style.outcome(mark, `${outcomeMark[mark]} ${style.strong(formatComparison(comparison))}`),
      widthColumns,
      0,
      2,
    ),
    ...sections.flatMap((change) => sectionLines(change, comparison, options)),
    ...itemLines(comparison, options),
    ...coverageLines(comparison, options),
    ...rulingLines(comparison, options),
    ...clockLines(comparison, options),
  ].join('\n')}\n`;
}

/** The whole of it in a sentence or two. */
export function formatComparison({ after, before, counts, isWorse, items }: Comparison): string {
  const said = (change: Change, words: (n: number) => string) =>
    counts[change] ? [words(counts[change])] : [];
  const bad = [
    ...said('new', (n) => `${n} ${plural(n, 'finding is', 'findings are')} new`),
    ...said('worse', (n) => `${n} ${plural(n, 'is', 'are')} worse`),
  ];
  const failing = items.filter((item) => item.after === 'failed').length;
  if (isWorse && bad.length === 0) bad.push(`${failing} ${plural(failing, 'item fails', 'items fail')} now`);
  const rest = [
    ...said('fixed', (n) => `${n} fixed`),
    ...said('not-looked-again', (n) => `${n} not looked at again`),
  ];
  const verdict =
    after.verdict === before.verdict
      ? `The verdict is ${after.verdict}, as before.`
      : `The verdict was ${before.verdict} and is ${after.verdict}.`;
  const head = isWorse
    ? `Worse: ${bad.join(', ')}`
    : bad.length > 0
      ? `Not worse: ${bad.join(', ')}, and ruled`
      : 'Not worse: nothing measured is new or worse';
  return `${head}${rest.length > 0 ? `; ${rest.join(', ')}` : ''}. ${verdict}`;
}

function sectionLines(change: Change, { findings }: Comparison, options: TextOptions): string[] {
  const { all, style, widthColumns } = options;
  const { mark, means, title } = changeWords[change];
  const own = findings.filter((one) => one.change === change);
  const head = [
    '',
    `${style.outcome(mark, outcomeMark[mark])} ${style.strong(title)}  ${own.length}`,
    ...(means ? wrap(style.faint(means), widthColumns, 2, 2) : []),
  ];
  if (change === 'not-looked-again' && !all) return [...head, ...reasonLines(own, options)];
  if (TOLD.includes(change) || all) return [...head, ...own.flatMap((one) => findingLines(one, options))];
  if (LINES.includes(change)) return [...head, ...own.flatMap((one) => shortLines(one, options))];
  return head;
}

/** Many share a reason, and the reason says what to do. */
function reasonLines(findings: readonly ComparedFinding[], { style, widthColumns }: TextOptions): string[] {
  const byReason = new Map<string, ComparedFinding[]>();
  for (const one of findings) {
    // places differ from finding to finding, what is missing does not
    const reason = (one.why ?? '').replace(/ \(\d+ of its \d+ places\)$/, '');
    byReason.set(reason, [...(byReason.get(reason) ?? []), one]);
  }
  const sorted = [...byReason].sort(([, a], [, b]) => b.length - a.length);
  return [
    ...sorted
      .slice(0, REASONS_SHOWN)
      .flatMap(([reason, of]) =>
        wrap(`${String(of.length).padStart(3)}  ${reason}: ${namesOf(of)}`, widthColumns, 2, 7),
      ),
    ...(sorted.length > REASONS_SHOWN
      ? [`  ${style.faint(`… and ${sorted.length - REASONS_SHOWN} more reasons; --all shows every finding`)}`]
      : []),
  ];
}

const namesOf = (findings: readonly ComparedFinding[]): string => {
  const names = findings.slice(0, 3).map(({ before, check }) => `${before!.id} ${check}`);
  return `${names.join(', ')}${findings.length > 3 ? ' …' : ''}`;
};

function findingLines(one: ComparedFinding, { style, widthColumns }: TextOptions): string[] {
  const { after, before, what, where, why } = one;
  const field = (name: string, text: string) =>
    wrap(`${style.faint(name.padEnd(10))}${text}`, widthColumns, 6, 16);
  const outcome = after?.outcome ?? 'untested';
  const measured = after?.measured ?? before!.measured;
  const differs = before && after && before.measured !== after.measured ? `; before: ${before.measured}` : '';
  const renamed = before && after && before.id !== after.id ? ` ${style.faint(`(was ${before.id})`)}` : '';
  return [
    ...wrap(
      `${style.outcome(outcome, outcomeMark[outcome])} ${style.strong((after ?? before)!.id)}${renamed}  ${what}`,
      widthColumns,
      4,
      6,
    ),
    ...field('where', where),
    ...field((after ?? before)!.basis === 'measured' ? 'measured' : 'estimate', `${measured}${differs}`),
    ...(after ? [...field('required', after.required), ...field('do', after.remedy)] : []),
    ...(why ? field('because', why) : []),
  ];
}

const shortLines = (
  { before, what, where }: ComparedFinding,
  { style, widthColumns }: TextOptions,
): string[] => wrap(`${style.strong(before!.id)}  ${what} ${style.faint(`(${where})`)}`, widthColumns, 4, 6);

function itemLines({ items }: Comparison, { all, style, widthColumns }: TextOptions): string[] {
  const isOpen = ({ after }: Comparison['items'][number]) => after === 'untested';
  const told = all ? items : items.filter((item) => !isOpen(item));
  const open = all ? [] : items.filter(isOpen);
  const say = (outcome: Outcome | undefined) => (outcome ? outcomeWord[outcome] : 'not on the list');
  return [
    ...(told.length > 0 ? ['', style.strong('Items that came out otherwise')] : []),
    ...told.flatMap(({ after, before, id, shows }) => {
      const now = `${after ? outcomeMark[after] : '–'} ${say(after)}`;
      return wrap(
        `${after ? style.outcome(after, now) : now}, was ${say(before)}  ${shows} ${style.faint(`[${id}]`)}`,
        widthColumns,
        2,
        4,
      );
    }),
    ...(open.length > 0
      ? [
          '',
          `${style.outcome('untested', outcomeMark.untested)} ${style.strong('Items that were decided, and are untested in this candidate')}  ${open.length}`,
          ...wrap(open.map(({ id }) => id).join(', '), widthColumns, 2, 2),
        ]
      : []),
  ];
}

function coverageLines({ coverage: { gained, lost } }: Comparison, options: TextOptions): string[] {
  const { all, style, widthColumns } = options;
  const list = (title: string, places: readonly string[]) => {
    if (places.length === 0) return [];
    const shown = all ? places : places.slice(0, PLACES_SHOWN);
    const rest = places.length - shown.length;
    return [
      '',
      `${style.strong(title)}  ${places.length}`,
      ...wrap(`${shown.join(' · ')}${rest > 0 ? ` · … and ${rest} more` : ''}`, widthColumns, 2, 2),
    ];
  };
  return [
    ...list('Looked at before, and not in this candidate', lost),
    ...list('Looked at in this candidate alone', gained),
  ];
}

function rulingLines(
  { rulings, signOffsToRenew }: Comparison,
  { style, widthColumns }: TextOptions,
): string[] {
  const { carried, lapsed, notNeeded } = rulings;
  const lines = [
    ...(carried.length > 0
      ? wrap(
          `${carried.length} ${plural(carried.length, 'ruling holds', 'rulings hold')} on.`,
          widthColumns,
          2,
          4,
        )
      : []),
    ...lapsed.flatMap(({ because, finding, now, ruling }) =>
      wrap(
        `${style.strong(finding)} (${ruling}) lapsed: ${because}.${now ? ` It is perhaps ${now} now.` : ''}`,
        widthColumns,
        2,
        4,
      ),
    ),
    ...notNeeded.flatMap(({ finding, ruling }) =>
      wrap(
        `${style.strong(finding)} (${ruling}) is needed no more: the finding is fixed.`,
        widthColumns,
        2,
        4,
      ),
    ),
    ...signOffsToRenew.flatMap(({ because, by, item }) =>
      wrap(
        `${style.strong(item)} was signed by ${by}, and must be signed again: ${because}.`,
        widthColumns,
        2,
        4,
      ),
    ),
  ];
  return lines.length > 0 ? ['', style.strong('Rulings and sign-offs'), ...lines] : [];
}

/** Somebody may have named them the wrong way round, or a clock went back. */
const clockLines = ({ after, before }: Comparison, { widthColumns }: TextOptions): string[] =>
  after.judgedAt < before.judgedAt
    ? [
        '',
        ...wrap(
          `The candidate before was judged later (${before.judgedAt}) than this one (${after.judgedAt}): are they named in their order?`,
          widthColumns,
          0,
          2,
        ),
      ]
    : [];
