/**
 * Lines of JSON that may be made again, kept in a file behind a head that says what they were made with, how many there are, and
 * their digest. What does not match its head is not believed.
 */
import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { z } from 'zod';
import { writeAtomically } from './write-atomically.ts';

const headSchema = z.strictObject({
  fenlok: z.literal('facts/1'),
  /** Of the code that made them, and of what else they rest on. */
  key: z.string(),
  count: z.int(),
  /** SHA-256 of the key, the count and all lines below, hex. */
  digest: z.string(),
});
type Head = z.infer<typeof headSchema>;

/** @returns undefined where there is no such file, one of another key, or one that is damaged, which is told */
export async function readKeptLines<T>(
  file: string,
  key: string,
  onDamage: (file: string) => void = () => {},
): Promise<T[] | undefined> {
  const text = await readFile(file, 'utf8').catch(() => undefined);
  if (text === undefined) return undefined;
  const end = text.indexOf('\n');
  const head = parseHead(text.slice(0, end));
  const lines = text.slice(end + 1);
  if (head && head.digest === digestOf(head, lines)) {
    if (head.key !== key) return undefined;
    const kept = lines.split('\n').filter(Boolean);
    if (kept.length === head.count) return kept.map((line) => JSON.parse(line) as T);
  }
  // those of earlier versions have another head, and are no damage
  if (!/^\{"key":"[^"]*"\}\n/.test(text)) onDamage(file);
  return undefined;
}

function parseHead(line: string): Head | undefined {
  try {
    return headSchema.parse(JSON.parse(line));
  } catch {
    return undefined;
  }
}

export async function writeKeptLines(file: string, key: string, kept: readonly object[]): Promise<void> {
  const lines = kept.map((one) => `${JSON.stringify(one)}\n`).join('');
  const head = { fenlok: 'facts/1', key, count: kept.length };
  const text = `${JSON.stringify({ ...head, digest: digestOf(head, lines) })}\n${lines}`;
  await writeAtomically(dirname(file), basename(file), (staged) => writeFile(staged, text));
}

const digestOf = ({ count, key }: Pick<Head, 'count' | 'key'>, lines: string): string =>
  createHash('sha256').update(`${key}\n${count}\n`).update(lines).digest('hex');
