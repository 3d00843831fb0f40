/** One app on a device: started, ended, its process, what the log reports it. */
import type { Device } from '../bridge/device.ts';

export interface DeviceApp {
  appId: string;
  /** Of the launcher's entry: `example.app/.MainActivity`. */
  component: string;
}

interface ProcessId {
  pid: number;
  startTicks?: number;
}

export interface LogLine {
  /** Seconds since the epoch, by the device's clock. */
  epoch: number;
  tag: string;
  pid: number;
  message: string;
}

/** @returns undefined where it is not installed, or has no entry in the launcher */
export async function findApp(device: Device, appId: string): Promise<DeviceApp | undefined> {
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
  device: Device,
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

export async function processOf(device: Device, appId: string): Promise<ProcessId | undefined> {
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
export async function logMoment(device: Device): Promise<string> {
  const { out } = await device.run(`logcat -d ${BUFFERS} -v epoch -t 1`);
  return parseLog(out).at(-1)?.epoch.toFixed(3) ?? '0.000';
}

/** @param buffer `main`, what apps print themselves; without it, what the system reports them, and crashes */
export async function logSince(device: Device, moment: string, buffer?: 'main'): Promise<LogLine[]> {
  const { out } = await device.run(`logcat -d ${buffer ? `-b ${buffer}` : BUFFERS} -v epoch -T ${moment}`);
  return parseLog(out);
}

const parseLog = (text: string): LogLine[] =>
  text.split(/\r?\n/).flatMap((line) => {
    const [, epoch, pid, tag, message] = LOG_LINE.exec(line) ?? [];
    return epoch ? [{ epoch: Number(epoch), pid: Number(pid), tag: tag!, message: message! }] : [];
  });

/** Those of the user that are granted now, by their full names (AOSP, `dumpsys package`, "runtime permissions"). */
export async function grantedPermissions(device: Device, appId: string): Promise<string[]> {
  const { out } = await device.run(`dumpsys package ${appId}`);
  // the part ends where lines are indented less
  const part = /^(\s+)runtime permissions:\r?\n((?:\1\s+.*\r?\n?)*)/m.exec(out)?.[2] ?? '';
  return [...part.matchAll(/^\s+([\w.]+): granted=true/gm)].map(([, name]) => name!);
}

/** Class names of its services that run. */
export async function runningServices(device: Device, appId: string): Promise<string[]> {
  const { out } = await device.run(`dumpsys activity services ${appId}`);
  return [...out.matchAll(/ServiceRecord\{\S+ \S+ ([\w.]+)\/([\w.$]+)/g)]
    .filter(([, owner]) => owner === appId)
    .map(([, , name]) => (name!.startsWith('.') ? `${appId}${name}` : name!));
}
