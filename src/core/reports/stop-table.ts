/** The walk of a screen reader, and the presses of a switch, as lines for a terminal. */

import type { ScannedStop } from '../areas/accessibility/scan.ts';
import type { NameOrigin, Stop, Walk } from '../areas/accessibility/walk-stops.ts';
import { fitColumns, padToColumns } from './columns.ts';
import { printableText } from './escape.ts';
import { outcomeMark } from './outcome-words.ts';
import type { TextStyle } from './text-style.ts';

export type WalkBy = 'all' | 'headings' | 'controls';

export const stopsBy = (stops: readonly Stop[], by: WalkBy): Stop[] =>
  stops.filter((stop) => by === 'all' || (by === 'headings' ? stop.heading : stop.actionable));

/** Where the name of a stop comes from, in words. */
export const nameOrigin: Record<NameOrigin, string> = {
  label: 'its own label',
  text: 'its text',
  gathered: 'gathered from inside',
  'label-for': 'the text that labels it',
  hint: 'its placeholder',
  none: '',
};

interface TableOptions {
  style: TextStyle;
  widthColumns: number;
  /** Which element each is, besides where its name comes from. */
  withKeys?: boolean;
}

/** One line a stop: its number, what is said there in parts, where the name comes from. */
export function stopTable(
  title: string,
  { stops, unreachable }: Walk,
  by: WalkBy,
  { style, widthColumns, withKeys = false }: TableOptions,
): string {
  const numbers = new Map(stops.map((stop, i) => [stop, i + 1]));
  const shown = stopsBy(stops, by);
  const what = { all: 'stops', headings: 'headings', controls: 'controls' }[by];
  const lines = shown.map((stop) => {
    const origin = nameOrigin[stop.nameFrom];
    const room = Math.max(24, widthColumns - (withKeys ? KEY_COLUMNS + 8 : 32));
    const said = stop.name
      ? fitColumns(formatParts(stop), room)
      : padToColumns(style.outcome('failed', `${outcomeMark.failed} nothing to say`), room);
    const key = printableText(stop.key);
    const from = withKeys ? [origin, shortKey(key)].filter(Boolean).join(' · ') : origin || key;
    return `${String(numbers.get(stop)).padStart(4)}  ${said}  ${style.faint(from)}`;
  });
  const hidden = unreachable.map(
    (stop) =>
      `   –  ${style.outcome('failed', `${outcomeMark.failed} not reached`)}: ${printableText(stop.name || stop.key)}, ${stop.shutInBy === 'hidden' ? 'hidden' : 'inside an element that speaks for it'}`,
  );
  return [
    `${style.strong(printableText(title))}  ${shown.length} ${shown.length === 1 ? what.slice(0, -1) : what}${by === 'all' ? '' : ` of ${stops.length} stops`}`,
    ...lines,
    ...hidden,
    '',
  ].join('\n');
}

const KEY_COLUMNS = 44;

/** Of an element without an id its own end of the path. */
const shortKey = (key: string): string => key.split(' > ').slice(-2).join(' > ');

/** Presses of the two switches, and the time that they take, to each control. */
export function pressTable(
  title: string,
  scanned: readonly ScannedStop[],
  pattern: string,
  secondsEach: number,
  { style, widthColumns }: TableOptions,
): string {
  const room = Math.max(24, widthColumns - 30);
  const lines = scanned.map(({ presses, row, seconds, stop }) =>
    [
      String(row).padStart(4),
      String(presses).padStart(8),
      seconds.toFixed(1).padStart(8),
      fitColumns(
        stop.name ? printableText(stop.name) : `${outcomeMark.failed} ${printableText(stop.key)}`,
        room,
      ),
    ]
      .join('  ')
      .trimEnd(),
  );
  const most = Math.max(0, ...scanned.map(({ seconds }) => seconds));
  return [
    `${style.strong(printableText(title))}  ${scanned.length} controls, ${pattern}, ${secondsEach} s a press; the last takes ${most.toFixed(1)} s`,
    style.faint(' row   presses   seconds  control'),
    ...lines,
    '',
  ].join('\n');
}

const formatParts = ({ spoken }: Stop): string => printableText(spoken.join(' · '));
