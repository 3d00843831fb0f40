/** A push message to the app on a phone, in each state of the app: whether it is shown, and where a tap on it lands. */
import { crashInLog } from '../../core/areas/lifecycle/runs/crash-in-log.ts';
import { headlineOf } from '../../core/areas/lifecycle/state/screen-state.ts';
import type { PushAnswered } from '../../node/push/send-push.ts';
import type { Device, DeviceApp, Posted } from '../device.ts';
import {
  bringTo,
  clearShade,
  MESSAGE_STATES,
  type MessageState,
  tapInShade,
  toldReceived,
} from '../drills/walks/messages-on-phone.ts';
import { until } from '../phone/pause.ts';

export interface FiredMessage {
  state: MessageState;
  answered: PushAnswered;
  /** What the system shows of the app. */
  posted: Posted;
  /** Until it was shown, by this machine's clock, sending included. */
  shownAfterMs?: number;
  /** The app's own word, in its log. */
  isReceived: boolean;
  /** In front after a tap on it: `example.app/.PassActivity`. */
  landed?: string;
  /** The first text there. */
  title?: string;
  crash?: { exception: string; message: string; frame: string };
}

// A real service needs a moment; what is silent has nothing to be waited for but the app's word.
const SHOWN_WITHIN_MS = 10_000;
const NOTHING_WITHIN_MS = 3_000;
// Once the app has it, what it shows is there in no time.
const SHOWN_AFTER_WORD_MS = 1_500;

interface FireMessage {
  send(): Promise<PushAnswered>;
  /** Whether the system is to show it: it says what, and the user allows it. */
  isShown: boolean;
  signal: AbortSignal;
}

/** What the app has in the shade is opened first, so that what comes is known to be new. @throws OutOfReach */
export async function* fireMessage(
  device: Device,
  app: DeviceApp,
  { isShown, send, signal }: FireMessage,
): AsyncGenerator<FiredMessage> {
  for (const state of MESSAGE_STATES) {
    signal.throwIfAborted();
    await clearShade(device, app.appId);
    await bringTo(device, app, state);
    const moment = await device.logMoment();
    const before = (await device.logSince(moment)).length;
    const began = performance.now();
    const answered = await send();
    let posted: Posted = [];
    let shownAfterMs: number | undefined;
    let receivedMs: number | undefined;
    if (answered.status === 200)
      await until(
        async () => {
          signal.throwIfAborted();
          posted = await device.postedMessages(app.appId);
          if (posted.length > 0) shownAfterMs ??= Math.round(performance.now() - began);
          if (await toldReceived(device, moment)) receivedMs ??= performance.now();
          return posted.length > 0 || performance.now() - (receivedMs ?? Infinity) > SHOWN_AFTER_WORD_MS;
        },
        isShown ? SHOWN_WITHIN_MS : NOTHING_WITHIN_MS,
      );
    // a banner may have gone before anybody looked
    if (answered.status === 200 && posted.length === 0)
      posted = await device.postedMessages(app.appId, 'shade');
    const isTapped = posted.length > 0 && (await tapInShade(device, posted[0]!.title));
    const seen = isTapped ? await device.snapshot() : undefined;
    const crash = crashInLog((await device.logSince(moment)).slice(before), app.appId);
    yield {
      state,
      answered,
      posted,
      ...(shownAfterMs !== undefined && { shownAfterMs }),
      isReceived: receivedMs !== undefined,
      ...(seen && {
        landed: seen.activity,
        title: headlineOf(seen.tree),
      }),
      ...(crash && { crash }),
    };
    // another token, or another service, would be asked for the same
    if (answered.status !== 200) break;
  }
  // it ends where a person would go on
  await device.launch(app);
}
