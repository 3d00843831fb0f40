/** `fenlok try payload FILE --send FILE --device …`: whether the app shows it in each of its states, and where a tap lands. */
import type { Outcome } from '../../../core/model/outcome.ts';
import type { PushPayload } from '../../../core/model/push-payload.ts';
import { formatRefusal } from '../../../core/platform/push/format-refusal.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import { wrap } from '../../../core/reports/wrap.ts';
import { type Device, type DeviceApp, systemOf } from '../../../device/device.ts';
import { withDeviceLock } from '../../../device/device-lock.ts';
import { tokenSince } from '../../../device/drills/walks/messages-on-phone.ts';
import { appInFront } from '../../../device/in-hand/app-in-front.ts';
import { type FiredMessage, fireMessage } from '../../../device/in-hand/fire-message.ts';
import { OutOfReach } from '../../../device/out-of-reach.ts';
import type { PushAnswered } from '../../../node/push/send-push.ts';
import { type Io, UsageError } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type DeviceCall, onDevice } from '../device-options.ts';

export interface MessageCall extends DeviceCall {
  app?: string;
}

interface Message {
  payload: PushPayload;
  /** Where it was given; else the app is asked. */
  token: string | undefined;
  send(token: string): Promise<PushAnswered>;
}

export interface MessageOnDevice {
  device: string;
  app: string;
  mayShow: boolean;
  fired: FiredMessage[];
  outcomes: Outcome[];
  /** For people. */
  view: string;
}

export const tryOnDevice = (
  call: MessageCall,
  { payload, send, token: given }: Message,
  io: Io,
): Promise<MessageOnDevice> =>
  onDevice(call, io, async (device, stateFolder) => {
    // what cannot be seen there must not read as not shown
    const why = device.whyNot('messages');
    if (why) throw new OutOfReach('refused', `${device.serial}: ${why}`);
    if ((device.platform === 'ios') !== (payload.form === 'apple'))
      throw new UsageError(
        `--device ${device.serial}: ${device.platform === 'ios' ? 'an iOS device' : 'an Android phone'}, and the message is for the other platform`,
      );
    return withDeviceLock(stateFolder, device, async () => {
      const app = await appOf(device, call.app);
      const token = given ?? (await tokenSince(device, { moment: '0.000', withinMs: 0 }));
      if (token === undefined)
        throw new UsageError(
          `the token of ${app.appId} is not known: give it with --token or --token-file, or let the app print  {"kind":"push.registered","token":"…"}  under the log tag Fenlok`,
        );
      const mayShow = await device.mayShowMessages(app.appId);
      const fired: FiredMessage[] = [];
      const { signal } = io;
      io.err('Sending it with the app in front, left, and gone…\n');
      for await (const one of fireMessage(device, app, {
        isShown: mayShow && !payload.silent,
        send: () => send(token),
        signal,
      }))
        fired.push(one);
      const known = {
        app,
        isSilent: payload.silent,
        mayShow,
        isShownElsewhere: fired.some(({ posted, state }) => state !== 'front' && posted.length > 0),
        landsAt: placeOf(fired.find(({ state }) => state === 'background')),
      };
      const told = fired.map((one) => tellOf(one, known));
      const style = styleFor(io);
      return {
        device: device.serial,
        app: app.appId,
        mayShow,
        fired,
        outcomes: told.map(({ outcome }) => outcome),
        view: [
          `${style.strong(app.appId)} on ${printableText(device.info.model)}, ${systemOf(device)}`,
          ...told.flatMap(({ outcome, text }) =>
            wrap(`${style.outcome(outcome, outcomeMark[outcome])} ${printableText(text)}`, io.columns, 2, 4),
          ),
          '',
        ].join('\n'),
      };
    });
  });

async function appOf(device: Device, appId: string | undefined): Promise<DeviceApp> {
  if (appId === undefined) return (await appInFront(device)).app;
  const app = await device.findApp(appId);
  if (!app)
    throw new UsageError(`--app ${appId}: it is not on ${device.serial}, or has no entry in the launcher`);
  return app;
}

const WHERE = {
  front: 'with the app in front',
  background: 'with the app left',
  'not-running': 'with its process gone',
};

interface Known {
  app: DeviceApp;
  isSilent: boolean;
  mayShow: boolean;
  /** With the app left, or gone. */
  isShownElsewhere: boolean;
  /** Where a tap lands with the app left: the same message leads to the same place. */
  landsAt: string | undefined;
}

interface Told {
  outcome: Outcome;
  text: string;
}

function tellOf(fired: FiredMessage, known: Known): Told {
  const { outcome, text } = outcomeOf(fired, known);
  return { outcome, text: `${WHERE[fired.state]}: ${text}` };
}

/** Of iOS nothing names the screen but what it begins with. */
const placeOf = ({ landed = '', title = '' }: Partial<FiredMessage> = {}): string =>
  landed.endsWith('/') ? `a screen that begins with “${title}”` : landed;

function outcomeOf(fired: FiredMessage, { app, isShownElsewhere, isSilent, landsAt, mayShow }: Known): Told {
  const { answered, crash, isReceived, landed, posted, shownAfterMs, state, title } = fired;
  const word = isReceived ? '; the app says that it came' : '';
  if (answered.status !== 200) {
    const { why, word: said } = formatRefusal(answered.status, answered.reason ?? '');
    return { outcome: 'failed', text: `${said}: ${why}` };
  }
  if (crash)
    return {
      outcome: 'failed',
      text: `${app.appId} ends: ${crash.exception}${crash.message ? `: ${crash.message}` : ''} in ${crash.frame}`,
    };
  const [message] = posted;
  // what carries data alone is the app's own to show, or not
  if (isSilent && !message && isShownElsewhere && state !== 'front')
    return { outcome: 'failed', text: `nothing is shown, although it is in another state of the app${word}` };
  if (isSilent && !message)
    return isReceived
      ? { outcome: 'passed', text: `nothing is shown${word}` }
      : { outcome: 'cantTell', text: 'nothing is shown, and the app does not tell whether it came' };
  if (!message) {
    if (!mayShow)
      return {
        outcome: 'failed',
        text: 'nothing is shown: the user has not allowed the app to show messages',
      };
    // in front the app decides what becomes of it
    if (state === 'front' && isReceived)
      return { outcome: 'passed', text: `the system shows nothing${word}` };
    return {
      outcome: 'cantTell',
      text: `nothing was shown within 10 s${word}. Is the token that of this installation, and is the phone online?`,
    };
  }
  const shown = `“${message.title}” is shown after ${((shownAfterMs ?? 0) / 1000).toFixed(1)} s`;
  if (!landed?.startsWith(`${app.appId}/`))
    return { outcome: 'failed', text: `${shown}; a tap on it leads to ${landed || 'nothing'}` };
  const place = placeOf(fired);
  const isNamed = !landed.endsWith('/');
  const opens = `${shown}; a tap on it opens ${place}${isNamed && title ? `, which shows “${title}”` : ''}`;
  if (landsAt && landsAt !== place && !isNamed)
    return { outcome: 'cantTell', text: `${opens}, and not ${landsAt}, as with the app left` };
  return landsAt && landsAt !== place
    ? { outcome: 'failed', text: `${opens}, and not ${landsAt}, as with the app left` }
    : { outcome: 'passed', text: opens };
}
