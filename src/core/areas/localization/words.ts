import type { TextPlace } from './texts/text-draft.ts';

/** The first few. */
export const someOf = (names: readonly string[]): string =>
  `${names.slice(0, 8).join(', ')}${names.length > 8 ? ' …' : ''}`;

export const keyForm = ({ form, key }: Pick<TextPlace, 'form' | 'key'>): string =>
  form ? `${key} (${form})` : key;

/** Of a catalogue that was added as a file: ` (values-de/strings.xml, line 12)`. */
export const foundAt = ({ file, line }: Pick<TextPlace, 'file' | 'line'>): string =>
  file === undefined ? '' : ` (${file}${line === undefined ? '' : `, line ${line}`})`;
