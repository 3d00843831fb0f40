import { spawn } from 'node:child_process';
import { lifecycleTag } from '../../core/areas/lifecycle/runs/callbacks.ts';
import { printableText } from '../../core/reports/escape.ts';
import { androidHoldables } from '../../device/android/holdables.ts';
import type { Device, Held, Holdable } from '../../device/device.ts';
import { holdableOf } from '../../device/holdable.ts';
import { appInFront } from '../../device/in-hand/app-in-front.ts';
import { type Hold, type LiveHold, listHolds, takeHold } from '../../device/in-hand/holds.ts';
import { iosHoldables } from '../../device/ios/ios-holdables.ts';
import { OutOfReach } from '../../device/out-of-reach.ts';
import type { PutBack } from '../../device/overrides/setting-overrides.ts';
import type { AddCommand } from '../command-table.ts';
import { type ExitCode, exitCode } from '../exit-code.ts';
import { type Io, UsageError } from '../io.ts';
import { styleFor } from '../style.ts';
import { type DeviceCall, onDevice, stateFolderOf, withDevice } from './device-options.ts';
import { formatPutBack, formatRestoredFirst } from './drill/format-results.ts';
import { barHelp, runBar } from './hold/bar.ts';
import { untilStopped } from './standin/until-stopped.ts';

type HoldCall = DeviceCall & { app?: string; bar?: boolean; list?: boolean; json?: boolean } & Record<
    string,
    unknown
  >;

/** `fenlok hold`: settings of a phone, kept until the call or a command ends, then restored. */
export const holdCommand: AddCommand = (command, { args, io, finish }) => {
  withDevice(command)
    .argument('[command...]', 'after -- : held until this command ends, with its exit code')
    .option('--app <id>', 'whose languages are held (default: the app in front)')
    .option('--bar', 'one line in the terminal that says what is held, and a key for each')
    .option('--list', 'say what is held, on which phone, by whom, and do nothing')
    .option('--json', 'print as JSON');
  for (const { about, name, value } of ALL_HOLDABLES)
    command.option(value ? `--${name} <${value}>` : `--${name}`, about);
  command
    .addHelpText(
      'after',
      '\nExample:\n  fenlok hold --text-scale 2 --theme dark        until Ctrl-C\n  fenlok hold --locale ar -- npm run e2e         until that command ends\n  fenlok hold --bar                              a key for each\n\nlook, drill --here and try work beside it from any terminal. Where a hold was killed, the next call of hold, drill or restore restores its settings.\nExit codes: 0 done, or that of the command; 2 wrong call, 5 no phone, or somebody else holds one of the settings',
    )
    .action(async (own: string[], call: HoldCall) => {
      if (call.list) {
        await printHolds(call, io);
        return;
      }
      const wanted = ALL_HOLDABLES.filter(({ name }) => call[camelCase(name)] !== undefined).map(
        ({ name }) => name,
      );
      if (call.bar && !io.keys) throw new UsageError('--bar: it needs a terminal');
      if (wanted.length === 0 && !call.bar)
        throw new UsageError(`say what to hold: ${ALL_HOLDABLES.map(({ name }) => `--${name}`).join(', ')}`);
      finish(
        await onDevice(call, io, (device, stateFolder) =>
          holdAll(device, stateFolder, { own, call, wanted, words: args }, io),
        ),
      );
    });
};

/** Of both platforms, each name once. */
const ALL_HOLDABLES: readonly Holdable[] = [
  ...androidHoldables,
  ...iosHoldables.filter(({ name }) => !androidHoldables.some((one) => one.name === name)),
];

const camelCase = (name: string): string =>
  name.replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase());

/** What was written behind the option; nothing for a switch. */
const givenValue = (call: HoldCall, name: string): string => {
  const value = call[camelCase(name)];
  return value === true ? '' : String(value);
};

interface Wanted {
  /** What runs meanwhile. */
  own: readonly string[];
  call: HoldCall;
  /** By their names. */
  wanted: readonly string[];
  /** Of the call, for others to read. */
  words: readonly string[];
}

async function holdAll(
  device: Device,
  stateFolder: string,
  { call, own, wanted: names, words }: Wanted,
  io: Io,
): Promise<ExitCode> {
  const missing = names.find((name) => !holdableOf(device, name));
  if (missing)
    throw new UsageError(
      `--${missing}: ${device.serial} cannot be set so; it can be given ${device.holdables.map(({ name }) => `--${name}`).join(', ')}`,
    );
  const wanted = names.map((name) => holdableOf(device, name)!);
  const tooOld = wanted.find(({ sinceSdk }) => sinceSdk !== undefined && device.info.sdk < sinceSdk);
  if (tooOld)
    throw new UsageError(
      `--${tooOld.name}: ${device.info.model} has API ${device.info.sdk}, and this needs ${tooOld.sinceSdk}`,
    );
  const appId = wanted.some(({ isOfApp }) => isOfApp)
    ? (call.app ?? (await appInFront(device)).build.appId)
    : '';
  const settings = wanted.flatMap((one) => settingsOf(one, givenValue(call, one.name), appId, device));
  const moment = await device.logMoment();
  const held = await takeHold(device, stateFolder, `fenlok hold ${words.join(' ')}`, settings);
  let code: ExitCode = exitCode.done;
  try {
    io.err(formatRestoredFirst(device.serial, held.restoredFirst));
    await startAgain(device, appId, io);
    if (call.bar) {
      io.err(`${barHelp}\n`);
      const first = wanted.map(({ name }): [string, string] => [name, givenValue(call, name)]);
      await runBar(device, held, { appId: await idInFront(device, call.app), first }, io);
      return code;
    }
    io.err(formatHeld(device, held, wanted, own.length === 0, io));
    if (call.json) io.out(`${JSON.stringify({ device: device.serial, held: held.settings })}\n`);
    const isProven = wanted.some(({ proof }) => proof) ? watchForProof(device, moment, io) : undefined;
    if (own.length > 0) code = await runMeanwhile(own, io);
    else await untilStopped(io);
    await isProven?.stop();
  } finally {
    io.err(formatRestored(await release(device, held, io)));
    await startAgain(device, appId, io).catch(() => {});
  }
  return code;
}

/** What belongs to a run of the app on iOS counts from the next run on. */
async function startAgain(device: Device, appId: string, io: Io): Promise<void> {
  if (device.platform !== 'ios' || appId === '') return;
  await device.launch({ appId, component: appId });
  io.err(`${appId} was started again: on iOS its language and text size belong to one run of it\n`);
}

const idInFront = (device: Device, named: string | undefined): Promise<string | undefined> =>
  appInFront(device, named).then(
    ({ build }) => build.appId,
    () => undefined,
  );

function settingsOf(
  { name, settings }: Holdable,
  value: string,
  appId: string,
  device: Device,
): readonly Held[] {
  try {
    return settings(value, { appId, device });
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new UsageError(`--${name} ${value}: ${error.message}`);
  }
}

function formatHeld(
  device: Device,
  { reads, settings }: LiveHold,
  wanted: readonly Holdable[],
  isUntilStopped: boolean,
  io: Io,
): string {
  const style = styleFor(io);
  const lines = settings.map(({ held, setting, was }) => {
    const reading = reads.get(setting);
    const refused =
      reading === held ? '' : `  ▲ the phone did not take it, it reads ${reading ?? 'no value'}`;
    return `  ${setting.padEnd(46)} ${held ?? 'no value'}  ${style.faint(`was ${was ?? 'not set'}`)}${refused}`;
  });
  const proofs = wanted.flatMap(({ name, proof }) =>
    proof ? [`  ${name} is not proven yet: ${proof}`] : [],
  );
  return `Held on ${printableText(device.info.model)} (${device.serial})${isUntilStopped ? ' until Ctrl-C' : ''}:\n${[...lines, ...proofs].join('\n')}\n`;
}

const PROOF_EACH_MS = 2_000;

/** Looks into the log from time to time, until an activity was destroyed. */
function watchForProof(device: Device, moment: string, io: Io): { stop(): Promise<void> } {
  let asked: Promise<void> = Promise.resolve();
  const timer = setInterval(() => {
    asked = device.logSince(moment).then(
      (log) => {
        const destroyed = log.find(({ tag }) => lifecycleTag(tag) === 'wm_on_destroy_called');
        if (!destroyed) return;
        clearInterval(timer);
        io.err(`discard is proven: the log shows ${printableText(destroyed.message)} destroyed\n`);
      },
      () => {},
    );
  }, PROOF_EACH_MS);
  return {
    stop: async () => {
      clearInterval(timer);
      await asked;
    },
  };
}

const ENDS_WITHIN_MS = 5_000;

/** In the same terminal; a call that is stopped ends it first. */
function runMeanwhile([program = '', ...args]: readonly string[], io: Io): Promise<ExitCode> {
  return new Promise((resolve, reject) => {
    const child = spawn(program, args, { cwd: io.cwd, stdio: 'inherit' });
    const stop = () => {
      child.kill('SIGTERM');
      setTimeout(() => child.kill('SIGKILL'), ENDS_WITHIN_MS).unref();
    };
    io.signal.addEventListener('abort', stop, { once: true });
    child.once('error', (cause) =>
      reject(new UsageError(`${program} cannot be run: ${(cause as NodeJS.ErrnoException).code}`)),
    );
    child.once('close', (code) => {
      io.signal.removeEventListener('abort', stop);
      resolve((code ?? exitCode.interrupted) as ExitCode);
    });
  });
}

const release = (device: Device, held: LiveHold, io: Io): Promise<PutBack[]> =>
  held
    .release(() => io.err('A drill is under way on this phone; its end is waited for.\n'))
    .catch((error: unknown) => {
      if (!(error instanceof OutOfReach)) throw error;
      throw new OutOfReach(
        error.code,
        `${device.serial} cannot be reached, so its settings are still held: ${held.settings.map(({ setting }) => setting).join(', ')}. Attach it, and call  fenlok restore`,
        { cause: error },
      );
    });

function formatRestored(putBack: readonly PutBack[]): string {
  if (putBack.length === 0) return 'Somebody else has restored the settings already.\n';
  const left = putBack.filter(({ now, was }) => now !== was);
  return left.length === 0
    ? `Restored, and read so: ${putBack.map(({ setting }) => setting).join(', ')}\n`
    : `${formatPutBack(left).join('\n')}\n`;
}

async function printHolds({ json }: HoldCall, io: Io): Promise<void> {
  const holds = await listHolds(stateFolderOf(io));
  if (json) io.out(`${JSON.stringify(holds, null, 2)}\n`);
  else io.out(holds.length === 0 ? 'Nothing is held.\n' : `${holds.map(formatHold).join('\n')}\n`);
}

export const formatHold = ({ command, device, isLive, model, pid, settings, since }: Hold): string =>
  [
    `${printableText(model)} (${device}), by process ${pid}${isLive ? '' : ', which has ended,'} since ${since}: ${printableText(command)}`,
    ...settings.map(
      ({ held, setting, was }) => `  ${setting}  ${held ?? 'no value'}, was ${was ?? 'not set'}`,
    ),
  ].join('\n');
