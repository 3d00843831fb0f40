/** A push message from a file: which platform it is for is told by what stands in it. */
import { UnreadableError } from '../model/problem.ts';
import type { PushPayload } from '../model/push-payload.ts';
import { readAndroidMessage } from '../platform/push/android-message.ts';
import { readApplePayload } from '../platform/push/apple-payload.ts';
import { isObject } from '../platform/push/field-rules.ts';

/** Far above what any gateway takes, so that what is too large is told with its size. */
export const PAYLOAD_FILE_LIMIT_BYTES = 1024 * 1024;

const APPLE_KEYS = ['aps'];
const ANDROID_KEYS = ['message', 'notification', 'data', 'android'];

/** Whether a JSON text looks like a push message, and not like a file of Fenlok. */
export function isPushPayload(json: unknown): boolean {
  return isObject(json) && !('fenlok' in json) && [...APPLE_KEYS, ...ANDROID_KEYS].some((key) => key in json);
}

/** @throws UnreadableError where it is no JSON object, or for neither platform */
export function readPushPayload(
  file: string,
  bytes: Uint8Array,
  headers?: Readonly<Record<string, string>>,
): PushPayload {
  const wrong = (found: string, expected: string) =>
    new UnreadableError({ code: 'payload.form', file, found, expected });
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    throw wrong('bytes that are no UTF-8', 'JSON in UTF-8');
  }
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw wrong(`no JSON: ${(error as Error).message}`, 'a JSON object');
  }
  if (!isObject(json)) throw wrong(Array.isArray(json) ? 'a list' : 'a single value', 'a JSON object');
  if (APPLE_KEYS.some((key) => key in json)) return readApplePayload(json, bytes.length, headers);
  if (ANDROID_KEYS.some((key) => key in json)) return readAndroidMessage(json);
  throw wrong(
    `the keys ${Object.keys(json).slice(0, 8).join(', ') || 'none'}`,
    'aps for iOS, or message, notification, data or android for Android',
  );
}
