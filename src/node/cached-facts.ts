/** Facts of a dossier, kept in `facts/DIGEST.jsonl` until the code that measures them changes. */
import { join } from 'node:path';
import type { Fact } from '../core/model/fact.ts';
import type { Dossier } from './dossier.ts';
import { readKeptLines, writeKeptLines } from './kept-lines.ts';

/** What was kept under this key, or else what is measured now. */
export async function cachedFacts(
  { folder, onDamage }: Pick<Dossier, 'folder' | 'onDamage'>,
  digest: string,
  key: string,
  measure: () => Promise<Fact[]>,
): Promise<Fact[]> {
  const before = await readKeptLines<Fact>(join(folder, nameOf(digest)), key, onDamage);
  if (before) return before;
  const facts = await measure();
  await writeCachedFacts(folder, digest, key, facts);
  return facts;
}

export const writeCachedFacts = (
  folder: string,
  digest: string,
  key: string,
  facts: readonly Fact[],
): Promise<void> => writeKeptLines(join(folder, nameOf(digest)), key, facts);

const nameOf = (digest: string): string => `facts/${digest.slice(0, 16)}.jsonl`;
