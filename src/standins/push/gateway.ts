/**
 * The push gateway as a model: who is registered, what a request is answered, what is delivered and what is kept for a
 * device that is not there. Requests, reasons and status codes are those of Apple's documentation (*Sending notification
 * requests to APNs*, *Handling notification responses from APNs*); provider tokens those of *Establishing a token-based
 * connection to APNs*.
 */

import { PUSH_TYPES, topicFor } from '../../core/platform/push/push-types.ts';
import { REASON_STATUS } from '../../core/platform/push/reasons.ts';
import { BroadcastChannels, isChannelPath } from './broadcast-channels.ts';
import type { DeliveredPush, PushRequest } from './push-request.ts';

export type { DeliveredPush, PushRequest } from './push-request.ts';

export type PushEnvironment = 'production' | 'development';

interface PushAnswer {
  status: number;
  id: string;
  /** Says that the development gateway took it; its log is asked by it. */
  uniqueId?: string;
  reason?: string;
  /** Milliseconds since 1970: since when a token is no longer good. */
  timestamp?: number;
  /** Of requests that are about channels. */
  channelId?: string;
  body?: object;
}

/** What a provider's token says, once its signature holds. */
export interface ProviderClaims {
  keyId: string;
  teamId: string;
  issuedAtS: number;
}

interface GatewayPorts {
  nowMs(): number;
  /** Hex, of a length of its own choosing. */
  newToken(): string;
  newId(): string;
  /** Base64. */
  newChannelId(): string;
  /** @returns undefined where the signature does not hold, or the key is not known */
  verifyProvider(token: string): Promise<ProviderClaims | undefined>;
  /** `strict` counts new provider tokens over all connections; else each connection starts its own count. */
  tokenPolicy?: 'connection' | 'strict';
}

interface Registration {
  token: string;
  appId: string;
  deviceId: string;
  environment: PushEnvironment;
  goneAtMs?: number;
}

interface Waiting {
  push: DeliveredPush;
  expiresAtMs: number;
}

/** How a request may go wrong for nothing that is in it: `slow`, `drop`, or a documented reason. */
export type Fault = string;
export const FAULTS: readonly Fault[] = ['slow', 'drop', ...REASON_STATUS.keys()];

const PROVIDER_TOKEN_LIFE_S = 3600;
const PROVIDER_TOKEN_REST_MS = 20 * 60_000;
const LIMIT_BYTES = 4096;
const VOIP_LIMIT_BYTES = 5120;
const COLLAPSE_ID_LIMIT_BYTES = 64;
const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i;
/** What a device that is away gets at last, when no expiration is given: nothing is kept for longer. */
const KEPT_MS = 30 * 24 * 3600_000;

type Refusal = Required<Pick<PushAnswer, 'reason' | 'status'>> & Pick<PushAnswer, 'timestamp'>;

const refused = (reason: string, timestamp?: number): Refusal => ({
  status: REASON_STATUS.get(reason)!,
  reason,
  ...(timestamp !== undefined && { timestamp }),
});

/** Of each key the token in use: when it says that it was made, and since when it is used. */
type TokensInUse = Map<string, { issuedAtS: number; sinceMs: number }>;

export class PushGateway {
  readonly #ports: GatewayPorts;
  #registrations = new Map<string, Registration>();
  #online = new Map<string, (push: DeliveredPush) => void>();
  /** One for each device and app, the newest. */
  #waiting = new Map<string, Waiting>();
  #providers = new WeakMap<object, TokensInUse>();
  #faults: Fault[] = [];
  readonly channels: Readonly<Record<PushEnvironment, BroadcastChannels>>;
  readonly counts = { accepted: 0, refused: 0, delivered: 0 };

  constructor(ports: GatewayPorts) {
    this.#ports = ports;
    const online = (deviceId: string) => this.#online.get(deviceId);
    this.channels = {
      production: new BroadcastChannels(ports, online),
      development: new BroadcastChannels(ports, online),
    };
  }

  /**
   * The next so many requests go wrong in this way.
   * @throws RangeError where there is no such fault
   */
  fail(fault: Fault, times = 1): void {
    if (!FAULTS.includes(fault)) throw new RangeError(`${fault} is none of ${FAULTS.join(', ')}`);
    this.#faults.push(...Array.from({ length: times }, () => fault));
  }
  nextFault = (): Fault | undefined => this.#faults.shift();

  /** A device that asks again gets the same; after a removal of the app, another one. */
  register(deviceId: string, appId: string, environment: PushEnvironment): string {
    for (const one of this.#registrations.values())
      if (
        one.deviceId === deviceId &&
        one.appId === appId &&
        one.environment === environment &&
        !one.goneAtMs
      )
        return one.token;
    const token = this.#ports.newToken();
    this.#registrations.set(token, { token, appId, deviceId, environment });
    return token;
  }

  /** The app was removed: its tokens are refused from now on. */
  unregister(deviceId: string, appId: string): void {
    for (const one of this.#registrations.values())
      if (one.deviceId === deviceId && one.appId === appId) one.goneAtMs ??= this.#ports.nowMs();
    this.#waiting.delete(`${deviceId} ${appId}`);
  }

  /** A device comes online; what waits for it is delivered. */
  connect(deviceId: string, deliver: (push: DeliveredPush) => void): void {
    this.#online.set(deviceId, deliver);
    for (const [key, { expiresAtMs, push }] of this.#waiting) {
      if (!key.startsWith(`${deviceId} `)) continue;
      this.#waiting.delete(key);
      if (expiresAtMs > this.#ports.nowMs()) this.#deliver(deliver, push);
    }
    for (const channels of Object.values(this.channels)) channels.connect(deviceId, deliver);
  }
  disconnect(deviceId: string): void {
    this.#online.delete(deviceId);
  }

  /** @param reason what it answers, whatever the request says */
  async answer(environment: PushEnvironment, request: PushRequest, reason?: string): Promise<PushAnswer> {
    const id = UUID.test(request.headers['apns-id'] ?? '')
      ? request.headers['apns-id']!
      : this.#ports.newId();
    if (!reason && isChannelPath(request.path)) {
      const refusal = await this.#refuseProvider(request.headers.authorization, request.connection);
      return { ...(refusal ?? this.channels[environment].answer(request)), id };
    }
    const refusal = reason ? refused(reason) : await this.#refuse(environment, request);
    if (refusal) {
      this.counts.refused += 1;
      return { ...refusal, id };
    }
    this.counts.accepted += 1;
    this.#send(request, id);
    return { status: 200, id, ...(environment === 'development' && { uniqueId: this.#ports.newId() }) };
  }

  async #refuse(environment: PushEnvironment, request: PushRequest): Promise<Refusal | undefined> {
    const { body, headers, method, path } = request;
    const token = /^\/3\/device\/([^/?]*)$/.exec(path)?.[1];
    if (token === undefined) return refused('BadPath');
    if (method !== 'POST') return refused('MethodNotAllowed');
    if (token === '') return refused('MissingDeviceToken');
    if (request.repeated?.length) return refused('DuplicateHeaders');
    const provider = await this.#refuseProvider(headers.authorization, request.connection);
    if (provider) return provider;
    const header = this.#refuseHeaders(headers);
    if (header) return refused(header);
    if (body.length === 0) return refused('PayloadEmpty');
    const limit = headers['apns-push-type'] === 'voip' ? VOIP_LIMIT_BYTES : LIMIT_BYTES;
    if (body.length > limit) return refused('PayloadTooLarge');
    const registration = this.#registrations.get(token.toLowerCase());
    // a token of the other environment is as good as none
    if (registration?.environment !== environment) return refused('BadDeviceToken');
    if (registration.goneAtMs !== undefined) return refused('Unregistered', registration.goneAtMs);
    const { 'apns-push-type': type, 'apns-topic': topic } = headers;
    // without a type, the topic alone says what it is
    const topics = (type === undefined ? PUSH_TYPES : [type]).map((one) => topicFor(registration.appId, one));
    return topics.includes(topic!) ? undefined : refused('DeviceTokenNotForTopic');
  }

  async #refuseProvider(
    authorization: string | undefined,
    connection: object = this,
  ): Promise<Refusal | undefined> {
    const token = /^bearer (.+)$/i.exec(authorization ?? '')?.[1];
    if (!token) return refused('MissingProviderToken');
    const claims = await this.#ports.verifyProvider(token);
    if (!claims) return refused('InvalidProviderToken');
    const nowMs = this.#ports.nowMs();
    const ageS = nowMs / 1000 - claims.issuedAtS;
    if (ageS > PROVIDER_TOKEN_LIFE_S) return refused('ExpiredProviderToken');
    // a second is what rounding may make
    if (ageS < -1) return refused('InvalidProviderToken');
    const counted = this.#ports.tokenPolicy === 'strict' ? this : connection;
    const inUse: TokensInUse = this.#providers.get(counted) ?? new Map();
    this.#providers.set(counted, inUse);
    const key = `${claims.teamId} ${claims.keyId}`;
    const before = inUse.get(key);
    if (before?.issuedAtS === claims.issuedAtS) return undefined;
    if (before && nowMs - before.sinceMs < PROVIDER_TOKEN_REST_MS)
      return refused('TooManyProviderTokenUpdates');
    inUse.set(key, { issuedAtS: claims.issuedAtS, sinceMs: nowMs });
    return undefined;
  }

  #refuseHeaders(headers: PushRequest['headers']): string | undefined {
    const { 'apns-priority': priority, 'apns-push-type': type, 'apns-topic': topic } = headers;
    if (headers['apns-id'] !== undefined && !UUID.test(headers['apns-id'])) return 'BadMessageId';
    if (!topic) return 'MissingTopic';
    if (!/^[\w.-]+$/.test(topic)) return 'BadTopic';
    if (type !== undefined && !PUSH_TYPES.includes(type)) return 'InvalidPushType';
    if (priority !== undefined && !['10', '5', '1'].includes(priority)) return 'BadPriority';
    if (type === 'background' && priority !== '5') return 'BadPriority';
    if (!/^\d*$/.test(headers['apns-expiration'] ?? '')) return 'BadExpirationDate';
    const collapse = new TextEncoder().encode(headers['apns-collapse-id'] ?? '');
    return collapse.length > COLLAPSE_ID_LIMIT_BYTES ? 'BadCollapseId' : undefined;
  }

  #send({ body, headers, path }: PushRequest, id: string): void {
    const { appId, deviceId } = this.#registrations.get(path.split('/').at(-1)!.toLowerCase())!;
    const push: DeliveredPush = { appId, id, headers, payload: new TextDecoder().decode(body) };
    const deliver = this.#online.get(deviceId);
    if (deliver) this.#deliver(deliver, push);
    else {
      const expiration = headers['apns-expiration'];
      const nowMs = this.#ports.nowMs();
      const expiresAtMs = expiration ? Number(expiration) * 1000 : nowMs + KEPT_MS;
      if (expiresAtMs > nowMs) this.#waiting.set(`${deviceId} ${appId}`, { push, expiresAtMs });
    }
  }

  #deliver(deliver: (push: DeliveredPush) => void, push: DeliveredPush): void {
    this.counts.delivered += 1;
    deliver(push);
  }
}
