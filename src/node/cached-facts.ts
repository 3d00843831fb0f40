/** Facts of a dossier, kept until the code that measures them changes: `facts/DIGEST.jsonl`, its key first, then one fact a line. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Fact } from '../core/model/fact.ts';
import { writeAtomically } from './write-atomically.ts';

/** What was kept under this key, or else what is measured now. */
export async function cachedFacts(
  folder: string,
  digest: string,
  key: string,
  measure: () => Promise<Fact[]>,
): Promise<Fact[]> {
  const before = await readCachedFacts(folder, digest, key);
  if (before) return before;
  const facts = await measure();
  await writeCachedFacts(folder, digest, key, facts);
  return facts;
}

async function readCachedFacts(folder: string, digest: string, key: string): Promise<Fact[] | undefined> {
  const text = await readFile(join(folder, nameOf(digest)), 'utf8').catch(() => '');
  const [head, ...lines] = text.split('\n');
  if (head !== JSON.stringify({ key })) return undefined;
  return lines.filter(Boolean).map((line) => JSON.parse(line) as Fact);
}

export async function writeCachedFacts(
  folder: string,
  digest: string,
  key: string,
  facts: readonly Fact[],
): Promise<void> {
  const text = [{ key }, ...facts].map((line) => `${JSON.stringify(line)}\n`).join('');
  await writeAtomically(folder, nameOf(digest), (staged) => writeFile(staged, text));
}

const nameOf = (digest: string): string => `facts/${digest.slice(0, 16)}.jsonl`;
