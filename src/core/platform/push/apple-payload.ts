/**
 * Messages to iOS apps (Apple developer documentation, *Generating a remote notification*, *Sending notification
 * requests to APNs*, *Pushing background updates to your App*).
 */
import type { PayloadProblem, PayloadText, PushPayload } from '../../model/push-payload.ts';
import { checkFields, type FieldRules, formatValue, isObject, type PlainObject } from './field-rules.ts';
import { PUSH_TYPES, topicFor } from './push-types.ts';

/** Table 1 of *Generating a remote notification*. */
const APS: FieldRules = {
  alert: { kind: 'any' },
  badge: { kind: 'integer', least: 0 },
  sound: { kind: 'any' },
  'thread-id': { kind: 'string' },
  category: { kind: 'string' },
  'content-available': { kind: 'one-of', values: [1] },
  'mutable-content': { kind: 'one-of', values: [1] },
  'target-content-id': { kind: 'string' },
  'interruption-level': { kind: 'one-of', values: ['passive', 'active', 'time-sensitive', 'critical'] },
  'relevance-score': { kind: 'number', least: 0, most: 1 },
  'filter-criteria': { kind: 'string' },
  'stale-date': { kind: 'integer', least: 0 },
  'content-state': { kind: 'object' },
  timestamp: { kind: 'integer', least: 0 },
  event: { kind: 'string' },
  'dismissal-date': { kind: 'integer', least: 0 },
  'attributes-type': { kind: 'string' },
  attributes: { kind: 'object' },
};

/** Table 2. */
const ALERT: FieldRules = {
  title: { kind: 'string' },
  subtitle: { kind: 'string' },
  body: { kind: 'string' },
  'launch-image': { kind: 'string' },
  'title-loc-key': { kind: 'string' },
  'title-loc-args': { kind: 'strings' },
  'subtitle-loc-key': { kind: 'string' },
  'subtitle-loc-args': { kind: 'strings' },
  'loc-key': { kind: 'string' },
  'loc-args': { kind: 'strings' },
};

/** Table 3, of critical alerts. */
const SOUND: FieldRules = {
  critical: { kind: 'one-of', values: [0, 1] },
  name: { kind: 'string' },
  volume: { kind: 'number', least: 0, most: 1 },
};

/** *Create a POST request to APNs*: the maximum payload size. */
const LIMIT_BYTES = 4096;
const VOIP_LIMIT_BYTES = 5120;
const COLLAPSE_ID_LIMIT_BYTES = 64;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;

const appleLimitBytes = (pushType: string | undefined): number =>
  pushType === 'voip' ? VOIP_LIMIT_BYTES : LIMIT_BYTES;

/** @param headers those of the request, by small names; without any only what stands in the payload is looked at */
export function readApplePayload(
  root: PlainObject,
  sizeBytes: number,
  headers: Readonly<Record<string, string>> = {},
): PushPayload {
  const { aps } = root;
  const limitBytes = appleLimitBytes(headers['apns-push-type']);
  const problems: PayloadProblem[] = [];
  if (sizeBytes > limitBytes)
    problems.push(error('too-large', '', `${sizeBytes} bytes`, `at most ${limitBytes} bytes`));
  const fields = isObject(aps) ? aps : {};
  if (!isObject(aps)) problems.push(error('no-aps', 'aps', formatValue(aps), 'an object'));
  problems.push(
    ...checkFields(fields, APS, 'aps', {
      expected: 'keys of your own beside aps, not in it',
      level: 'warning',
    }),
  );
  const alert = isObject(fields.alert) ? fields.alert : {};
  problems.push(...alertProblems(fields.alert), ...soundProblems(fields.sound));
  const silent = fields['content-available'] === 1 && fields.alert === undefined;
  const read: PushPayload = {
    form: 'apple',
    sizeBytes,
    limitBytes,
    silent,
    ...textsOf(fields.alert, alert),
    ...(typeof fields.category === 'string' && { category: fields.category }),
    ...(typeof fields.badge === 'number' && { badge: fields.badge }),
    data: Object.fromEntries(
      Object.entries(root)
        .filter(([key]) => key !== 'aps')
        .map(([key, value]) => [key, typeof value === 'string' ? value : JSON.stringify(value)]),
    ),
    problems,
  };
  if (Object.keys(headers).length > 0) problems.push(...headerProblems(headers, fields));
  if (!silent && !read.title && !read.body && fields.badge === undefined && fields.sound === undefined)
    problems.push({
      code: 'nothing-to-do',
      at: 'aps',
      found: 'no alert, badge, sound or content-available',
      expected: 'one of them',
      level: 'warning',
    });
  return read;
}

const error = (code: string, at: string, found: string, expected: string): PayloadProblem => ({
  code,
  at,
  found,
  expected,
  level: 'error',
});

function alertProblems(alert: unknown): PayloadProblem[] {
  if (alert === undefined || typeof alert === 'string') return [];
  if (!isObject(alert)) return [error('wrong-type', 'aps.alert', formatValue(alert), 'a text or an object')];
  const lonely = ['title-', 'subtitle-', ''].flatMap((prefix) =>
    alert[`${prefix}loc-args`] !== undefined && alert[`${prefix}loc-key`] === undefined
      ? [
          error(
            'args-without-key',
            `aps.alert.${prefix}loc-args`,
            'arguments',
            `${prefix}loc-key beside them`,
          ),
        ]
      : [],
  );
  return [
    ...checkFields(alert, ALERT, 'aps.alert', {
      expected: 'title, subtitle, body and their keys',
      level: 'warning',
    }),
    ...lonely,
  ];
}

function soundProblems(sound: unknown): PayloadProblem[] {
  if (sound === undefined || typeof sound === 'string') return [];
  if (!isObject(sound)) return [error('wrong-type', 'aps.sound', formatValue(sound), 'a text or an object')];
  return checkFields(sound, SOUND, 'aps.sound', { expected: 'critical, name, volume', level: 'warning' });
}

function textsOf(alert: unknown, fields: PlainObject): Pick<PushPayload, 'title' | 'subtitle' | 'body'> {
  if (typeof alert === 'string') return { body: { text: alert } };
  const text = (plain: string, prefix: string): PayloadText | undefined => {
    const key = fields[`${prefix}loc-key`];
    const args = fields[`${prefix}loc-args`];
    if (typeof key === 'string')
      return { key, args: Array.isArray(args) ? args.map((one) => String(one)) : [] };
    const written = fields[plain];
    return typeof written === 'string' ? { text: written } : undefined;
  };
  const [title, subtitle, body] = [text('title', 'title-'), text('subtitle', 'subtitle-'), text('body', '')];
  return { ...(title && { title }), ...(subtitle && { subtitle }), ...(body && { body }) };
}

function headerProblems(headers: Readonly<Record<string, string>>, aps: PlainObject): PayloadProblem[] {
  const problems: PayloadProblem[] = [];
  const at = (name: string) => `header ${name}`;
  const type = headers['apns-push-type'];
  const wrong = (name: string, expected: string) =>
    problems.push(error('header', at(name), headers[name] ?? 'nothing', expected));
  if (!type || !PUSH_TYPES.includes(type)) wrong('apns-push-type', PUSH_TYPES.join(', '));
  const { 'apns-priority': priority } = headers;
  if (priority !== undefined && !['10', '5', '1'].includes(priority)) wrong('apns-priority', '10, 5 or 1');
  if (type === 'background' && priority !== '5')
    problems.push(
      error(
        'silent-priority',
        at('apns-priority'),
        priority ?? '10, as nothing is said',
        '5 for the type background',
      ),
    );
  if (
    type === 'background' &&
    (aps.alert !== undefined || aps.sound !== undefined || aps.badge !== undefined)
  )
    problems.push(
      error(
        'silent-alert',
        'aps',
        'alert, sound or badge',
        'content-available alone for the type background',
      ),
    );
  if (type === 'background' && aps['content-available'] !== 1)
    problems.push(
      error(
        'silent-available',
        'aps.content-available',
        formatValue(aps['content-available']),
        '1 for the type background',
      ),
    );
  if (type === 'alert' && aps.alert === undefined && aps['content-available'] === 1)
    problems.push({
      code: 'silent-type',
      at: at('apns-push-type'),
      found: 'alert',
      expected: 'background, for a message that shows nothing',
      level: 'warning',
    });
  const { 'apns-expiration': expiration, 'apns-id': id, 'apns-topic': topic } = headers;
  if (expiration !== undefined && !/^\d+$/.test(expiration))
    wrong('apns-expiration', 'seconds since 1970, or 0');
  if (id !== undefined && !UUID.test(id)) wrong('apns-id', 'a UUID');
  const collapse = headers['apns-collapse-id'];
  const collapseBytes = new TextEncoder().encode(collapse ?? '').length;
  if (collapseBytes > COLLAPSE_ID_LIMIT_BYTES)
    problems.push(
      error('header', at('apns-collapse-id'), `${collapseBytes} bytes`, `at most ${COLLAPSE_ID_LIMIT_BYTES}`),
    );
  const ending = topicFor('', type ?? '');
  if (!topic) wrong('apns-topic', 'the bundle id');
  else if (!topic.endsWith(ending)) wrong('apns-topic', `the bundle id and ${ending}`);
  return problems;
}
