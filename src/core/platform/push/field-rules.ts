/** Rules of single fields as a table, and what breaks them. */
import type { PayloadProblem } from '../../model/push-payload.ts';

type FieldRule =
  | { kind: 'string' }
  | { kind: 'strings' }
  | { kind: 'integer'; least: number }
  | { kind: 'number'; least: number; most: number }
  | { kind: 'one-of'; values: readonly (string | number)[] }
  | { kind: 'boolean' }
  | { kind: 'object' }
  /** Looked at elsewhere. */
  | { kind: 'any' };

export type FieldRules = Readonly<Record<string, FieldRule>>;

export type PlainObject = Record<string, unknown>;
export const isObject = (value: unknown): value is PlainObject =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** @param unknown what a key means that no rule is for */
export function checkFields(
  value: PlainObject,
  rules: FieldRules,
  at: string,
  unknown: Pick<PayloadProblem, 'expected' | 'level'>,
): PayloadProblem[] {
  return Object.entries(value).flatMap(([key, field]): PayloadProblem[] => {
    const place = at ? `${at}.${key}` : key;
    const rule = Object.hasOwn(rules, key) ? rules[key]! : undefined;
    if (!rule)
      return [{ code: 'unknown-key', at: place, found: 'a key that means nothing here', ...unknown }];
    return holds(field, rule)
      ? []
      : [
          {
            code: 'wrong-type',
            at: place,
            found: formatValue(field),
            expected: formatRule(rule),
            level: 'error',
          },
        ];
  });
}

function holds(value: unknown, rule: FieldRule): boolean {
  switch (rule.kind) {
    case 'string':
      return typeof value === 'string';
    case 'strings':
      return Array.isArray(value) && value.every((one) => typeof one === 'string');
    case 'integer':
      return Number.isInteger(value) && (value as number) >= rule.least;
    case 'number':
      return typeof value === 'number' && value >= rule.least && value <= rule.most;
    case 'one-of':
      return (rule.values as unknown[]).includes(value);
    case 'boolean':
      return typeof value === 'boolean';
    case 'object':
      return isObject(value);
    case 'any':
      return true;
    default:
      return rule satisfies never;
  }
}

function formatRule(rule: FieldRule): string {
  switch (rule.kind) {
    case 'string':
      return 'a text';
    case 'strings':
      return 'a list of texts';
    case 'integer':
      return `a whole number from ${rule.least}`;
    case 'number':
      return `a number from ${rule.least} to ${rule.most}`;
    case 'one-of':
      return `one of ${rule.values.map((value) => JSON.stringify(value)).join(', ')}`;
    case 'boolean':
      return 'true or false';
    case 'object':
      return 'an object';
    case 'any':
      return 'anything';
    default:
      return rule satisfies never;
  }
}

const LONGEST_SHOWN = 40;

/** A value, shortened; never more than what names it. */
export function formatValue(value: unknown): string {
  if (Array.isArray(value)) return `a list of ${value.length}`;
  if (isObject(value)) return 'an object';
  const text = JSON.stringify(value) ?? 'nothing';
  return text.length > LONGEST_SHOWN ? `${text.slice(0, LONGEST_SHOWN)}…` : text;
}
