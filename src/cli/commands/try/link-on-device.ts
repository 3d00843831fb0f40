/** `fenlok try link URL --device …`: who takes it on a phone, and where it lands, with the app gone, left and in front. */
import type { Outcome } from '../../../core/model/outcome.ts';
import { parseLinkUri } from '../../../core/platform/links/link-uri.ts';
import { printableText } from '../../../core/reports/escape.ts';
import { outcomeMark } from '../../../core/reports/outcome-words.ts';
import { wrap } from '../../../core/reports/wrap.ts';
import { type Device, systemOf } from '../../../device/device.ts';
import { withDeviceLock } from '../../../device/device-lock.ts';
import { type FiredLink, fireLink } from '../../../device/in-hand/fire-link.ts';
import { type ExitCode, exitCode } from '../../exit-code.ts';
import type { Io } from '../../io.ts';
import { styleFor } from '../../style.ts';
import { type DeviceCall, onDevice } from '../device-options.ts';

interface FireCall extends DeviceCall {
  app?: string;
  json?: boolean;
}

const SAYS = { cold: 'with the app gone', warm: 'with the app left', front: 'with the app in front' };

/** Exit code 1 where the app that is meant does not take it, or ends. */
export const fireOnDevice = (url: string, call: FireCall, io: Io): Promise<ExitCode> =>
  onDevice(call, io, (device, stateFolder) =>
    withDeviceLock(stateFolder, device, async () => {
      const takes = await device.takerOf(url);
      const front = (await device.front()).split('/')[0];
      const appId = call.app ?? takes ?? front;
      const fired: FiredLink[] = [];
      if (appId) for await (const one of fireLink(device, url, appId)) fired.push(one);
      const host = parseLinkUri(url).hostKey;
      const siteWord = appId && host ? await device.siteWordOf(appId, host) : undefined;
      const isGood = fired.length > 0 && fired.every((one) => isTaken(one, appId!));
      if (call.json)
        io.out(
          `${JSON.stringify({ url, device: device.serial, app: appId, takes, siteWord, fired }, null, 2)}\n`,
        );
      else io.out(formatFired(url, device, { appId, takes, fired, siteWord, host }, io));
      return isGood ? exitCode.done : exitCode.blocked;
    }),
  );

const isTaken = ({ crash, taker }: FiredLink, appId: string): boolean =>
  !crash && taker.startsWith(`${appId}/`);

interface Fired {
  appId: string | undefined;
  takes: string | undefined;
  fired: readonly FiredLink[];
  siteWord: string | undefined;
  host: string | undefined;
}

function formatFired(
  url: string,
  device: Device,
  { appId, fired, host, siteWord, takes }: Fired,
  io: Io,
): string {
  const style = styleFor(io);
  const takenBy = fired[0]?.taker.split('/')[0] || takes;
  const line = (outcome: Outcome, text: string) =>
    wrap(`${style.outcome(outcome, outcomeMark[outcome])} ${printableText(text)}`, io.columns, 2, 4);
  const word =
    appId && host && siteWord !== undefined && siteWord !== 'verified'
      ? line(
          'failed',
          `the phone has not verified ${host} for ${appId} (pm get-app-links says ${siteWord}), so the browser takes its links. Which file the site must serve:  fenlok try link ${url} --propose`,
        )
      : [];
  return [
    `${style.strong(printableText(url))} on ${printableText(device.info.model)}, ${systemOf(device)}: ${takenBy ? `${takenBy} takes it` : 'nobody takes it'}`,
    ...fired.flatMap((one) =>
      line(isTaken(one, appId!) ? 'passed' : 'failed', `${SAYS[one.how]}: ${formatOne(one)}`),
    ),
    ...word,
    '',
  ].join('\n');
}

function formatOne({ crash, landed, refused, taker, title }: FiredLink): string {
  if (refused) return `nobody takes it: ${refused}`;
  if (crash)
    return `${taker} takes it, and ends: ${crash.exception}${crash.message ? `: ${crash.message}` : ''} in ${crash.frame}`;
  const shows = title ? `, which shows “${title}”` : '';
  return landed === taker
    ? `opens ${taker}${shows}`
    : `${taker} takes it; in front is ${landed || 'nothing'}${shows}`;
}
