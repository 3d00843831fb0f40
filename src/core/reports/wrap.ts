// ANSI colour sequences take no room
const visibleLength = (text: string): number => text.replace(/\u001b\[[0-9;]*m/g, '').length;

/** Breaks between words; the first line is indented by `first` columns, the others by `rest`. */
export function wrap(text: string, widthColumns: number, first: number, rest: number): string[] {
  const lines: string[] = [];
  let line = ' '.repeat(first);
  let empty = true;
  for (const word of text.split(' ')) {
    if (!empty && visibleLength(line) + 1 + visibleLength(word) > widthColumns) {
      lines.push(line);
      line = ' '.repeat(rest) + word;
    } else line += empty ? word : ` ${word}`;
    empty = false;
  }
  return [...lines, line];
}
