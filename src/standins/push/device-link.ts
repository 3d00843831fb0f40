/** A device's own connection to the gateway: it registers apps, and gets their messages. */
import { connect, type Socket } from 'node:net';
import type { DeliveredPush, PushEnvironment } from './gateway.ts';
import { readLines } from './json-lines.ts';

type GatewayLine =
  | { did: 'hello' }
  | { did: 'register'; appId: string; token: string }
  | ({ did: 'message' } & DeliveredPush);

export interface DeviceLinkOptions {
  /** `127.0.0.1:PORT` and what the gateway's file says. */
  devices: string;
  secret: string;
  deviceId: string;
  onMessage(push: DeliveredPush): void;
}

/** Goes offline and comes back as the device does. */
export class DeviceLink {
  readonly #options: DeviceLinkOptions;
  #socket?: Socket;
  #waiting = new Map<string, (token: string) => void>();
  #ready?: Promise<void>;

  constructor(options: DeviceLinkOptions) {
    this.#options = options;
  }

  goOnline(): Promise<void> {
    if (this.#ready) return this.#ready;
    const { deviceId, devices, onMessage, secret } = this.#options;
    const [host = '', port = ''] = devices.split(':');
    this.#ready = new Promise((resolve, reject) => {
      const socket = connect(Number(port), host);
      this.#socket = socket;
      socket.on('error', (error) => {
        this.goOffline();
        reject(error);
      });
      socket.on('close', () => {
        if (this.#socket === socket) this.goOffline();
      });
      readLines<GatewayLine>(socket, (line) => {
        if (line.did === 'hello') resolve();
        else if (line.did === 'register') {
          this.#waiting.get(line.appId)?.(line.token);
          this.#waiting.delete(line.appId);
        } else onMessage(line);
      });
      this.#say({ do: 'hello', device: deviceId, secret });
    });
    return this.#ready;
  }

  goOffline(): void {
    this.#ready = undefined;
    this.#socket?.destroy();
    this.#socket = undefined;
  }

  /** @throws Error where the device is offline */
  async register(appId: string, environment: PushEnvironment): Promise<string> {
    if (!this.#ready) throw new Error('the device is offline');
    await this.#ready;
    return new Promise((resolve) => {
      this.#waiting.set(appId, resolve);
      this.#say({ do: 'register', appId, environment });
    });
  }

  unregister(appId: string): void {
    this.#say({ do: 'unregister', appId });
  }

  #say(line: object): void {
    this.#socket?.write(`${JSON.stringify(line)}\n`);
  }
}
