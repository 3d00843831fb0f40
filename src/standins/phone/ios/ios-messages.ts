/**
 * Messages on the iOS phone: from the push gateway to the shade or to the app's own code, and from a touch to a screen
 * (UserNotifications; UIKit, `application(_:didReceiveRemoteNotification:fetchCompletionHandler:)`).
 */
import { z } from 'zod';
import { DeviceLink, type DeviceLinkOptions } from '../../device-link.ts';
import { objectIn } from '../../json-lines.ts';
import type { DeliveredPush, PushEnvironment } from '../../push/gateway.ts';
import type { AppContext, MessageAction, MessageLog } from '../app-model.ts';
import type { InstalledIosApp } from './running-app.ts';

/** As apps here ask for it. */
const PERMISSION = 'android.permission.POST_NOTIFICATIONS';
const BANNER_MS = 5_000;

const alertSchema = z
  .object({
    title: z.string(),
    body: z.string(),
    'title-loc-key': z.string(),
    'title-loc-args': z.array(z.string()),
    'loc-key': z.string(),
    'loc-args': z.array(z.string()),
  })
  .partial();
const apsSchema = z.object({
  alert: z.union([z.string(), alertSchema]).optional(),
  badge: z.number().optional(),
  category: z.string().optional(),
  'content-available': z.number().optional(),
});
type Aps = z.infer<typeof apsSchema>;

type Payload = Readonly<Record<string, unknown>>;

export interface ShownMessage {
  app: InstalledIosApp;
  title: string;
  body: string;
  /** Its buttons, as its category has them. */
  actions: readonly (MessageAction & { words: string })[];
  payload: Payload;
}

/** What the rest of the phone does for messages. */
interface MessagePhone {
  app(appId: string): InstalledIosApp | undefined;
  isInFront(app: InstalledIosApp): boolean;
  /** In the background, where it does not run. */
  wake(app: InstalledIosApp): Promise<void>;
  context(app: InstalledIosApp): AppContext;
  /** Runs code of the app; what it throws ends its process. */
  run<T>(app: InstalledIosApp, code: (host: MessageLog) => T): T | undefined;
  logOf(app: InstalledIosApp): MessageLog['log'];
}

export class IosMessages {
  readonly #phone: MessagePhone;
  #link?: DeviceLink<DeliveredPush, { environment: PushEnvironment }>;
  #shown: ShownMessage[] = [];
  #badges = new Map<string, number>();
  #banner?: { message: ShownMessage; untilMs: number };
  /** The one that was held, with its buttons in sight. */
  held?: ShownMessage | undefined;

  constructor(phone: MessagePhone) {
    this.#phone = phone;
  }

  /** The phone is a device of this gateway. */
  async connect(
    at: Pick<DeviceLinkOptions<DeliveredPush>, 'devices' | 'secret'>,
    deviceId: string,
  ): Promise<void> {
    this.#link = new DeviceLink({ ...at, deviceId, onMessage: (push) => void this.#receive(push) });
    await this.goOnline();
  }
  async goOnline(): Promise<void> {
    await this.#link?.goOnline();
  }
  goOffline = (): void => this.#link?.goOffline();

  /** With or without the user's permission; for the environment that it is signed for. */
  async register(app: InstalledIosApp): Promise<void> {
    const signed = app.opened.app.ios?.entitlements['aps-environment'];
    const { messages } = app.model;
    if (!this.#link || !messages || (signed !== 'development' && signed !== 'production')) return;
    const token = await this.#link.register(app.appId, { environment: signed }).catch(() => undefined);
    if (token !== undefined) messages.registered({ log: this.#phone.logOf(app) }, token);
  }

  /** The app was removed, and with it whatever was there for it. */
  forget(app: InstalledIosApp): void {
    this.#link?.unregister(app.appId);
    this.#shown = this.#shown.filter((one) => one.app !== app);
    this.#badges.delete(app.appId);
    this.held = undefined;
    this.#banner = undefined;
  }

  /** The newest first. */
  list = (): readonly ShownMessage[] => this.#shown.toReversed();
  /** Over whatever is in front. */
  banner = (): ShownMessage | undefined =>
    this.#banner && this.#banner.untilMs > Date.now() ? this.#banner.message : undefined;

  badgeOf = ({ appId }: InstalledIosApp): number => this.#badges.get(appId) ?? 0;
  setBadge = ({ appId }: InstalledIosApp, badge: number): void => {
    this.#badges.set(appId, badge);
  };

  /** It was opened, or one of its buttons touched. */
  take(message: ShownMessage): void {
    this.#shown = this.#shown.filter((one) => one !== message);
    this.held = undefined;
    this.#banner = undefined;
  }

  async #receive({ appId, headers, payload: text }: DeliveredPush): Promise<void> {
    const app = this.#phone.app(appId);
    const payload = objectIn(text) as Payload | undefined;
    const read = apsSchema.safeParse(payload?.aps);
    // what cannot be read is dropped without a word
    if (!app || !payload || !read.success) return;
    const { alert, badge, 'content-available': wakes } = read.data;
    const isAllowed = app.granted.has(PERMISSION);
    if (badge !== undefined && isAllowed) this.setBadge(app, badge);
    if (wakes === 1) await this.#wake(app, payload);
    if (alert === undefined || headers['apns-push-type'] === 'background' || !isAllowed) return;
    const wantsIt = () => this.#phone.run(app, (host) => app.model.messages?.showsInFront(host, payload));
    if (this.#phone.isInFront(app) && !wantsIt()) return;
    const message = this.#messageOf(app, read.data, payload);
    this.#shown.push(message);
    this.#banner = { message, untilMs: Date.now() + BANNER_MS };
  }

  /** What only wakes an app reaches it in the background where it says that it wants to be woken. */
  async #wake(app: InstalledIosApp, payload: Payload): Promise<void> {
    const modes = app.opened.app.ios?.info.UIBackgroundModes;
    const isWanted = Array.isArray(modes) && modes.includes('remote-notification');
    if (!this.#phone.isInFront(app)) {
      if (!isWanted) return;
      await this.#phone.wake(app);
    }
    this.#phone.run(app, (host) => app.model.messages?.woken(host, payload));
  }

  #messageOf(app: InstalledIosApp, { alert, category = '' }: Aps, payload: Payload): ShownMessage {
    const context = this.#phone.context(app);
    const of = typeof alert === 'string' ? { body: alert } : (alert ?? {});
    const actions = app.model.messages?.categories[category] ?? [];
    return {
      app,
      payload,
      title: textOf(context, of.title, of['title-loc-key'], of['title-loc-args']),
      body: textOf(context, of.body, of['loc-key'], of['loc-args']),
      actions: actions.map((action) => ({ ...action, words: context.string(action.label) })),
    };
  }
}

/** A key that no table has stands there itself (Foundation, `localizedUserNotificationString(forKey:arguments:)`). */
function textOf(context: AppContext, written = '', key?: string, args: readonly string[] = []): string {
  if (key === undefined) return written;
  try {
    return context.string(key, ...args);
  } catch {
    return key;
  }
}
