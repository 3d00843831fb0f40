/** A walk by keyboard: what stands in the way, the worst first, then where the focus went. */
import type { KeyboardSeen, KeyboardWalk, WalkEnd } from '../areas/accessibility/keyboard-walk.ts';
import { fitColumns } from './columns.ts';
import { printable, printableText } from './escape.ts';
import { outcomeMark } from './outcome-words.ts';
import type { TextOptions } from './text-style.ts';
import { wrap } from './wrap.ts';

const ENDS: Record<WalkEnd, string> = {
  'came-round': 'then the focus is back at the first',
  stuck: 'then no key moves the focus any more',
  looped: 'then the focus goes round among a part of them',
  left: 'then the focus leaves the app',
  'no-focus': 'nothing on this screen takes the focus',
  'given-up': 'then the walk was given up: --most allows more presses',
};

const WHAT: Record<KeyboardSeen['findings'][number]['kind'], string> = {
  trap: 'keeps the focus',
  unreached: 'is not reached',
  'unseen-focus': 'does not show that it is in focus',
  order: 'comes out of order',
};
const LABEL = 10;
const KEY_COLUMNS = 32;

export function walkView(
  title: string,
  { ended, steps }: KeyboardWalk,
  { findings, of, reached, untold }: KeyboardSeen,
  { style, widthColumns }: Omit<TextOptions, 'all'>,
): string {
  const line = (label: string, text: string) =>
    wrap(`${style.faint(label.padEnd(LABEL))}${text}`, widthColumns, 4, 4 + LABEL);
  const room = Math.max(24, widthColumns - KEY_COLUMNS - 24);
  const table = printable([...steps]).map(({ isShown, key, name }, i) => {
    const shown = isShown === undefined ? 'cannot tell' : isShown ? 'shows' : 'does not show';
    return `${String(i + 1).padStart(4)}  ${fitColumns(name, room)}  ${shown.padEnd(13)}  ${style.faint(fitColumns(key, KEY_COLUMNS).trimEnd())}`;
  });
  return [
    `${style.strong(printableText(title))}  ${reached} of ${of} controls reached by keys, ${ENDS[ended]}`,
    ...printable(findings).flatMap((finding) => [
      ...wrap(
        `${style.outcome('failed', finding.basis === 'measured' ? outcomeMark.failed : outcomeMark.cantTell)} ${style.strong(`${finding.name} ${finding.basis === 'measured' ? '' : 'perhaps '}${WHAT[finding.kind]}`)} ${style.faint(finding.key)}`,
        widthColumns,
        2,
        4,
      ),
      ...line(finding.basis, `${finding.why} (${finding.standard})`),
      ...line('to do', finding.remedy),
    ]),
    ...(untold > 0
      ? wrap(
          `${outcomeMark.untested} Whether the focus shows could not be told for ${untold} of ${steps.length}: its place changes by itself or by next to nothing, was scrolled, or the window forbids pictures.`,
          widthColumns,
          2,
          4,
        )
      : []),
    '',
    ...(table.length > 0 ? [style.strong('The focus goes to')] : []),
    ...table,
    '',
  ].join('\n');
}
