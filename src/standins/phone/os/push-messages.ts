/**
 * What becomes of a message that reaches the phone: shown by the messaging library while the app is not in front, or
 * handed to the app's own code (messaging service of the platform, *Receive messages*).
 */
import type { AppContext, MessageHost, PushMessage } from '../app-model.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { DeviceLog } from './device-log.ts';
import { FALLBACK_CHANNEL, type Notifications } from './notifications.ts';
import type { InstalledApp } from './package-manager.ts';

export interface Messaging {
  log: DeviceLog;
  activities: ActivityManager;
  notifications: Notifications;
  installed(appId: string): InstalledApp | undefined;
  runnable(appId: string): RunnableApp | undefined;
  context(app: RunnableApp): AppContext;
  /** Whether the user sees the app. */
  isInFront(appId: string): boolean;
}

interface Notified {
  title?: string;
  body?: string;
  title_loc_key?: string;
  title_loc_args?: string[];
  body_loc_key?: string;
  body_loc_args?: string[];
  channel_id?: string;
  click_action?: string;
}

interface WireMessage {
  notification?: Notified;
  data?: Record<string, string>;
  android?: { notification?: Notified; data?: Record<string, string> };
  message?: WireMessage;
}

const POST_NOTIFICATIONS = 'android.permission.POST_NOTIFICATIONS';
const LIBRARY_ID = 1;

export function receiveMessage(appId: string, payload: string, on: Messaging): void {
  const app = on.runnable(appId);
  const installed = on.installed(appId);
  if (!app || !installed) return;
  // an app that was stopped by force gets nothing until somebody opens it
  if (on.activities.isStopped(appId)) {
    on.log.write('system', 0, 'W', 'GCM', `broadcast intent callback: result=CANCELLED for ${appId}`);
    return;
  }
  const wire = JSON.parse(payload) as WireMessage;
  const message = wire.message ?? wire;
  const notified = { ...message.notification, ...message.android?.notification };
  const data = { ...message.data, ...message.android?.data };
  on.activities.wake(app, 'broadcast');
  if (Object.keys(notified).length > 0 && !on.isInFront(appId)) post(app, installed, notified, data, on);
  else deliver(app, installed, { notification: notified, data }, on);
}

function post(
  app: RunnableApp,
  installed: InstalledApp,
  notified: Notified,
  data: Record<string, string>,
  on: Messaging,
): void {
  if (!installed.granted.has(POST_NOTIFICATIONS)) return;
  const channel = notified.channel_id ?? '';
  const isKnown = on.notifications.channelsOf(app.appId).has(channel);
  if (!isKnown) on.notifications.createChannel(app.appId, FALLBACK_CHANNEL, 'Miscellaneous');
  on.notifications.post({
    appId: app.appId,
    id: LIBRARY_ID,
    channel: isKnown ? channel : FALLBACK_CHANNEL,
    title: textOf(app, notified.title, notified.title_loc_key, notified.title_loc_args, on),
    text: textOf(app, notified.body, notified.body_loc_key, notified.body_loc_args, on),
    actions: [],
    tap: { screen: screenFor(app, installed, notified.click_action), extras: data },
  });
}

function textOf(
  app: RunnableApp,
  written: string | undefined,
  key: string | undefined,
  args: string[] | undefined,
  on: Messaging,
): string {
  if (key === undefined) return written ?? '';
  try {
    return on.context(app).string(key, ...(args ?? []));
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

function deliver(app: RunnableApp, installed: InstalledApp, message: PushMessage, on: Messaging): void {
  const { push } = app.model;
  if (!push) return;
  const pid = on.activities.pidOf(app.appId);
  const host: MessageHost = {
    context: on.context(app),
    inFront: on.isInFront(app.appId),
    storage: app.storage,
    log: (tag, text) => on.log.write('main', pid, 'D', tag, text),
    notify: (one) => {
      if (!installed.granted.has(POST_NOTIFICATIONS)) return;
      if (!on.notifications.post({ ...one, appId: app.appId }))
        on.log.write(
          'system',
          0,
          'E',
          'NotificationService',
          `No Channel found for pkg=${app.appId}, channelId=${one.channel}`,
        );
    },
  };
  push.onMessage(host, message);
}
