/**
 * Channels that live activities subscribe to, of one environment: they are made, read and deleted, and a message to one
 * reaches every subscriber (Apple developer documentation, *Sending channel management requests to APNs*, *Sending broadcast
 * push notification requests to APNs*).
 */

import { objectIn } from '../json-lines.ts';
import type { DeliveredPush, PushRequest } from './push-request.ts';

interface ChannelAnswer {
  status: number;
  reason?: string;
  channelId?: string;
  body?: object;
}

interface Channel {
  appId: string;
  /** 1 keeps the newest message for devices that are away, 0 none. */
  storagePolicy: number;
  subscribers: Set<string>;
  kept?: { push: DeliveredPush; expiresAtMs: number; missedBy: Set<string> };
}

interface ChannelPorts {
  nowMs(): number;
  /** Base64. */
  newChannelId(): string;
  newId(): string;
}

/** A function that hands a message to a device, undefined while it is away. */
type OnlineDevice = (deviceId: string) => ((push: DeliveredPush) => void) | undefined;

const MANAGE = /^\/1\/apps\/([\w.-]+)\/(channels|all-channels)$/;
const BROADCAST = /^\/4\/broadcasts\/apps\/([\w.-]+)$/;
const LIMIT_BYTES = 5120;
const MOST_CHANNELS = 10_000;
const BASE64 = /^[A-Za-z0-9+/]+={0,2}$/;
const POLICIES = [0, 1];

export const isChannelPath = (path: string): boolean => MANAGE.test(path) || BROADCAST.test(path);

const refused = (reason: string): ChannelAnswer => ({ status: 400, reason });

export class BroadcastChannels {
  readonly #ports: ChannelPorts;
  readonly #online: OnlineDevice;
  #channels = new Map<string, Channel>();

  constructor(ports: ChannelPorts, online: OnlineDevice) {
    this.#ports = ports;
    this.#online = online;
  }

  subscribe(deviceId: string, channelId: string, isWanted: boolean): void {
    const channel = this.#channels.get(channelId);
    if (isWanted) channel?.subscribers.add(deviceId);
    else channel?.subscribers.delete(deviceId);
  }

  /** What was kept for a device that comes back. */
  connect(deviceId: string, deliver: (push: DeliveredPush) => void): void {
    for (const { kept } of this.#channels.values())
      if (kept?.missedBy.delete(deviceId) && kept.expiresAtMs > this.#ports.nowMs()) deliver(kept.push);
  }

  /** @param request one whose path `isChannelPath`, and whose provider token holds */
  answer(request: PushRequest): ChannelAnswer {
    const [, appId, part] = MANAGE.exec(request.path) ?? [];
    if (appId === undefined) return this.#broadcast(request);
    if (part === 'all-channels') return request.method === 'GET' ? this.#list(appId) : wrongMethod;
    if (request.method === 'POST') return this.#create(appId, request);
    const channel = this.#find(appId, request);
    if (typeof channel === 'string') return refused(channel);
    const channelId = request.headers['apns-channel-id']!;
    if (request.method === 'DELETE') {
      this.#channels.delete(channelId);
      return { status: 204 };
    }
    if (request.method !== 'GET') return wrongMethod;
    const { storagePolicy } = channel;
    return {
      status: 200,
      channelId,
      body: { 'message-storage-policy': storagePolicy, 'push-type': 'LiveActivity' },
    };
  }

  #list(appId: string): ChannelAnswer {
    const channels = [...this.#channels].filter(([, one]) => one.appId === appId).map(([id]) => id);
    return { status: 200, body: { channels } };
  }

  #create(appId: string, { body }: PushRequest): ChannelAnswer {
    const wanted = objectIn(new TextDecoder().decode(body)) as Record<string, unknown> | undefined;
    const type = wanted?.['push-type'];
    if (type === undefined) return refused('MissingPushType');
    if (String(type).toLowerCase() !== 'liveactivity') return refused('InvalidPushType');
    const storagePolicy = Number(wanted?.['message-storage-policy'] ?? 0);
    if (!POLICIES.includes(storagePolicy) || this.#channels.size >= MOST_CHANNELS)
      return refused('CannotCreateChannelConfig');
    const channelId = this.#ports.newChannelId();
    this.#channels.set(channelId, { appId, storagePolicy, subscribers: new Set() });
    return { status: 201, channelId };
  }

  /** @returns the reason where there is none */
  #find(appId: string, { headers }: PushRequest): Channel | string {
    const channelId = headers['apns-channel-id'];
    if (!channelId) return 'MissingChannelId';
    if (!BASE64.test(channelId)) return 'BadChannelId';
    const channel = this.#channels.get(channelId);
    return channel?.appId === appId ? channel : 'ChannelNotRegistered';
  }

  #broadcast(request: PushRequest): ChannelAnswer {
    const { body, headers, method, path } = request;
    if (method !== 'POST') return wrongMethod;
    const appId = BROADCAST.exec(path)![1]!;
    const channel = this.#find(appId, request);
    if (typeof channel === 'string') return refused(channel);
    if (headers['apns-push-type']?.toLowerCase() !== 'liveactivity') return refused('InvalidPushType');
    const expiration = headers['apns-expiration'];
    // a channel that keeps nothing has nothing that could expire
    if (!/^\d+$/.test(expiration ?? '') || (channel.storagePolicy === 0 && Number(expiration) !== 0))
      return refused('BadExpirationDate');
    if (!['10', '5', '1', undefined].includes(headers['apns-priority'])) return refused('BadPriority');
    if (body.length === 0) return refused('PayloadEmpty');
    if (body.length > LIMIT_BYTES) return { status: 413, reason: 'PayloadTooLarge' };
    const push = { appId, id: this.#ports.newId(), headers, payload: new TextDecoder().decode(body) };
    const missedBy = new Set<string>();
    for (const deviceId of channel.subscribers) {
      const deliver = this.#online(deviceId);
      if (deliver) deliver(push);
      else missedBy.add(deviceId);
    }
    if (channel.storagePolicy === 1)
      channel.kept = { push, expiresAtMs: Number(expiration) * 1000, missedBy };
    return { status: 200 };
  }
}

const wrongMethod: ChannelAnswer = { status: 405, reason: 'MethodNotAllowed' };
