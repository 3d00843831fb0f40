/** Tables in CSV (RFC 4180), as spreadsheets and stores write them. */
import { readFile } from 'node:fs/promises';
import { extname } from 'node:path';
import { parse as parseCsv } from 'csv-parse/sync';
import { UnreadableError } from '../core/model/problem.ts';
import { readTextFile } from './read-yaml.ts';

export const isTableFile = (path: string): boolean => ['.csv', '.tsv'].includes(extname(path).toLowerCase());

/**
 * Each row by the names in the first line; in UTF-8 or UTF-16, with commas, semicolons or tabs.
 *
 * @param expected what it should be, for the message
 * @throws UnreadableError where it is no table, or too large
 */
export async function readTable(
  path: string,
  maxBytes: number,
  expected: string,
): Promise<Record<string, string>[]> {
  // for its limits
  await readTextFile(path, maxBytes);
  const bytes = await readFile(path);
  const isWide = bytes[0] === 0xff && bytes[1] === 0xfe;
  const text = new TextDecoder(isWide ? 'utf-16le' : 'utf-8').decode(bytes);
  try {
    return parseCsv(text, {
      columns: true,
      bom: true,
      delimiter: delimiterOf(text),
      skip_empty_lines: true,
      relax_column_count: true,
    });
  } catch (cause) {
    const found = (cause as Error).message;
    throw new UnreadableError({ code: 'table.syntax', file: path, found, expected }, { cause });
  }
}

/** The one that the first line has most of. */
function delimiterOf(text: string): string {
  const end = text.indexOf('\n');
  const head = text.slice(0, end < 0 ? undefined : end);
  const count = (one: string) => head.split(one).length;
  return [',', ';', '\t'].sort((a, b) => count(b) - count(a))[0]!;
}
