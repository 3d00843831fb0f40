import { breakColumns, columnsOf } from './columns.ts';

/** Breaks between words; the first line is indented by `first` columns, the others by `rest`. */
export function wrap(text: string, widthColumns: number, first: number, rest: number): string[] {
  const lines: string[] = [];
  let line = ' '.repeat(first);
  let used = first;
  let empty = true;
  for (const word of text.split(' ').flatMap((one) => breakWide(one, widthColumns - Math.max(first, rest)))) {
    const width = columnsOf(word);
    if (!empty && used + 1 + width > widthColumns) {
      lines.push(line);
      line = ' '.repeat(rest) + word;
      used = rest + width;
    } else {
      line += empty ? word : ` ${word}`;
      used += empty ? width : 1 + width;
    }
    empty = false;
  }
  return [...lines, line];
}

/** Chinese or Japanese has no spaces to break at; a path or an address stays whole, to be copied. */
function breakWide(word: string, columns: number): string[] {
  const isWide = columns > 1 && columnsOf(word) > columns && columnsOf(word) > word.length;
  return isWide ? breakColumns(word, columns) : [word];
}
