/**
 * Messages on the phone: from the messaging service to the shade or to the app's own code, and from there to a screen. Shown by the
 * messaging library while the app is not in front, else handed to the app (its documentation, *Receive messages*).
 */
import { z } from 'zod';
import type { DeviceLink } from '../../device-link.ts';
import type { DeletedMessages, DeliveredMessage } from '../../messages/message-service.ts';
import type { AppContext, MessageHost, PushMessage } from '../app-model.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { DeviceLog } from './device-log.ts';
import {
  FALLBACK_CHANNEL,
  Notifications,
  type NotificationTarget,
  type PostedNotification,
} from './notifications.ts';
import type { InstalledApp, PackageManager } from './package-manager.ts';

/** What the rest of the phone does for messages. */
export interface Surroundings {
  log: DeviceLog;
  activities: ActivityManager;
  packages: PackageManager;
  runnable(appId: string): RunnableApp | undefined;
  context(app: RunnableApp): AppContext;
  /** Whether the user sees the app. */
  isInFront(appId: string): boolean;
  /** Shows the system's question for a permission, above the app. */
  askUser(app: RunnableApp, permission: string): void;
  /** Puts away what lies over the app in front. */
  closeCover(): void;
}

const notifiedSchema = z
  .object({
    title: z.string(),
    body: z.string(),
    title_loc_key: z.string(),
    title_loc_args: z.array(z.string()),
    body_loc_key: z.string(),
    body_loc_args: z.array(z.string()),
    channel_id: z.string(),
    click_action: z.string(),
  })
  .partial();
type Notified = z.infer<typeof notifiedSchema>;

type ServiceLink = DeviceLink<DeliveredMessage | DeletedMessages, { project: string }>;

const POST_NOTIFICATIONS = 'android.permission.POST_NOTIFICATIONS';
const LIBRARY_ID = 1;

export class PhoneMessages {
  readonly #on: Surroundings;
  readonly notifications = new Notifications();
  #service?: ServiceLink;
  #dozes = false;
  /** Permissions that the user was asked for, by app: nobody is asked twice. */
  #asked = new Set<string>();

  constructor(surroundings: Surroundings) {
    this.#on = surroundings;
  }

  // --- the service: the phone is online there as long as it has a network

  connect(service: ServiceLink): void {
    this.#service = service;
    this.goOnline();
  }
  goOnline(): void {
    this.#service
      ?.goOnline()
      .then(() => this.#service?.tell({ do: 'doze', dozes: this.#dozes }))
      .catch(() => {});
  }
  goOffline(): void {
    this.#service?.goOffline();
  }

  /** Deep idle mode: only messages of high priority come through. */
  get dozes(): boolean {
    return this.#dozes;
  }
  doze(dozes: boolean): void {
    this.#dozes = dozes;
    this.#service?.tell({ do: 'doze', dozes });
  }

  async register(appId: string): Promise<void> {
    const app = this.#on.runnable(appId);
    const { push } = app?.model ?? {};
    if (!app || !push || !this.#service) return;
    // an app that asks while there is no network is told of no token
    const token = await this.#service.register(appId, { project: push.project }).catch(() => undefined);
    if (token === undefined) return;
    const pid = this.#on.activities.pidOf(appId);
    const log = (tag: string, text: string) => this.#on.log.write('main', pid, 'D', tag, text);
    push.registered({ storage: app.storage, log }, token);
  }
  unregister(appId: string): void {
    this.#service?.unregister(appId);
  }
  forget(appId: string): void {
    this.notifications.forget(appId);
    for (const asked of [...this.#asked]) if (asked.startsWith(`${appId} `)) this.#asked.delete(asked);
  }

  receive(message: DeliveredMessage | DeletedMessages): void {
    const { appId } = message;
    const { activities, log, packages } = this.#on;
    const app = this.#on.runnable(appId);
    const installed = packages.get(appId);
    if (!app || !installed) return;
    // an app that was stopped by force gets nothing until somebody opens it
    if (activities.isStopped(appId)) {
      log.write('system', 0, 'W', 'GCM', `broadcast intent callback: result=CANCELLED for ${appId}`);
      return;
    }
    if ('deleted' in message) {
      log.write('system', 0, 'W', 'GCM', `messages for ${appId} were too many while the phone was away`);
      return;
    }
    const { data } = message;
    const read = notifiedSchema.safeParse(message.notification);
    if (!read.success) {
      log.write('system', 0, 'W', 'GCM', `message for ${appId} dropped: it cannot be read`);
      return;
    }
    const notified = read.data;
    activities.wake(app, 'broadcast');
    if (Object.keys(notified).length > 0 && !this.#on.isInFront(appId))
      this.#post(app, installed, notified, data);
    else this.#deliver(app, installed, { notification: notified, data });
  }

  #post(app: RunnableApp, installed: InstalledApp, notified: Notified, data: Record<string, string>): void {
    if (!installed.granted.has(POST_NOTIFICATIONS)) return;
    const channel = notified.channel_id ?? '';
    const isKnown = this.notifications.channelsOf(app.appId).has(channel);
    if (!isKnown) this.notifications.createChannel(app.appId, FALLBACK_CHANNEL, 'Miscellaneous');
    const context = this.#on.context(app);
    this.notifications.post({
      appId: app.appId,
      id: LIBRARY_ID,
      channel: isKnown ? channel : FALLBACK_CHANNEL,
      title: textOf(context, notified.title, notified.title_loc_key, notified.title_loc_args),
      text: textOf(context, notified.body, notified.body_loc_key, notified.body_loc_args),
      actions: [],
      tap: { screen: screenFor(app, installed, notified.click_action), extras: data },
    });
  }

  #deliver(app: RunnableApp, installed: InstalledApp, message: PushMessage): void {
    const { activities, log } = this.#on;
    const pid = activities.pidOf(app.appId);
    const host: MessageHost = {
      context: this.#on.context(app),
      inFront: this.#on.isInFront(app.appId),
      storage: app.storage,
      log: (tag, text) => log.write('main', pid, 'D', tag, text),
      notify: (one) => {
        if (!installed.granted.has(POST_NOTIFICATIONS)) return;
        if (!this.notifications.post({ ...one, appId: app.appId }))
          log.write(
            'system',
            0,
            'E',
            'NotificationService',
            `No Channel found for pkg=${app.appId}, channelId=${one.channel}`,
          );
      },
    };
    activities.runInBackground(app, `${app.appId}.MessageService.onMessageReceived`, () =>
      app.model.push?.onMessage(host, message),
    );
  }

  makeChannels(app: RunnableApp): void {
    const { channels = {} } = app.model.push ?? {};
    if (Object.keys(channels).length === 0) return;
    const context = this.#on.context(app);
    for (const [id, key] of Object.entries(channels))
      this.notifications.createChannel(app.appId, id, context.string(key));
  }

  // --- the permission

  ask(appId: string, permission: string): void {
    const app = this.#on.runnable(appId);
    const installed = this.#on.packages.get(appId);
    if (!app || !installed || installed.granted.has(permission)) return;
    const isDeclared = installed.opened.app.permissions.includes(permission);
    if (!isDeclared || this.#asked.has(`${appId} ${permission}`)) this.answer(app, permission, false);
    else this.#on.askUser(app, permission);
  }

  answer(app: RunnableApp, permission: string, granted: boolean): void {
    this.#asked.add(`${app.appId} ${permission}`);
    if (granted) this.#on.packages.get(app.appId)?.granted.add(permission);
    this.#on.closeCover();
    const { activities } = this.#on;
    const record = activities.shown;
    const { permissionAnswered } = app.model;
    if (record && permissionAnswered && activities.front.app.appId === app.appId)
      activities.run(activities.front, record, 'onRequestPermissionsResult', (host) =>
        permissionAnswered(host, permission, granted),
      );
  }

  // --- the shade

  tap(index: number): void {
    const one = this.notifications.list()[index];
    if (one) this.#open(one, one.tap);
  }

  /** The buttons of all that is shown, counted from the top. */
  tapAction(index: number): void {
    const all = this.notifications.list().flatMap((one) => one.actions.map((action) => ({ one, action })));
    const { action, one } = all[index] ?? {};
    if (one) this.#open(one, action?.opens);
  }

  #open(one: PostedNotification, target: NotificationTarget | undefined): void {
    this.notifications.cancel(one);
    this.#on.closeCover();
    const app = this.#on.runnable(one.appId);
    const activity = target && app?.model.screens[target.screen]?.activity;
    if (app && activity) void this.#on.activities.start(app, `${app.appId}.${activity}`, target.extras ?? {});
  }
}

function textOf(
  context: AppContext,
  written: string | undefined,
  key: string | undefined,
  args: string[] | undefined,
): string {
  if (key === undefined) return written ?? '';
  try {
    return context.string(key, ...(args ?? []));
  } catch {
    // what the library does with a key that it does not find
    return written ?? '';
  }
}

/** The activity with a filter for the action, or else the app's first one. */
function screenFor(app: RunnableApp, { appId, opened }: InstalledApp, action: string | undefined): string {
  const components = opened.app.android?.manifest.components ?? [];
  const wanted = action ?? 'android.intent.action.MAIN';
  const className = components.find(({ filters }) =>
    filters.some(({ actions }) => actions.includes(wanted)),
  )?.name;
  const found = Object.entries(app.model.screens).find(
    ([, screen]) => `${appId}.${screen.activity}` === className,
  );
  return found?.[0] ?? Object.keys(app.model.screens)[0]!;
}
