/** Messages of an app on a phone: what touches in the shade do, and the token that the app prints. */
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { DrillLineOf } from '../../../core/model/trace.ts';
import type { Device, DeviceApp, LogLine } from '../../device.ts';
import { until } from '../../phone/pause.ts';
import { findElement, middleOf, tap } from '../../phone/perform-step.ts';

/** Where the app is while a message comes. */
export type MessageState = DrillLineOf<'message.sent'>['state'];
export const MESSAGE_STATES: readonly MessageState[] = ['front', 'background', 'not-running'];

const GONE_WITHIN_MS = 3_000;

/** From its first screen, so that where a touch leads is that touch's doing. */
export async function bringTo(device: Device, app: DeviceApp, state: MessageState): Promise<void> {
  await device.stop(app);
  await device.launch(app);
  await device.snapshot();
  if (state === 'front') return;
  await device.press('HOME');
  await device.snapshot();
  if (state === 'background') return;
  // an app that was stopped by force gets no messages; one that the system ended does
  await until(async () => {
    await device.kill(app);
    return !(await device.processOf(app.appId));
  }, GONE_WITHIN_MS);
}

/** Messages of the app that are left are opened, one after another. */
export async function clearShade(device: Device, appId: string): Promise<void> {
  for (const { title } of await device.postedMessages(appId, 'shade')) await tapInShade(device, title);
  await device.closeShade();
}

/**
 * @param label of a message, or of one of its buttons
 * @param on the message that is held until it shows its buttons, where nothing lists them
 * @returns whether it is there
 */
export async function tapInShade(device: Device, label: string, on?: string): Promise<boolean> {
  await device.openShade();
  const message = on === undefined ? undefined : findElement((await device.snapshot()).tree, on);
  if (message) await device.longPress(middleOf(message));
  const box = findElement((await device.snapshot()).tree, label);
  if (box) await tap(device, box);
  else await device.closeShade();
  return box !== undefined;
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
    token = tokenIn(await device.logSince(moment, 'main'));
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
  const log = await device.logSince(moment, 'main');
  return log.some(({ message, tag }) => tag === LOG_TAG && message.includes('"push.received"'));
}
