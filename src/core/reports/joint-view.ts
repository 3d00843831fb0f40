/** A release of both platforms for a terminal: the verdict, where they differ, then items beside each other. */
import { formatBuild, type Platform } from '../model/candidate.ts';
import type { JointDifference, JointJudgement } from '../model/joint.ts';
import { type Outcome, worstOf } from '../model/outcome.ts';
import { printable } from './escape.ts';
import { outcomeMark, outcomeWord } from './outcome-words.ts';
import { plural } from './outline.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

const VERDICT_MARK: Record<JointJudgement['verdict'], Outcome> = {
  blocked: 'failed',
  open: 'untested',
  clear: 'passed',
};
const COLUMN = 18;
const DIFFERENCES_SHOWN = 10;

/** The whole of it in a sentence. */
export function formatJoint({ android, ios, items, verdict }: JointJudgement): string {
  const failing = (side: 'android' | 'ios') =>
    items.filter((item) => item.level === 'blocking' && item[side].outcome === 'failed').length;
  const sides = `Android ${android.verdict} with ${failing('android')} blocking items failed, iOS ${ios.verdict} with ${failing('ios')}`;
  const words = { blocked: 'Blocked', open: 'Open', clear: 'Clear' }[verdict];
  return `${words}: ${sides}.`;
}

export function jointView(given: JointJudgement, { all, style, widthColumns }: TextOptions): string {
  const joint = printable(given);
  const { android, differences, ios, verdict } = joint;
  const mark = VERDICT_MARK[verdict];
  const shown = joint.items.filter(
    (item) => all || [item.android, item.ios].some(({ outcome }) => outcome === 'failed'),
  );
  const rest = joint.items.length - shown.length;
  const lines = [
    style.strong(android.name),
    style.faint(`Android ${formatBuild(android.build)}`),
    style.faint(`iOS     ${formatBuild(ios.build)}`),
    ...wrap(
      style.outcome(mark, `${outcomeMark[mark]} ${style.strong(formatJoint(joint))}`),
      widthColumns,
      0,
      2,
    ),
    '',
    ...differencesBy(differences).flatMap(([title, own]) => [
      style.strong(`${title}  ${own.length}`),
      ...(all ? own : own.slice(0, DIFFERENCES_SHOWN)).flatMap(({ finding, what }) =>
        wrap(`${what}${finding ? style.faint(`  ${finding}`) : ''}`, widthColumns, 2, 4),
      ),
      ...(all || own.length <= DIFFERENCES_SHOWN
        ? []
        : [style.faint(`  ${own.length - DIFFERENCES_SHOWN} more: --all`)]),
      '',
    ]),
    `${style.strong('Android'.padEnd(COLUMN))}${style.strong('iOS'.padEnd(COLUMN))}`,
    ...shown.flatMap((item) => {
      const side = (outcome: Outcome) =>
        style.outcome(outcome, `${outcomeMark[outcome]} ${outcomeWord[outcome]}`.padEnd(COLUMN));
      const level = item.level === 'advisory' ? ', advisory' : '';
      const [first = '', ...more] = wrap(
        `${item.shows} ${style.faint(`[${item.id}${level}]`)}`,
        widthColumns - 2 * COLUMN,
        0,
        0,
      );
      return [
        `${side(item.android.outcome)}${side(item.ios.outcome)}${first}`,
        ...more.map((line) => `${' '.repeat(2 * COLUMN)}${line}`),
      ];
    }),
    ...(rest > 0
      ? [style.faint(`${rest} more ${plural(rest, 'item fails', 'items fail')} on neither: --all`)]
      : []),
  ];
  return `${lines.join('\n')}\n`;
}

/** Versions and prices that differ, then what is on one alone. */
export function differencesBy(
  differences: readonly JointDifference[],
): readonly (readonly [title: string, of: readonly JointDifference[]])[] {
  const alone = (platform: Platform) =>
    differences.filter(({ kind, on }) => kind !== 'version' && kind !== 'price' && on === platform);
  const groups = [
    ['Not one version', differences.filter(({ kind }) => kind === 'version')],
    ['Not one price', differences.filter(({ kind }) => kind === 'price')],
    ['Fails on Android alone', alone('android')],
    ['Fails on iOS alone', alone('ios')],
  ] as const;
  return groups.filter(([, own]) => own.length > 0);
}

/** The worse of the two sides. */
export const worseOf = ({ android, ios }: JointJudgement['items'][number]): Outcome =>
  worstOf([android.outcome, ios.outcome])!;
