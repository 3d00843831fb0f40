/** YAML files of people: every error says the line, and for an unknown key which one was probably meant. */
import { readFile, stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { type Document, isMap, isNode, LineCounter, parseDocument, visit } from 'yaml';
import { z } from 'zod';
import { UnreadableError } from '../core/model/problem.ts';
import { nearest } from '../core/platform/text/nearest.ts';

const MAX_BYTES = 8 * 2 ** 20;

interface YamlFile<T> {
  value: T;
  document: Document.Parsed;
}

/** @throws UnreadableError where the file is missing, no YAML, or not of the schema */
export const readYaml = async <T>(path: string, schema: z.ZodType<T>): Promise<YamlFile<T>> =>
  parseYaml(path, await readTextFile(path), schema);

const MERGE_MARK = /^(<{7}|>{7}|={7}$|\|{7})( |$)/m;

/** Whether git has left a merge open in it. */
export const hasMergeMarks = (text: string): boolean => /^<{7}( |$)/m.test(text) && /^>{7}( |$)/m.test(text);

/** @param path for errors. @throws UnreadableError where it is no YAML, or not of the schema */
export function parseYaml<T>(path: string, text: string, schema: z.ZodType<T>): YamlFile<T> {
  if (hasMergeMarks(text))
    throw new UnreadableError({
      code: 'yaml.merge-marks',
      file: path,
      place: `line ${text.slice(0, text.search(MERGE_MARK)).split('\n').length}`,
      found: 'two versions, which a merge in git left side by side',
      remedy:
        basename(path) === 'rulings.yaml'
          ? 'Keep every decision of both:  fenlok rule --settle'
          : 'Choose what stays, and take the marks out.',
    });
  const lineCounter = new LineCounter();
  const document = parseDocument(text, { lineCounter, prettyErrors: false });
  const lineOf = (offset: number) => `line ${lineCounter.linePos(offset).line}`;
  const broken = document.errors[0];
  if (broken)
    throw new UnreadableError({
      code: 'yaml.syntax',
      file: path,
      place: lineOf(broken.pos[0]),
      found: /call stack/.test(broken.message)
        ? 'YAML that is nested too deeply'
        : `YAML that cannot be read: ${broken.message}`,
    });
  const parsed = schema.safeParse(toPlain(path, document, lineOf));
  if (parsed.success) return { value: parsed.data, document };
  const issue = deepest(parsed.error.issues);
  const more = parsed.error.issues.length > 1 ? ` (and ${parsed.error.issues.length - 1} more)` : '';
  if (issue.code === 'unrecognized_keys')
    throw unknownKey(path, issue.keys[0]!, issue.path, schema, document, lineOf, more);
  const offset = offsetOf(document, issue.path);
  throw new UnreadableError({
    code: 'yaml.value',
    file: path,
    place: offset === undefined ? undefined : `${lineOf(offset)}, ${issue.path.join('.')}`,
    found: `${issue.message}${more}`,
  });
}

// More stand for a file that is made to fill the memory.
const MOST_ALIASES = 100;

/** @throws UnreadableError where an alias has no anchor, or stands for too much */
function toPlain(path: string, document: Document.Parsed, lineOf: (offset: number) => string): unknown {
  try {
    return document.toJS({ maxAliasCount: MOST_ALIASES });
  } catch (error) {
    if (!(error instanceof ReferenceError)) throw error;
    let offset: number | undefined;
    visit(document, {
      Alias: (_, alias) => {
        if (!alias.resolve(document)) offset = alias.range?.[0];
        return offset === undefined ? undefined : visit.BREAK;
      },
    });
    throw new UnreadableError({
      code: 'yaml.alias',
      file: path,
      place: offset === undefined ? undefined : lineOf(offset),
      found:
        offset === undefined
          ? `aliases that stand for more than ${MOST_ALIASES} nodes`
          : 'an alias (*name) whose anchor (&name) does not stand before it',
      remedy: 'Write the values out.',
    });
  }
}

export async function readTextFile(path: string, maxBytes = MAX_BYTES): Promise<string> {
  const info = await stat(path).catch((cause: NodeJS.ErrnoException) => {
    throw new UnreadableError(
      {
        code: 'file.missing',
        file: path,
        found: cause.code === 'ENOENT' ? 'no such file' : `a file that cannot be opened (${cause.code})`,
      },
      { cause },
    );
  });
  if (!info.isFile())
    throw new UnreadableError({ code: 'file.kind', file: path, found: 'not a file', expected: 'a file' });
  if (info.size > maxBytes)
    throw new UnreadableError({
      code: 'file.too-large',
      file: path,
      found: `${info.size} bytes`,
      expected: `at most ${maxBytes}`,
    });
  return readFile(path, 'utf8');
}

// an unknown key is the likeliest typo, and says more than what is missing because of it
const deepest = (issues: z.core.$ZodIssue[]): z.core.$ZodIssue =>
  issues.find((issue) => issue.code === 'unrecognized_keys') ?? issues[0]!;

function unknownKey(
  file: string,
  key: string,
  path: PropertyKey[],
  schema: z.ZodType,
  document: Document.Parsed,
  lineOf: (offset: number) => string,
  more: string,
): UnreadableError {
  const known = keysAt(z.toJSONSchema(schema, { unrepresentable: 'any', io: 'input' }) as JsonSchema, path);
  const parent = document.getIn(path, true);
  const pair = isMap(parent) ? parent.items.find((item) => String(item.key) === key) : undefined;
  const offset = pair && isNode(pair.key) ? pair.key.range?.[0] : undefined;
  const meant = nearest(key, known);
  return new UnreadableError({
    code: 'yaml.unknown-key',
    file,
    place: offset === undefined ? undefined : lineOf(offset),
    found: `unknown key "${key}"${path.length > 0 ? ` under ${path.join('.')}` : ''}${more}`,
    ...(known.length > 0 && { expected: `one of ${known.join(', ')}` }),
    remedy: meant && `Did you mean "${meant}"?`,
  });
}

interface JsonSchema {
  properties?: Record<string, JsonSchema>;
  /** Of a record with any keys. */
  additionalProperties?: JsonSchema | boolean;
  items?: JsonSchema;
  anyOf?: JsonSchema[];
}

function keysAt(schema: JsonSchema, path: PropertyKey[]): string[] {
  let at: JsonSchema[] = [schema];
  for (const step of path) at = at.flatMap(eachOf).flatMap((one) => inside(one, step) ?? []);
  return [...new Set(at.flatMap(eachOf).flatMap(({ properties = {} }) => Object.keys(properties)))];
}

const eachOf = (schema: JsonSchema): JsonSchema[] => [schema, ...(schema.anyOf ?? []).flatMap(eachOf)];

function inside(
  { additionalProperties, items, properties }: JsonSchema,
  step: PropertyKey,
): JsonSchema | undefined {
  if (typeof step === 'number') return items;
  return (
    properties?.[String(step)] ??
    (typeof additionalProperties === 'object' ? additionalProperties : undefined)
  );
}

function offsetOf(document: Document.Parsed, path: PropertyKey[]): number | undefined {
  for (let length = path.length; length > 0; length--) {
    const node = document.getIn(path.slice(0, length), true);
    if (isNode(node) && node.range) return node.range[0];
  }
  return undefined;
}
