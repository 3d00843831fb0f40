/** Widths in columns of a terminal: wide letters and emoji take two, combining marks and colours none (Unicode, UAX 11). */
import stringWidth from 'string-width';

export const columnsOf = (text: string): number => stringWidth(text);

export const padToColumns = (text: string, columns: number): string =>
  text + ' '.repeat(Math.max(0, columns - columnsOf(text)));

/** As much as there is room for, with an ellipsis where that is not all. */
export function fitColumns(text: string, columns: number): string {
  if (columnsOf(text) <= columns) return padToColumns(text, columns);
  const [start] = breakColumns(text, columns - 1);
  return padToColumns(`${start}…`, columns);
}

const graphemes = new Intl.Segmenter(undefined, { granularity: 'grapheme' });

/** Pieces of at most so many columns; what a reader takes for one letter stays whole. */
export function breakColumns(text: string, columns: number): string[] {
  const pieces = [''];
  let width = 0;
  for (const { segment } of graphemes.segment(text)) {
    const more = columnsOf(segment);
    if (width > 0 && width + more > columns) {
      pieces.push('');
      width = 0;
    }
    pieces[pieces.length - 1] += segment;
    width += more;
  }
  return pieces;
}
