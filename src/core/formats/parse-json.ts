/** JSON files and lines: what cannot be read, or is not of its schema, is said with its place. */
import type { z } from 'zod';
import { UnreadableError } from '../model/problem.ts';

/**
 * @param expected what it should be, for the message
 * @param line where the text is one line of a file
 * @throws UnreadableError
 */
export function parseJson<T>(
  file: string,
  text: string,
  schema: z.ZodType<T>,
  expected: string,
  line?: number,
): T {
  const at = (path = '') => [line && `line ${line}`, path].filter(Boolean).join(', ') || undefined;
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (cause) {
    const found = `JSON that cannot be read: ${(cause as Error).message}`;
    throw new UnreadableError({ code: 'json.syntax', file, place: at(), found, expected }, { cause });
  }
  const parsed = schema.safeParse(value);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0]!;
  throw new UnreadableError({
    code: 'json.value',
    file,
    place: at(issue.path.join('.')),
    found: issue.message,
    expected,
  });
}
