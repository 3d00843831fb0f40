/** Markdown (CommonMark 0.31, with the tables that code hosts add) for a pull request: short enough for a comment. */
import { outcomeOf } from '../checklist/apply-rulings.ts';
import type { Change, ComparedFinding, Comparison } from '../model/comparison.ts';
import { type Finding, rankOfPriority } from '../model/finding.ts';
import type { Judgement } from '../model/judgement.ts';
import { type Outcome, worstFirst } from '../model/outcome.ts';
import { changeWords, formatComparison } from './comparison-view.ts';
import { printableText } from './escape.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import { areaTitle, formatPlaces, formatVerdict, outlineAreas } from './outline.ts';
import type { ReportContext } from './report-format.ts';

/** Code hosts take comments of at most 65,536 characters. */
const MOST_CHARACTERS = 64_000;
const CHANGES_SHOWN: readonly Change[] = ['new', 'worse', 'undecided', 'first-look', 'fixed'];

export function markdownReport(judgement: Judgement, context: ReportContext): string {
  const { candidate, verdict } = judgement;
  const tone = ({ blocked: 'failed', open: 'cantTell', clear: 'passed' } as const)[verdict];
  const { build } = candidate;
  const head = [
    `## ${outcomeMark[tone]} ${plain(candidate.name)} ${plain(build.version)} (${plain(build.build)}): ${verdict}`,
    '',
    formatVerdict(judgement),
    ...(context.comparison ? comparisonLines(context.comparison) : []),
    '',
    ...areaTable(judgement),
    '',
  ];
  const open = judgement.findings
    .filter((finding) => outcomeOf(finding, judgement.strict) !== 'passed')
    .sort((a, b) => rankOf(a, judgement) - rankOf(b, judgement));
  return within(
    `${head.join('\n')}\n${open.length > 0 ? '### Findings, the worst first\n\n' : ''}`,
    open.map((finding) => findingBlock(finding, judgement, context)),
  );
}

const rankOf = (finding: Finding, { strict }: Judgement): number =>
  worstFirst.indexOf(outcomeOf(finding, strict)) * 10 + rankOfPriority(finding.priority);

/** As many as there is room for, and then how many more there are. */
function within(head: string, blocks: readonly string[]): string {
  const text = [head.slice(0, MOST_CHARACTERS)];
  let length = text[0]!.length;
  for (const [i, block] of blocks.entries()) {
    if (length + block.length > MOST_CHARACTERS) {
      text.push(`\n… and ${blocks.length - i} more, which stand in the report.\n`);
      break;
    }
    text.push(block);
    length += block.length;
  }
  return text.join('');
}

function areaTable(judgement: Judgement): string[] {
  const outcomes = worstFirst.filter((outcome) => outcome !== 'inapplicable');
  const count = (counts: readonly { outcome: Outcome; count: number }[], wanted: Outcome) =>
    counts.find(({ outcome }) => outcome === wanted)?.count ?? '';
  return [
    `| | ${outcomes.map((outcome) => `${outcomeMark[outcome]} ${outcomeWord[outcome]}`).join(' | ')} |`,
    `|---|${outcomes.map(() => '--:').join('|')}|`,
    ...outlineAreas(judgement).map(
      ({ area, counts }) =>
        `| ${areaTitle[area]} | ${outcomes.map((outcome) => count(counts, outcome)).join(' | ')} |`,
    ),
  ];
}

function comparisonLines(comparison: Comparison): string[] {
  const { before, findings } = comparison;
  const sections = CHANGES_SHOWN.flatMap((change) => {
    const own = findings.filter((one) => one.change === change);
    return own.length > 0
      ? ['', `**${changeWords[change].title}** (${own.length})`, '', ...own.map(changeLine)]
      : [];
  });
  return [
    '',
    `### Since ${plain(before.build.version)} (${plain(before.build.build)})`,
    '',
    formatComparison(comparison),
    ...sections,
  ];
}

const changeLine = ({ after, before, what, where }: ComparedFinding): string => {
  const mark = after ? outcomeMark[after.outcome] : outcomeMark.passed;
  const measured = after ? `: ${plain(after.measured)}` : '';
  return `- ${mark} ${plain(what)} \`${(after ?? before)!.id}\` (${plain(where)})${measured}`;
};

function findingBlock(finding: Finding, { strict }: Judgement, { pictures, places }: ReportContext): string {
  const { basis, id, occurrences, words } = finding;
  const outcome = outcomeOf(finding, strict);
  const place = places?.get(id);
  const { boundsPx, evidence } = occurrences[0]!;
  const picture =
    pictures !== undefined && boundsPx && `${pictures.replace(/\/$/, '')}/${evidence.slice(0, 16)}.png`;
  return [
    `- ${outcomeMark[outcome]} **${plain(words.what)}** \`${id}\`  `,
    `  ${plain(formatPlaces(finding))}${place ? `, \`${place.path.replaceAll('`', '')}:${place.line}\`` : ''}  `,
    `  ${basis === 'measured' ? 'measured' : 'estimate'}: ${plain(words.measured)} · required: ${plain(words.required)}  `,
    `  ${plain(words.remedy)}${picture ? `  \n  [whole screenshot](<${picture.replace(/[<>\n]/g, '')}>)` : ''}`,
    '',
  ].join('\n');
}

/**
 * Text that is neither markup nor, on a code host, a call to a person (`@name`) or a link to an issue (`#12`). Backslashes
 * before punctuation are CommonMark's own escapes (section 2.4).
 */
export const plain = (text: string): string =>
  printableText(text)
    .replace(/[\\`*_{}[\]<>#|~$]/g, '\\$&')
    .replaceAll('&', '&amp;')
    .replaceAll('@', '&#64;')
    .replace(/\\#(?=\d)/g, '&#35;');
