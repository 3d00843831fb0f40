/** What the words of all areas share. */
import type { FindingData } from '../model/finding.ts';

export type DataValue = FindingData[string] | undefined;

export const cut = (text: string): string => (text.length > 60 ? `${text.slice(0, 59)}…` : text);
export const quote = (text: string): string => `“${cut(text)}”`;
export const lastPart = (name: string): string => name.slice(name.lastIndexOf('.') + 1);
export const round = (value: DataValue): string => String(Math.round(Number(value) * 10) / 10);
export const textsOf = (value: DataValue): string[] => (Array.isArray(value) ? value : []);
export const isFilled = (value: DataValue): boolean => textsOf(value).length > 0;
