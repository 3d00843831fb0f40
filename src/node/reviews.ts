/** Reviews as a store hands them out, in a dossier: a table in CSV (RFC 4180) or an array of objects in JSON. */
import { readFile, writeFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { z } from 'zod';
import { parseJson } from '../core/formats/parse-json.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { type Reviews, reviewsSchema } from '../core/model/review.ts';
import { type Dossier, type EvidenceEntry, json, type Taken } from './dossier.ts';
import { headOf } from './log-files.ts';
import { listNamed, type NamedFile, placeFor } from './named-evidence.ts';
import { nodePorts } from './ports.ts';
import { isTableFile, readTable } from './read-table.ts';
import { readTextFile } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'reviews';
const LIMIT_BYTES = 64 * 2 ** 20;
const MAX_CELL = 5_000;
const TABLE = 'a table of reviews: CSV with its names in the first line, or a JSON array of objects';

const keptSchema = z.strictObject({ fenlok: z.literal('kept-reviews/1'), reviews: reviewsSchema });
const cellSchema = z.union([z.string(), z.number(), z.boolean(), z.null()]);
const rowsSchema = z.array(z.record(z.string(), z.unknown()));

/** Whether it is a table: any CSV, or a JSON array of objects in a file that is named after reviews. */
export async function isReviewsFile(path: string): Promise<boolean> {
  if (isTableFile(path)) return true;
  return (
    extname(path).toLowerCase() === '.json' &&
    /review/i.test(basename(path)) &&
    /^\s*\[\s*\{/.test(await headOf(path))
  );
}

/** @throws UnreadableError where it is no table, or too large */
export async function addReviews({ folder }: Dossier, path: string): Promise<Taken> {
  const rows = await rowsOf(path);
  if (rows.length === 0)
    throw new UnreadableError({ code: 'reviews.none', file: path, found: 'no row', expected: TABLE });
  const kept = json({ fenlok: 'kept-reviews/1', reviews: { rows } });
  const place = placeFor(folder, ROOM, `${path}.json`);
  const before = await readFile(join(folder, place), 'utf8').catch(() => undefined);
  if (before !== kept) await writeDurably(folder, place, (staged) => writeFile(staged, kept));
  const digest = await digestOf(path, kept);
  return { kind: 'reviews', name: basename(path), digest, again: before === kept };
}

export async function listReviews({ folder }: Dossier): Promise<(EvidenceEntry & NamedFile)[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named.map(async ({ file, name }) => ({
      file,
      name: name.replace(/\.json$/, ''),
      digest: (await digestOf(name, await readFile(file, 'utf8'))).slice(0, 16),
    })),
  );
}

/** @throws UnreadableError where it was changed by hand */
export async function openReviews({ file }: EvidenceEntry): Promise<Reviews> {
  const text = await readTextFile(file, 4 * LIMIT_BYTES);
  return parseJson(file, text, keptSchema, 'a file of reviews/ as Fenlok writes it').reviews;
}

async function rowsOf(path: string): Promise<Reviews['rows']> {
  if (extname(path).toLowerCase() !== '.json')
    return (await readTable(path, LIMIT_BYTES, TABLE)).map(plainRow);
  return parseJson(path, await readTextFile(path, LIMIT_BYTES), rowsSchema, TABLE).map(plainRow);
}

/** What is neither text nor number is left out. */
const plainRow = (row: Record<string, unknown>): Record<string, string> =>
  Object.fromEntries(
    Object.entries(row).flatMap(([name, value]) => {
      const cell = cellSchema.safeParse(value);
      return cell.success && cell.data !== null ? [[name.trim(), String(cell.data).slice(0, MAX_CELL)]] : [];
    }),
  );

const digestOf = (name: string, kept: string): Promise<string> =>
  sha256Hex(nodePorts, new TextEncoder().encode(`${basename(name)}\n${kept}`));
