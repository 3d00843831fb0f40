/**
 * Which digests and signatures of JAR signing the platform levels of Android take. The documents name none; the levels
 * are those of the platform's own verifier (Android Open Source Project, `tools/apksig`), which tests run beside this.
 */
import type { DigestAlgorithm } from '../../model/ports.ts';
import type { KeyKind, SignatureAlgorithm } from './cms.ts';
import type { ManifestSection } from './jar-manifest.ts';

type Levels = readonly (readonly [from: number, until: number])[];

const EVER = Number.POSITIVE_INFINITY;
const since = (from: number): Levels => [[from, EVER]];
// Android 2.3 to 4.2 and 4.4 to 4.4W left out what the first versions had taken.
const notFrom9 = (again: number): Levels => [
  [0, 8],
  [again, EVER],
];
const NEVER: Levels = [];

// Signature algorithms that name the key alone, by the digest that the signer names.
const BY_KEY: Record<KeyKind, Partial<Record<DigestAlgorithm, Levels>>> = {
  RSA: {
    md5: since(0),
    sha1: since(0),
    sha224: notFrom9(21),
    sha256: notFrom9(18),
    sha384: since(18),
    sha512: since(18),
  },
  DSA: { sha1: since(0), sha224: since(22), sha256: since(22) },
  EC: { sha1: since(18), sha224: since(21), sha256: since(18), sha384: since(18), sha512: since(18) },
};

// Those that name the digest too, and the same one.
const BY_KEY_AND_DIGEST: Record<KeyKind, Partial<Record<DigestAlgorithm, Levels>>> = {
  RSA: {
    md5: notFrom9(21),
    sha1: since(0),
    sha224: notFrom9(21),
    sha256: notFrom9(18),
    sha384: since(21),
    sha512: since(21),
  },
  DSA: { sha1: since(9), sha224: since(21), sha256: since(21) },
  EC: { sha1: since(18), sha224: since(21), sha256: since(21), sha384: since(21), sha512: since(21) },
};

// Two that differ were taken by Android 5 and 6 alone, and some by 5.0 alone.
const MIXED: Levels = [[21, 23]];
const MIXED_ONLY_AT_21 = new Set(['sha224 RSA sha256', 'sha256 RSA sha1', 'sha512 RSA sha384']);
const MIXED_WITH: Record<KeyKind, readonly DigestAlgorithm[]> = {
  RSA: ['md5', 'sha1', 'sha224', 'sha256', 'sha384', 'sha512'],
  DSA: ['sha1', 'sha224', 'sha256'],
  EC: ['sha1', 'sha224', 'sha256', 'sha384', 'sha512'],
};

/** @param digest that the signer names for the content */
export function isTakenAt(level: number, digest: DigestAlgorithm, algorithm: SignatureAlgorithm): boolean {
  if (algorithm.padding === 'pss') return false;
  return levelsOf(digest, algorithm).some(([from, until]) => level >= from && level <= until);
}

function levelsOf(digest: DigestAlgorithm, { digest: own, key }: SignatureAlgorithm): Levels {
  if (own === undefined) return BY_KEY[key][digest] ?? NEVER;
  if (own === digest) return BY_KEY_AND_DIGEST[key][digest] ?? NEVER;
  if (MIXED_ONLY_AT_21.has(`${digest} ${key} ${own}`)) return [[21, 21]];
  return MIXED_WITH[key].includes(own) ? MIXED : NEVER;
}

// From this level on the strongest digest counts; before, the first one of a list that the manifest itself gives.
export const STRONGEST_SINCE = 18;

const STRONGEST: [attribute: string, algorithm: DigestAlgorithm][] = [
  ['SHA-512', 'sha512'],
  ['SHA-384', 'sha384'],
  ['SHA-256', 'sha256'],
  ['SHA1', 'sha1'],
];

const BY_NAME = new Map<string, { algorithm: DigestAlgorithm; since: number }>([
  ['MD5', { algorithm: 'md5', since: 0 }],
  ['SHA', { algorithm: 'sha1', since: 0 }],
  ['SHA1', { algorithm: 'sha1', since: 0 }],
  ['SHA-1', { algorithm: 'sha1', since: 0 }],
  ['SHA-256', { algorithm: 'sha256', since: 0 }],
  ['SHA-384', { algorithm: 'sha384', since: 9 }],
  ['SHA-512', { algorithm: 'sha512', since: 9 }],
]);

interface NamedDigest {
  algorithm: DigestAlgorithm;
  base64: string;
}

/** The digest that a platform level compares, of those that a section holds under `ALGORITHM` + suffix. */
export function digestAt(level: number, section: ManifestSection, suffix: string): NamedDigest | undefined {
  if (level >= STRONGEST_SINCE) {
    for (const [name, algorithm] of STRONGEST) {
      const base64 = section.attribute(name + suffix);
      if (base64 !== undefined) return { algorithm, base64 };
    }
    return undefined;
  }
  for (const name of (section.attribute('Digest-Algorithms') ?? 'SHA SHA1').split(/\s+/)) {
    const known = BY_NAME.get(name.toUpperCase());
    const base64 = section.attribute(name + suffix);
    if (base64 !== undefined && known && known.since <= level) return { algorithm: known.algorithm, base64 };
  }
  return undefined;
}
