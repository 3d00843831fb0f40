/** Notifications that apps have posted, and the channels that they may post to. */

export interface PostedNotification {
  appId: string;
  /** Of the app's own choosing; the same one again takes the place of the first. */
  id: number;
  channel: string;
  title: string;
  text: string;
  actions: NotificationAction[];
  tap: NotificationTarget;
}

interface NotificationAction {
  label: string;
  /** Undefined does nothing but to close it. */
  opens?: NotificationTarget;
}

export interface NotificationTarget {
  /** Of the app's model. */
  screen: string;
  extras?: Record<string, string>;
}

/** Where the messaging library posts what names no channel, or one that the app never made. */
export const FALLBACK_CHANNEL = 'fcm_fallback_notification_channel';

export class Notifications {
  #posted: PostedNotification[] = [];
  #channels = new Map<string, Map<string, string>>();

  /** Newest first, as the shade has them. */
  list = (): readonly PostedNotification[] => [...this.#posted].reverse();
  channelsOf = (appId: string): ReadonlyMap<string, string> => this.#channels.get(appId) ?? new Map();

  /** Every app with its channels: id and name. */
  apps = (): [appId: string, channels: ReadonlyMap<string, string>][] => [...this.#channels];

  createChannel(appId: string, id: string, name: string): void {
    const channels = this.#channels.get(appId) ?? new Map<string, string>();
    this.#channels.set(appId, channels.set(id, name));
  }

  /** @returns whether it is shown: an app that posts to a channel that it never made is ignored */
  post(one: PostedNotification): boolean {
    if (!this.channelsOf(one.appId).has(one.channel)) return false;
    this.#posted = [...this.#posted.filter(({ appId, id }) => appId !== one.appId || id !== one.id), one];
    return true;
  }

  cancel({ appId, id }: Pick<PostedNotification, 'appId' | 'id'>): void {
    this.#posted = this.#posted.filter((one) => one.appId !== appId || one.id !== id);
  }
  forget(appId: string): void {
    this.#posted = this.#posted.filter((one) => one.appId !== appId);
    this.#channels.delete(appId);
  }
}
