import type { DataValue } from '../words.ts';

export const nameOf = (qualifiers: string): string => qualifiers || 'the default';

export const times = (value: DataValue): string => String(Math.round(Number(value) * 100) / 100);

export const someOf = (names: readonly string[]): string =>
  `${names.slice(0, 6).join(', ')}${names.length > 6 ? ` and ${names.length - 6} more` : ''}`;
