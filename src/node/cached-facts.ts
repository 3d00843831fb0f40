/**
 * Facts of a dossier, kept until the code that measures them changes: `facts/DIGEST.jsonl`, a fact a line behind a head that says
 * what they were measured with, how many there are, and their digest. What does not match its head is measured again.
 */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { Fact } from '../core/model/fact.ts';
import type { Dossier } from './dossier.ts';
import { writeAtomically } from './write-atomically.ts';

const headSchema = z.strictObject({
  fenlok: z.literal('facts/1'),
  /** Of the code that measured, and of what else they rest on. */
  key: z.string(),
  count: z.int(),
  /** SHA-256 of the key, the count and all lines below, hex. */
  digest: z.string(),
});

type Head = z.infer<typeof headSchema>;

/** What was kept under this key, or else what is measured now. */
export async function cachedFacts(
  dossier: Pick<Dossier, 'folder' | 'onDamage'>,
  digest: string,
  key: string,
  measure: () => Promise<Fact[]>,
): Promise<Fact[]> {
  const before = await readCachedFacts(dossier, digest, key);
  if (before) return before;
  const facts = await measure();
  await writeCachedFacts(dossier.folder, digest, key, facts);
  return facts;
}

async function readCachedFacts(
  { folder, onDamage }: Pick<Dossier, 'folder' | 'onDamage'>,
  digest: string,
  key: string,
): Promise<Fact[] | undefined> {
  const file = join(folder, nameOf(digest));
  const text = await readFile(file, 'utf8').catch(() => undefined);
  if (text === undefined) return undefined;
  const end = text.indexOf('\n');
  const head = parseHead(text.slice(0, end));
  const lines = text.slice(end + 1);
  if (head && head.digest === digestOf(head, lines)) {
    if (head.key !== key) return undefined;
    const facts = lines.split('\n').filter(Boolean);
    if (facts.length === head.count) return facts.map((line) => JSON.parse(line) as Fact);
  }
  // those of earlier versions have another head, and are no damage
  if (!/^\{"key":"[^"]*"\}\n/.test(text)) onDamage?.(file);
  return undefined;
}

function parseHead(line: string): Head | undefined {
  try {
    return headSchema.parse(JSON.parse(line));
  } catch {
    return undefined;
  }
}

export async function writeCachedFacts(
  folder: string,
  digest: string,
  key: string,
  facts: readonly Fact[],
): Promise<void> {
  const lines = facts.map((fact) => `${JSON.stringify(fact)}\n`).join('');
  const head = { fenlok: 'facts/1', key, count: facts.length };
  const text = `${JSON.stringify({ ...head, digest: digestOf(head, lines) })}\n${lines}`;
  await writeAtomically(folder, nameOf(digest), (staged) => writeFile(staged, text));
}

const digestOf = ({ count, key }: Pick<Head, 'count' | 'key'>, lines: string): string =>
  createHash('sha256').update(`${key}\n${count}\n`).update(lines).digest('hex');

const nameOf = (digest: string): string => `facts/${digest.slice(0, 16)}.jsonl`;
