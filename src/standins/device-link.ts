/** A device's own connection to a stand-in that sends messages: it registers apps, and gets what is sent to them. */
import { connect, type Socket } from 'node:net';
import { readLines } from './json-lines.ts';

type ServiceLine<Message> =
  | { did: 'hello' }
  | { did: 'register'; appId: string; token: string }
  | ({ did: 'message' } & Message);

export interface DeviceLinkOptions<Message> {
  /** `127.0.0.1:PORT` and what the stand-in's file says. */
  devices: string;
  secret: string;
  deviceId: string;
  onMessage(message: Message): void;
}

/** Goes offline and comes back as the device does. `Where` tells what an app registers for. */
export class DeviceLink<Message, Where extends object> {
  readonly #options: DeviceLinkOptions<Message>;
  #socket?: Socket;
  #waiting = new Map<string, (token: string) => void>();
  #ready?: Promise<void>;

  constructor(options: DeviceLinkOptions<Message>) {
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
      readLines<ServiceLine<Message>>(socket, (line) => {
        if (line.did === 'hello') resolve();
        else if (line.did === 'register') {
          this.#waiting.get(line.appId)?.(line.token);
          this.#waiting.delete(line.appId);
        } else onMessage(line);
      });
      this.tell({ do: 'hello', device: deviceId, secret });
    });
    return this.#ready;
  }

  goOffline(): void {
    this.#ready = undefined;
    this.#socket?.destroy();
    this.#socket = undefined;
  }

  /** @throws Error where the device is offline */
  async register(appId: string, where: Where): Promise<string> {
    if (!this.#ready) throw new Error('the device is offline');
    await this.#ready;
    return new Promise((resolve) => {
      this.#waiting.set(appId, resolve);
      this.tell({ do: 'register', appId, ...where });
    });
  }

  unregister(appId: string): void {
    this.tell({ do: 'unregister', appId });
  }

  /** Any other line of the stand-in's protocol; nothing is sent while the device is offline. */
  tell(line: object): void {
    this.#socket?.write(`${JSON.stringify(line)}\n`);
  }
}
