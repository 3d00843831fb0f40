import { sha256 } from '@noble/hashes/sha2.js';
import type { FindingIdentity } from '../model/finding.ts';

const ALPHABET = '0123456789abcdefghijkmnpqrstuvwx';

/** Five bits a character, 40 bits in all, from what a finding is about and not from what was measured. */
export function findingId(check: string, { aspect, row, screen, subject }: FindingIdentity): string {
  const parts = [check, screen ?? '', subject, aspect ?? '', ...(row === undefined ? [] : [row])];
  const word = shortHash(JSON.stringify(parts), 8);
  return `${word.slice(0, 4)}-${word.slice(4)}`;
}

/** Short digest of measured values; the order in which occurrences were seen does not count. */
export const findingDigest = (values: Iterable<string>): string =>
  shortHash([...new Set(values)].sort().join('\n'), 12);

function shortHash(text: string, length: number): string {
  const hash = sha256(new TextEncoder().encode(text));
  return Array.from(hash.subarray(0, length), (byte) => ALPHABET[byte & 31]).join('');
}
