/**
 * Android's messaging service as a model: who is registered, what a request is answered, what is delivered at once, kept for
 * a device that is away or dozes, or replaced by a newer one (Firebase documentation: resource *projects.messages*, *FCM
 * error codes*, *Lifespan of a message*, *Message priority*, *Non-collapsible and collapsible messages*).
 */
import { readAndroidMessage, withReferenceNames } from '../../core/platform/push/android-message.ts';
import { isObject, type PlainObject } from '../../core/platform/push/field-rules.ts';
import { MESSAGE_ERRORS, type MessageErrorCode } from '../../core/platform/push/message-errors.ts';
import { parseTopicCondition } from '../../core/platform/push/topic-condition.ts';

/** What reaches a device. */
export interface DeliveredMessage {
  appId: string;
  id: string;
  /** Data and notification, those of `android` on top. */
  data: Readonly<Record<string, string>>;
  notification: PlainObject;
  priority: 'normal' | 'high';
}

export interface FieldViolation {
  field: string;
  description: string;
}

export type SendAnswer =
  | { name: string }
  | { error: MessageErrorCode; message: string; violations?: FieldViolation[] };

/** What is kept for a device that is away was too much: the app is told to ask its own server. */
export interface DeletedMessages {
  appId: string;
  deleted: true;
}

interface Registration {
  token: string;
  appId: string;
  deviceId: string;
  project: string;
  isGone: boolean;
  topics: Set<string>;
}

interface Kept {
  message: DeliveredMessage;
  collapseKey?: string;
  expiresAtMs: number;
}

interface Device {
  deliver?: (message: DeliveredMessage | DeletedMessages) => void;
  dozes: boolean;
  kept: Kept[];
  /** When the last messages to it were taken, for its limit. */
  takenAtMs: number[];
}

interface MessageServicePorts {
  nowMs(): number;
  /** Of letters, digits, `_`, `-` and one `:`; no length is promised. */
  newToken(): string;
  newId(): string;
}

/** How a request may go wrong for nothing that is in it: `slow`, `drop`, or a documented code. */
export const MESSAGE_FAULTS: readonly string[] = ['slow', 'drop', ...Object.keys(MESSAGE_ERRORS)];

const MOST_COLLAPSE_KEYS = 4;
const MOST_KEPT = 100;
const MOST_A_MINUTE = 240;
const MINUTE_MS = 60_000;
/** Also where the message names no time to live. */
const LONGEST_LIFE_S = 28 * 24 * 3600;
const TOKEN = /^[\w-]+:[\w-]+$/;

export class MessageService {
  readonly #ports: MessageServicePorts;
  #registrations = new Map<string, Registration>();
  #devices = new Map<string, Device>();
  #faults: string[] = [];
  readonly counts = { accepted: 0, refused: 0, delivered: 0 };

  constructor(ports: MessageServicePorts) {
    this.#ports = ports;
  }

  /** @throws RangeError where there is no such fault */
  fail(fault: string, times = 1): void {
    if (!MESSAGE_FAULTS.includes(fault))
      throw new RangeError(`${fault} is none of ${MESSAGE_FAULTS.join(', ')}`);
    this.#faults.push(...Array.from({ length: times }, () => fault));
  }
  nextFault = (): string | undefined => this.#faults.shift();

  // --- devices

  /** A device that asks again gets the same; after the app was removed, or its data cleared, another one. */
  register(deviceId: string, appId: string, project: string): string {
    const before = this.#find(deviceId, appId, project);
    if (before) return before.token;
    const token = this.#ports.newToken();
    this.#registrations.set(token, { token, appId, deviceId, project, isGone: false, topics: new Set() });
    return token;
  }

  unregister(deviceId: string, appId: string): void {
    for (const one of this.#registrations.values())
      if (one.deviceId === deviceId && one.appId === appId) one.isGone = true;
    const device = this.#device(deviceId);
    device.kept = device.kept.filter(({ message }) => message.appId !== appId);
  }

  subscribe(deviceId: string, appId: string, topic: string, isWanted: boolean): void {
    for (const one of this.#registrations.values()) {
      if (one.deviceId !== deviceId || one.appId !== appId) continue;
      if (isWanted) one.topics.add(topic);
      else one.topics.delete(topic);
    }
  }

  connect(deviceId: string, deliver: NonNullable<Device['deliver']>): void {
    const device = this.#device(deviceId);
    device.deliver = deliver;
    this.#deliverKept(device);
  }
  disconnect(deviceId: string): void {
    this.#device(deviceId).deliver = undefined;
  }

  /** While it dozes only messages of high priority reach it. */
  doze(deviceId: string, dozes: boolean): void {
    const device = this.#device(deviceId);
    device.dozes = dozes;
    this.#deliverKept(device);
  }

  #device(deviceId: string): Device {
    const known = this.#devices.get(deviceId) ?? { dozes: false, kept: [], takenAtMs: [] };
    this.#devices.set(deviceId, known);
    return known;
  }

  #find = (deviceId: string, appId: string, project: string): Registration | undefined =>
    [...this.#registrations.values()].find(
      (one) => one.deviceId === deviceId && one.appId === appId && one.project === project && !one.isGone,
    );

  // --- senders

  /** @param body the request's JSON, taken apart. @param project of the path */
  send(project: string, body: unknown): SendAnswer {
    const answer = this.#answer(project, body);
    if ('error' in answer) this.counts.refused += 1;
    else this.counts.accepted += 1;
    return answer;
  }

  #answer(project: string, body: unknown): SendAnswer {
    const violations = violationsOf(body);
    if (violations.length > 0)
      return {
        error: 'INVALID_ARGUMENT',
        message: `Invalid value at '${violations[0]!.field}': ${violations[0]!.description}`,
        violations,
      };
    const request = body as { message: PlainObject; validate_only?: boolean; validateOnly?: boolean };
    const message = withReferenceNames(request.message);
    const isTrial = request.validate_only ?? request.validateOnly ?? false;
    const to = this.#recipients(project, message);
    if ('error' in to) return to;
    if (isTrial) return { name: `projects/${project}/messages/fake_message_id` };
    const nowMs = this.#ports.nowMs();
    if (message.token !== undefined && this.#isOverLimit(this.#device(to[0]!.deviceId), nowMs))
      return { error: 'QUOTA_EXCEEDED', message: 'Too many messages to this device.' };
    const id = this.#ports.newId();
    for (const one of to) this.#sendTo(one, message, id, nowMs);
    return { name: `projects/${project}/messages/${id}` };
  }

  #recipients(
    project: string,
    message: PlainObject,
  ): Registration[] | Extract<SendAnswer, { error: string }> {
    const { condition, token, topic } = message;
    if (typeof token === 'string') {
      const one = this.#registrations.get(token);
      if (!one && !TOKEN.test(token))
        return {
          error: 'INVALID_ARGUMENT',
          message: 'The registration token is not a valid FCM registration token',
          violations: [{ field: 'message.token', description: 'Invalid registration token' }],
        };
      if (!one || one.isGone) return { error: 'UNREGISTERED', message: 'Requested entity was not found.' };
      return one.project === project ? [one] : { error: 'SENDER_ID_MISMATCH', message: 'SenderId mismatch' };
    }
    const wanted =
      typeof topic === 'string'
        ? (topics: ReadonlySet<string>) => topics.has(topic)
        : parseTopicCondition(String(condition))!.holds;
    return [...this.#registrations.values()].filter(
      (one) => one.project === project && !one.isGone && wanted(one.topics),
    );
  }

  #isOverLimit(device: Device, nowMs: number): boolean {
    device.takenAtMs = device.takenAtMs.filter((atMs) => nowMs - atMs < MINUTE_MS);
    return device.takenAtMs.length >= MOST_A_MINUTE;
  }

  #sendTo({ appId, deviceId }: Registration, message: PlainObject, id: string, nowMs: number): void {
    const device = this.#device(deviceId);
    device.takenAtMs.push(nowMs);
    const android = objectIn(message, 'android');
    const { restricted_package_name: only } = android;
    if (typeof only === 'string' && only !== appId) return;
    const notification = { ...objectIn(message, 'notification'), ...objectIn(android, 'notification') };
    const isShown = Object.keys(notification).length > 0;
    const priority = String(android.priority ?? (isShown ? 'high' : 'normal')).toLowerCase();
    const delivered: DeliveredMessage = {
      appId,
      id,
      data: { ...objectIn(message, 'data'), ...objectIn(android, 'data') } as Record<string, string>,
      notification,
      priority: priority === 'high' ? 'high' : 'normal',
    };
    if (device.deliver && (!device.dozes || delivered.priority === 'high')) {
      this.counts.delivered += 1;
      device.deliver(delivered);
      return;
    }
    const lifeS = android.ttl === undefined ? LONGEST_LIFE_S : Number(String(android.ttl).slice(0, -1));
    if (lifeS === 0) return;
    // what the system shows can always be replaced by a newer one of the same app
    const collapseKey = (android.collapse_key as string | undefined) ?? (isShown ? appId : undefined);
    keep(device, {
      message: delivered,
      expiresAtMs: nowMs + lifeS * 1000,
      ...(collapseKey !== undefined && { collapseKey }),
    });
  }

  #deliverKept(device: Device): void {
    if (!device.deliver) return;
    const nowMs = this.#ports.nowMs();
    const living = device.kept.filter(({ expiresAtMs }) => expiresAtMs > nowMs);
    device.kept = living.filter(({ message }) => device.dozes && message.priority === 'normal');
    const due = living.filter((one) => !device.kept.includes(one));
    const appIds = new Set(due.map(({ message }) => message.appId));
    for (const appId of appIds) {
      const own = due.filter(({ message }) => message.appId === appId);
      const plain = own.filter(({ collapseKey }) => collapseKey === undefined);
      const tooMany = plain.length > MOST_KEPT;
      if (tooMany) device.deliver({ appId, deleted: true });
      for (const one of own)
        if (!(tooMany && one.collapseKey === undefined)) {
          this.counts.delivered += 1;
          device.deliver(one.message);
        }
    }
  }
}

/** One for each collapse key, of an app the four newest keys; of the others no more than tell that there were too many. */
function keep(device: Device, one: Kept): void {
  const { appId } = one.message;
  const isSame = (other: Kept) =>
    other.message.appId === appId && other.collapseKey === one.collapseKey && other.collapseKey !== undefined;
  device.kept = [...device.kept.filter((other) => !isSame(other)), one];
  const own = device.kept.filter(({ message }) => message.appId === appId);
  const keyed = own.filter(({ collapseKey }) => collapseKey !== undefined);
  const plain = own.filter(({ collapseKey }) => collapseKey === undefined);
  const dropped = new Set([
    ...keyed.slice(0, Math.max(0, keyed.length - MOST_COLLAPSE_KEYS)),
    ...plain.slice(0, Math.max(0, plain.length - MOST_KEPT - 1)),
  ]);
  device.kept = device.kept.filter((other) => !dropped.has(other));
}

const objectIn = (of: PlainObject, key: string): PlainObject => (isObject(of[key]) ? of[key] : {});

const REQUEST_FIELDS = ['message', 'validate_only', 'validateOnly'];

function violationsOf(body: unknown): FieldViolation[] {
  if (!isObject(body)) return [{ field: '', description: 'a JSON object is required' }];
  const unknown = Object.keys(body).filter((key) => !REQUEST_FIELDS.includes(key));
  if (unknown.length > 0)
    return unknown.map((field) => ({ field, description: 'the request has no such field' }));
  if (!['boolean', 'undefined'].includes(typeof (body.validate_only ?? body.validateOnly)))
    return [{ field: 'validate_only', description: 'true or false is required' }];
  if (!isObject(body.message)) return [{ field: 'message', description: 'a message is required' }];
  return readAndroidMessage(body)
    .problems.filter(({ level }) => level === 'error')
    .map(({ at, expected, found }) => ({ field: at, description: `${found}; required is ${expected}` }));
}
