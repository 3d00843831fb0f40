/**
 * A small device as iOS has it, without a display: one app with a token, a permission, and a trace of what the system
 * and the app did with each message (Apple developer documentation, *Asking permission to use notifications*, *Handling
 * notifications and notification-related actions*).
 */
import { z } from 'zod';
import { DeviceLink, type DeviceLinkOptions } from '../device-link.ts';
import { objectIn } from '../json-lines.ts';
import type { DeliveredPush, PushEnvironment } from './gateway.ts';

type AppState = 'foreground' | 'background' | 'not-running';
export type Permission = 'not-asked' | 'granted' | 'refused';

export interface ReceiverApp {
  appId: string;
  environment: PushEnvironment;
  /** Whether it lets messages be shown while it is in front. */
  showsInFront: boolean;
  /** Actions by category, as it registers them. */
  categories: Readonly<Record<string, readonly string[]>>;
}

export interface ReceiverLine {
  at: string;
  kind: string;
  [key: string]: unknown;
}

/** What is of another type counts as not there. */
const apsSchema = z.object({
  alert: z.unknown().optional(),
  badge: z.number().optional().catch(undefined),
  category: z.string().optional().catch(undefined),
  'content-available': z.number().optional().catch(undefined),
});
/** Of the push types those whose `aps` the system reads itself. */
const SHOWN_BY_THE_SYSTEM: readonly string[] = ['alert', 'background'];
type Aps = z.infer<typeof apsSchema>;

export class Receiver {
  readonly lines: ReceiverLine[] = [];
  readonly #app: ReceiverApp;
  readonly #link: DeviceLink<DeliveredPush, { environment: PushEnvironment }>;
  state: AppState = 'not-running';
  permission: Permission = 'not-asked';
  badge = 0;
  /** What stands in the notification centre, newest last. */
  shown: { id: string; aps: Aps }[] = [];
  #onLine: (line: ReceiverLine) => void = () => {};

  constructor(
    app: ReceiverApp,
    at: Pick<DeviceLinkOptions<DeliveredPush>, 'devices' | 'secret'>,
    deviceId: string,
  ) {
    this.#app = app;
    this.#link = new DeviceLink({ ...at, deviceId, onMessage: (push) => this.#received(push) });
  }

  onLine(listen: (line: ReceiverLine) => void): void {
    this.#onLine = listen;
  }

  goOnline = (): Promise<void> => this.#link.goOnline();
  goOffline = (): void => this.#link.goOffline();

  /** The user opens the app by its icon. */
  open(): void {
    this.state = 'foreground';
    this.#write('app.opened', {});
  }
  leave(): void {
    this.state = 'background';
    this.#write('app.left', {});
  }
  end(): void {
    this.state = 'not-running';
    this.#write('app.ended', {});
  }

  /** The app asks, and the user answers; a second question is never shown. */
  answer(permission: 'granted' | 'refused'): void {
    if (this.permission === 'not-asked') this.permission = permission;
    this.#write('push.permission', { answered: this.permission });
  }

  /** Works without permission too, as the documentation has it. */
  async register(): Promise<string> {
    const token = await this.#link.register(this.#app.appId, { environment: this.#app.environment });
    this.#write('push.registered', { bytes: token.length / 2 });
    return token;
  }

  /** Removed and installed again: token, permission and badge begin again. */
  reinstall(): void {
    this.#link.unregister(this.#app.appId);
    Object.assign(this, { state: 'not-running', permission: 'not-asked', badge: 0, shown: [] });
    this.#write('app.installed', {});
  }

  /** The newest message, or one of its actions. */
  tap(action?: string): void {
    const one = this.shown.pop();
    if (!one) return;
    const known = this.#app.categories[one.aps.category ?? ''] ?? [];
    if (action !== undefined && !known.includes(action)) {
      this.shown.push(one);
      this.#write('push.no-action', { id: one.id, action });
      return;
    }
    this.state = 'foreground';
    this.#write('push.opened', { id: one.id, ...(action !== undefined && { action }) });
  }

  clearBadge(): void {
    this.badge = 0;
    this.#write('push.badge', { badge: 0 });
  }

  #received({ headers, id, payload: text }: DeliveredPush): void {
    const { 'apns-push-type': type = 'alert' } = headers;
    if (!SHOWN_BY_THE_SYSTEM.includes(type)) {
      // handed to the part of the app that registered for this type, which is woken for it
      this.#write('push.woke', { id, type, state: this.state });
      return;
    }
    const read = apsSchema.safeParse((objectIn(text) as { aps?: unknown } | undefined)?.aps);
    if (!read.success) {
      this.#write('push.not-shown', { id, why: 'not readable' });
      return;
    }
    const aps = read.data;
    const { alert, badge, 'content-available': silent } = aps;
    if (silent === 1) this.#write('push.woke', { id, state: this.state });
    if (badge !== undefined && this.permission === 'granted') {
      this.badge = badge;
      this.#write('push.badge', { badge });
    }
    if (alert === undefined || alert === null || type === 'background') return;
    if (this.permission !== 'granted')
      this.#write('push.not-shown', { id, why: `permission ${this.permission}` });
    else if (this.state === 'foreground' && !this.#app.showsInFront)
      this.#write('push.not-shown', { id, why: 'in front' });
    else {
      this.shown.push({ id, aps });
      this.#write('push.shown', { id, state: this.state });
    }
  }

  #write(kind: string, more: Record<string, unknown>): void {
    const line = { at: new Date().toISOString(), kind, ...more };
    this.lines.push(line);
    this.#onLine(line);
  }
}
