/** Property lists in either form, told by how they begin. Dates become ISO 8601, data becomes base64. */
import type { PlistDict, PlistValue } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import { parseBinaryPlist } from './plist-binary.ts';
import { parseXmlPlist } from './plist-xml.ts';

export const MAX_PLIST_BYTES = 8 * 2 ** 20;

/** @throws UnreadableError where it is neither, is damaged, nests too deep or holds itself */
export function parsePlist(bytes: Uint8Array, name: string): PlistValue {
  if (bytes.length > MAX_PLIST_BYTES)
    throw new UnreadableError({
      code: 'plist.too-large',
      place: name,
      found: `${bytes.length} bytes`,
      expected: `at most ${MAX_PLIST_BYTES}`,
    });
  const head = String.fromCharCode(...bytes.subarray(0, 8));
  return head.startsWith('bplist0') ? parseBinaryPlist(bytes, name) : parseXmlPlist(bytes, name);
}

export function parsePlistDict(bytes: Uint8Array, name: string): PlistDict {
  const value = parsePlist(bytes, name);
  if (isDict(value)) return value;
  throw new UnreadableError({
    code: 'plist.no-dictionary',
    place: name,
    found: 'a property list that is no dictionary',
    expected: 'a dictionary at the top',
  });
}

export const isDict = (value: PlistValue | undefined): value is PlistDict =>
  typeof value === 'object' && !Array.isArray(value);

export const textAt = (dict: PlistDict, key: string): string => {
  const value = dict[key];
  return typeof value === 'string' ? value : typeof value === 'number' ? String(value) : '';
};

export const textsAt = (dict: PlistDict, key: string): string[] => {
  const value = dict[key];
  return Array.isArray(value) ? value.filter((item) => typeof item === 'string') : [];
};

export const dictsAt = (dict: PlistDict, key: string): PlistDict[] => {
  const value = dict[key];
  return Array.isArray(value) ? value.filter(isDict) : [];
};
