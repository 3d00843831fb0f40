/**
 * Messages to Android apps, in the form of the platform's messaging service: the message by itself or as the field
 * `message` of a request (its reference, resource *projects.messages*; *About messages*).
 */
import type { PayloadProblem, PayloadText, PushPayload } from '../../model/push-payload.ts';
import { checkFields, type FieldRules, formatValue, isObject, type PlainObject } from './field-rules.ts';
import { isTopicName, parseTopicCondition } from './topic-condition.ts';

const MESSAGE: FieldRules = {
  name: { kind: 'string' },
  data: { kind: 'object' },
  notification: { kind: 'object' },
  android: { kind: 'object' },
  webpush: { kind: 'object' },
  apns: { kind: 'object' },
  token: { kind: 'string' },
  topic: { kind: 'any' },
  condition: { kind: 'any' },
  fcm_options: { kind: 'object' },
};
const NOTIFICATION: FieldRules = {
  title: { kind: 'string' },
  body: { kind: 'string' },
  image: { kind: 'string' },
};
const ANDROID: FieldRules = {
  bandwidth_constrained_ok: { kind: 'boolean' },
  collapse_key: { kind: 'string' },
  priority: { kind: 'one-of', values: ['NORMAL', 'HIGH', 'normal', 'high'] },
  ttl: { kind: 'any' },
  restricted_package_name: { kind: 'string' },
  data: { kind: 'object' },
  notification: { kind: 'object' },
  fcm_options: { kind: 'object' },
  restricted_satellite_ok: { kind: 'boolean' },
  direct_boot_ok: { kind: 'boolean' },
};
const ANDROID_NOTIFICATION: FieldRules = {
  ...NOTIFICATION,
  icon: { kind: 'string' },
  color: { kind: 'any' },
  sound: { kind: 'string' },
  tag: { kind: 'string' },
  click_action: { kind: 'string' },
  body_loc_key: { kind: 'string' },
  body_loc_args: { kind: 'strings' },
  title_loc_key: { kind: 'string' },
  title_loc_args: { kind: 'strings' },
  channel_id: { kind: 'string' },
  ticker: { kind: 'string' },
  sticky: { kind: 'boolean' },
  event_time: { kind: 'string' },
  local_only: { kind: 'boolean' },
  notification_priority: {
    kind: 'one-of',
    values: ['UNSPECIFIED', 'MIN', 'LOW', 'DEFAULT', 'HIGH', 'MAX'].map((name) => `PRIORITY_${name}`),
  },
  bypass_proxy_notification: { kind: 'boolean' },
  proxy: { kind: 'one-of', values: ['PROXY_UNSPECIFIED', 'ALLOW', 'DENY', 'IF_PRIORITY_LOWERED'] },
  default_sound: { kind: 'boolean' },
  default_vibrate_timings: { kind: 'boolean' },
  default_light_settings: { kind: 'boolean' },
  vibrate_timings: { kind: 'strings' },
  visibility: { kind: 'one-of', values: ['VISIBILITY_UNSPECIFIED', 'PRIVATE', 'PUBLIC', 'SECRET'] },
  notification_count: { kind: 'integer', least: 0 },
  light_settings: { kind: 'object' },
};

const RESERVED = /^(from|message_type|collapse_key)$|^(google|gcm\.notification)\./;
const ANDROID_LIMIT_BYTES = 4096;
const TARGETS = ['token', 'topic', 'condition'] as const;
/** Four weeks. */
const LONGEST_LIFE_S = 2_419_200;

/** All fields of a message that are read here, by the object they stand in. */
export const MESSAGE_FIELDS = { MESSAGE, NOTIFICATION, ANDROID, ANDROID_NOTIFICATION };

/**
 * The same message with its fields named as the reference names them: JSON may also write them in lowerCamelCase (Protocol
 * Buffers, *ProtoJSON format*). Keys of data are the sender's own, and stay.
 */
export function withReferenceNames(message: PlainObject): PlainObject {
  const named = rename(message, MESSAGE);
  if (isObject(named.notification)) named.notification = rename(named.notification, NOTIFICATION);
  if (!isObject(named.android)) return named;
  const android = rename(named.android, ANDROID);
  if (isObject(android.notification))
    android.notification = rename(android.notification, ANDROID_NOTIFICATION);
  return { ...named, android };
}

function rename(value: PlainObject, rules: FieldRules): PlainObject {
  return Object.fromEntries(
    Object.entries(value).map(([key, field]) => {
      const snake = key.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`);
      return [Object.hasOwn(rules, key) || !Object.hasOwn(rules, snake) ? key : snake, field];
    }),
  );
}

/** A whole request must say whom it is for. */
export function readAndroidMessage(root: PlainObject): PushPayload {
  const at = isObject(root.message) ? 'message' : '';
  const message = withReferenceNames(isObject(root.message) ? root.message : root);
  const place = (path: string) => [at, path].filter(Boolean).join('.');
  const platform = objectIn(message, 'android');
  const notification = objectIn(message, 'notification');
  const own = objectIn(platform, 'notification');
  const data = { ...objectIn(message, 'data'), ...objectIn(platform, 'data') };
  const unknown = { expected: 'a field of the message', level: 'error' } as const;
  const problems: PayloadProblem[] = [
    ...checkFields(message, MESSAGE, at, unknown),
    ...checkFields(notification, NOTIFICATION, place('notification'), unknown),
    ...checkFields(platform, ANDROID, place('android'), unknown),
    ...checkFields(own, ANDROID_NOTIFICATION, place('android.notification'), unknown),
    ...dataProblems(data, place('data')),
    ...lonelyArguments(own, place('android.notification')),
  ];
  problems.push(
    ...formProblems(
      platform.ttl,
      place('android.ttl'),
      isLife,
      'seconds up to four weeks, with an s: "3600s"',
    ),
    ...formProblems(own.color, place('android.notification.color'), isColour, 'a colour as "#rrggbb"'),
    ...formProblems(message.topic, place('topic'), isTopicName, 'letters, digits and - _ . ~ %'),
    ...formProblems(
      message.condition,
      place('condition'),
      (text) => parseTopicCondition(text) !== undefined,
      "at most five topics: 'delays' in topics && 'north' in topics",
    ),
  );
  const named = TARGETS.filter((name) => message[name] !== undefined);
  if (at && named.length !== 1)
    problems.push(error('target', at, named.join(', ') || 'none', 'one of token, topic, condition'));
  const sizeBytes = countBytes({ ...notification, ...own }) + countBytes(data);
  if (sizeBytes > ANDROID_LIMIT_BYTES)
    problems.push(
      error('too-large', at, `${sizeBytes} bytes of notification and data`, `at most ${ANDROID_LIMIT_BYTES}`),
    );
  const texts = textsOf({ ...notification, ...own });
  return {
    form: 'android',
    sizeBytes,
    limitBytes: ANDROID_LIMIT_BYTES,
    ...texts,
    silent: !texts.title && !texts.body,
    ...(typeof own.channel_id === 'string' && { channel: own.channel_id }),
    ...(typeof own.notification_count === 'number' && { badge: own.notification_count }),
    data: Object.fromEntries(
      Object.entries(data).map(([key, value]) => [
        key,
        typeof value === 'string' ? value : formatValue(value),
      ]),
    ),
    problems,
  };
}

const error = (code: string, at: string, found: string, expected: string): PayloadProblem => ({
  code,
  at,
  found,
  expected,
  level: 'error',
});

const isLife = (text: string): boolean =>
  /^\d+(\.\d{1,9})?s$/.test(text) && Number(text.slice(0, -1)) <= LONGEST_LIFE_S;
const isColour = (text: string): boolean => /^#[\da-f]{6}$/i.test(text);

const formProblems = (
  value: unknown,
  at: string,
  isRight: (text: string) => boolean,
  expected: string,
): PayloadProblem[] =>
  value === undefined || (typeof value === 'string' && isRight(value))
    ? []
    : [error('wrong-type', at, formatValue(value), expected)];

const objectIn = (of: PlainObject, key: string): PlainObject => {
  const value = of[key];
  return isObject(value) ? value : {};
};

const dataProblems = (data: PlainObject, at: string): PayloadProblem[] =>
  Object.entries(data).flatMap(([key, value]) => [
    ...(typeof value === 'string'
      ? []
      : [error('wrong-type', `${at}.${key}`, formatValue(value), 'a text: values of data are texts')]),
    ...(RESERVED.test(key)
      ? [error('reserved-key', `${at}.${key}`, 'a reserved key', 'a name of your own')]
      : []),
  ]);

const lonelyArguments = (own: PlainObject, at: string): PayloadProblem[] =>
  ['title', 'body'].flatMap((part) =>
    own[`${part}_loc_args`] !== undefined && own[`${part}_loc_key`] === undefined
      ? [error('args-without-key', `${at}.${part}_loc_args`, 'arguments', `${part}_loc_key beside them`)]
      : [],
  );

/** Keys and values, in UTF-8. */
const countBytes = (fields: PlainObject): number =>
  Object.entries(fields).reduce(
    (sum, [key, value]) =>
      sum +
      new TextEncoder().encode(key + (typeof value === 'string' ? value : JSON.stringify(value))).length,
    0,
  );

function textsOf(fields: PlainObject): Pick<PushPayload, 'title' | 'body'> {
  const text = (part: 'title' | 'body'): PayloadText | undefined => {
    const [key, args, written] = [fields[`${part}_loc_key`], fields[`${part}_loc_args`], fields[part]];
    if (typeof key === 'string')
      return { key, args: Array.isArray(args) ? args.map((one) => String(one)) : [] };
    return typeof written === 'string' ? { text: written } : undefined;
  };
  const [title, body] = [text('title'), text('body')];
  return { ...(title && { title }), ...(body && { body }) };
}
