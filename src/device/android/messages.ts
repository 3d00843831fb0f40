/** Messages of an app on an Android phone: what the system shows of it, its channels, its permission. */
import type { BridgeLine } from '../bridge/bridge-line.ts';
import type { Channels, Posted } from '../device.ts';

export async function postedMessages(device: BridgeLine, appId: string): Promise<Posted> {
  return postedIn((await device.run('dumpsys notification --noredact')).out, appId);
}

/** The channels that the app has made, with the names that the user reads in the settings. */
export async function channelsOf(device: BridgeLine, appId: string): Promise<Channels> {
  const { out } = await device.run('dumpsys notification --noredact');
  const [, own = ''] = out.split(`AppSettings: ${appId} (`);
  const [ofApp = ''] = own.split('AppSettings: ');
  return [...ofApp.matchAll(/NotificationChannel\{mId='([^']*)', mName=(.*?), mDescription=/g)].map(
    ([, id, name]) => ({ id: id!, name: name! }),
  );
}

/** Whether the system lets the app show messages (Android 13 on; before that nobody asks). */
export async function mayShowMessages(device: BridgeLine, appId: string): Promise<boolean> {
  const { out } = await device.run(`dumpsys package ${appId}`);
  return !/POST_NOTIFICATIONS: granted=false/.test(out);
}

/** Whether its user allowed it in so many words. */
export async function hasMessagePermission(device: BridgeLine, appId: string): Promise<boolean> {
  const { out } = await device.run(`dumpsys package ${appId}`);
  return /POST_NOTIFICATIONS: granted=true/.test(out);
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
