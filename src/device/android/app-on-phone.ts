/** One app on a device: started, ended, its process, what the log reports it. */
import { readPackage } from '../../core/formats/package.ts';
import type { BuildKey } from '../../core/model/candidate.ts';
import { bytesSource, sha256Hex } from '../../core/model/ports.ts';
import { UnreadableError, unwrap } from '../../core/model/problem.ts';
import { nodePorts } from '../../node/ports.ts';
import type { BridgeLine } from '../bridge/bridge-line.ts';
import type { DeviceApp, LogLine } from '../device.ts';

/** @returns undefined where it is not installed, or has no entry in the launcher */
export async function findApp(device: BridgeLine, appId: string): Promise<DeviceApp | undefined> {
  const { out } = await device.run(
    `cmd package resolve-activity --brief -a android.intent.action.MAIN -c android.intent.category.LAUNCHER ${appId}`,
  );
  const component = out
    .split(/\r?\n/)
    .map((line) => line.trim())
    .find((line) => line.startsWith(`${appId}/`));
  return component ? { appId, component } : undefined;
}

/** As the launcher does it, flags included: otherwise a second instance would look like a restart. */
export async function launch(
  device: BridgeLine,
  { component }: DeviceApp,
): Promise<{ totalMs: number; launch: string }> {
  const { out } = await device.run(
    `am start -W -a android.intent.action.MAIN -c android.intent.category.LAUNCHER -f 0x10200000 -n ${component}`,
  );
  return {
    totalMs: Number(/TotalTime: (\d+)/.exec(out)?.[1] ?? Number.NaN),
    launch: /LaunchState: (\w+)/.exec(out)?.[1] ?? 'unknown',
  };
}

export async function processOf(
  device: BridgeLine,
  appId: string,
): Promise<{ pid: number; startTicks?: number } | undefined> {
  const { out } = await device.run(`pidof ${appId}`);
  const pid = Number(out.trim().split(/\s+/)[0]);
  if (!pid) return undefined;
  const stat = (await device.run(`cat /proc/${pid}/stat`)).out;
  // proc(5): after the name in brackets the 20th field is the start
  const ticks = Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[19]);
  return { pid, ...(Number.isFinite(ticks) && { startTicks: ticks }) };
}

const LOG_LINE = /^\s*(\d+\.\d+)\s+(?:\S+\s+)?(\d+)\s+\d+\s+[VDIWEF]\s+(.*?)\s*: ?(.*)$/;
const BUFFERS = '-b events -b crash';

/** The moment that the log has come to, in the device's own clock. */
export async function logMoment(device: BridgeLine): Promise<string> {
  const { out } = await device.run(`logcat -d ${BUFFERS} -v epoch -t 1`);
  return parseLog(out).at(-1)?.epoch.toFixed(3) ?? '0.000';
}

/** @param buffer `main`, what apps print themselves; without it, what the system reports them, and crashes */
export async function logSince(device: BridgeLine, moment: string, buffer?: 'main'): Promise<LogLine[]> {
  const { out } = await device.run(`logcat -d ${buffer ? `-b ${buffer}` : BUFFERS} -v epoch -T ${moment}`);
  return parseLog(out);
}

const parseLog = (text: string): LogLine[] =>
  text.split(/\r?\n/).flatMap((line) => {
    const [, epoch, pid, tag, message] = LOG_LINE.exec(line) ?? [];
    return epoch ? [{ epoch: Number(epoch), pid: Number(pid), tag: tag!, message: message! }] : [];
  });

/** Those of the user that are granted now, by their full names (AOSP, `dumpsys package`, "runtime permissions"). */
export async function grantedPermissions(device: BridgeLine, appId: string): Promise<string[]> {
  const { out } = await device.run(`dumpsys package ${appId}`);
  // the part ends where lines are indented less
  const part = /^(\s+)runtime permissions:\r?\n((?:\1\s+.*\r?\n?)*)/m.exec(out)?.[2] ?? '';
  return [...part.matchAll(/^\s+([\w.]+): granted=true/gm)].map(([, name]) => name!);
}

/** Class names of its services that run. */
export async function runningServices(device: BridgeLine, appId: string): Promise<string[]> {
  const { out } = await device.run(`dumpsys activity services ${appId}`);
  return [...out.matchAll(/ServiceRecord\{\S+ \S+ ([\w.]+)\/([\w.$]+)/g)]
    .filter(([, owner]) => owner === appId)
    .map(([, , name]) => (name!.startsWith('.') ? `${appId}${name}` : name!));
}

export async function versionOf(device: BridgeLine, appId: string): Promise<BuildKey> {
  const { out } = await device.run(`dumpsys package ${appId} | grep -E "versionName=|versionCode="`);
  const version = /versionName=(\S+)/.exec(out)?.[1] ?? '';
  const build = /versionCode=(\d+)/.exec(out)?.[1] ?? '';
  return { appId, version, build, code: '' };
}

const APK_LIMIT_BYTES = 2 ** 30;

/** Of the package that is installed. @throws UnreadableError */
export async function installedBuild(device: BridgeLine, appId: string): Promise<BuildKey> {
  const { out } = await device.run(`pm path ${appId}`);
  const paths = out.split(/\r?\n/).flatMap((line) => /^package:(.+)$/.exec(line.trim())?.[1] ?? []);
  // of a split app the first one holds the code
  const path = paths.find((one) => one.endsWith('/base.apk')) ?? paths[0];
  if (!path)
    throw new UnreadableError({ code: 'device.no-path', file: device.serial, found: `no path of ${appId}` });
  const apk = new Uint8Array(await device.pull(path, APK_LIMIT_BYTES));
  const digest = await sha256Hex(nodePorts, apk);
  return unwrap(await readPackage(`${device.serial}:${path}`, bytesSource(apk), digest, nodePorts)).app.build;
}

/** `package:example.app  installer=com.android.vending`; null came over a cable. */
export async function installerOf(device: BridgeLine, appId: string): Promise<string> {
  const { out } = await device.run(`pm list packages -i ${appId}`);
  const line = out.split(/\r?\n/).find((one) => one.startsWith(`package:${appId} `));
  const name = /installer=(\S+)/.exec(line ?? '')?.[1] ?? 'null';
  return name === 'null' ? '' : name;
}
