/** Messages of an app on a phone: what is in the shade, what touches there do, and the token that the app prints. */
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { DrillLineOf } from '../../../core/model/trace.ts';
import type { Device } from '../../bridge/device.ts';
import { type DeviceApp, type LogLine, launch, logSince, processOf } from '../../phone/app.ts';
import { until } from '../../phone/pause.ts';
import { findElement, tap } from '../../phone/perform-step.ts';
import { sendInput } from '../../phone/send-input.ts';
import { takeSnapshot } from '../../phone/snapshot.ts';

/** Where the app is while a message comes. */
export type MessageState = DrillLineOf<'message.sent'>['state'];
export const MESSAGE_STATES: readonly MessageState[] = ['front', 'background', 'not-running'];

/** What the system shows of an app. */
export type Posted = DrillLineOf<'notifications.seen'>['posted'];

const GONE_WITHIN_MS = 3_000;

export async function bringTo(device: Device, app: DeviceApp, state: MessageState): Promise<void> {
  await launch(device, app);
  await takeSnapshot(device);
  if (state === 'front') return;
  await sendInput(device, 'keyevent HOME');
  await takeSnapshot(device);
  if (state === 'background') return;
  // an app that was stopped by force gets no messages; one that the system ended does
  await until(async () => {
    await device.run(`am kill ${app.appId}`);
    return !(await processOf(device, app.appId));
  }, GONE_WITHIN_MS);
}

export async function postedMessages(device: Device, appId: string): Promise<Posted> {
  return postedIn((await device.run('dumpsys notification --noredact')).out, appId);
}

/** The channels that the app has made, with the names that the user reads in the settings. */
export async function channelsOf(
  device: Device,
  appId: string,
): Promise<DrillLineOf<'channels.seen'>['channels']> {
  const { out } = await device.run('dumpsys notification --noredact');
  const [, own = ''] = out.split(`AppSettings: ${appId} (`);
  const [ofApp = ''] = own.split('AppSettings: ');
  return [...ofApp.matchAll(/NotificationChannel\{mId='([^']*)', mName=(.*?), mDescription=/g)].map(
    ([, id, name]) => ({ id: id!, name: name! }),
  );
}

/** Messages of the app that are left are opened, one after another. */
export async function clearShade(device: Device, appId: string): Promise<void> {
  for (const { title } of await postedMessages(device, appId)) await tapInShade(device, title);
  await device.run('cmd statusbar collapse');
}

/** @param label of a message, or of one of its buttons; @returns whether it is there */
export async function tapInShade(device: Device, label: string): Promise<boolean> {
  await device.run('cmd statusbar expand-notifications');
  const box = findElement((await takeSnapshot(device)).tree, label);
  if (box) await tap(device, box);
  else await device.run('cmd statusbar collapse');
  return box !== undefined;
}

/** Whether the system lets the app show messages (Android 13 on; before that nobody asks). */
export async function mayShowMessages(device: Device, appId: string): Promise<boolean> {
  const { out } = await device.run(`dumpsys package ${appId}`);
  return !/POST_NOTIFICATIONS: granted=false/.test(out);
}

interface ToldToken {
  moment: string;
  withinMs: number;
}

/** `{"kind":"push.registered","token":"…"}` under the tag Fenlok. */
export async function tokenSince(
  device: Device,
  { moment, withinMs }: ToldToken,
): Promise<string | undefined> {
  let token: string | undefined;
  await until(async () => {
    token = tokenIn(await logSince(device, moment, 'main'));
    return token !== undefined;
  }, withinMs);
  return token;
}

function tokenIn(log: readonly LogLine[]): string | undefined {
  for (const { message, tag } of [...log].reverse()) {
    if (tag !== LOG_TAG) continue;
    try {
      const { kind, token } = JSON.parse(message) as { kind?: string; token?: unknown };
      if (kind === 'push.registered' && typeof token === 'string') return token;
    } catch {
      // another line under the same tag
    }
  }
  return undefined;
}

/** The app's own word that a message reached it. */
export async function toldReceived(device: Device, moment: string): Promise<boolean> {
  const log = await logSince(device, moment, 'main');
  return log.some(({ message, tag }) => tag === LOG_TAG && message.includes('"push.received"'));
}

/** `NotificationRecord(… pkg=example.app … Notification(channel=delays …))` and its extras and actions. */
function postedIn(dump: string, appId: string): Posted {
  return dump
    .split(/(?=NotificationRecord\()/)
    .filter((record) => record.startsWith('NotificationRecord(') && record.includes(`pkg=${appId} `))
    .map((record) => ({
      channel: /Notification\(channel=(\S+)/.exec(record)?.[1] ?? '',
      title: /android\.title=\w+ \((.*)\)/.exec(record)?.[1] ?? '',
      text: /android\.text=\w+ \((.*)\)/.exec(record)?.[1] ?? '',
      actions: [...record.matchAll(/\[\d+\] "(.*?)" -> PendingIntent/g)].map(([, label]) => label!),
    }));
}
