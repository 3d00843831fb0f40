/**
 * Settings that a person holds for a while: changed, kept until the call ends, then restored and read again. Each hold is a file
 * beside the journals, written before anything is changed, so that whoever comes next restores what a killed one left. A hold keeps
 * only its own settings from others: a drill beside it restores to what is held.
 */
import { mkdir, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { join } from 'node:path';
import { z } from 'zod';
import { isRunning } from '../../node/is-running.ts';
import { writeDurably } from '../../node/write-atomically.ts';
import type { Device, Held } from '../device.ts';
import { fileNameOf, withDeviceLock } from '../device-lock.ts';
import { OutOfReach } from '../out-of-reach.ts';
import { type PutBack, readUnlessRefused, restoreSetting } from '../overrides/setting-overrides.ts';

const holdSchema = z.strictObject({
  device: z.string(),
  model: z.string(),
  pid: z.int(),
  host: z.string(),
  /** ISO 8601. */
  since: z.string(),
  /** As it was typed. */
  command: z.string(),
  settings: z.array(
    z.strictObject({ setting: z.string(), was: z.string().nullable(), held: z.string().nullable() }),
  ),
});
type HoldFile = z.infer<typeof holdSchema>;

export interface Hold extends HoldFile {
  file: string;
  /** Whoever holds it still runs. */
  isLive: boolean;
}

const BEAT_MS = 5_000;
// A holder that has not beaten for so long has died, and its process id may be another's by now.
const DEAD_AFTER_MS = 30_000;
/** Another call changes or restores its own settings within that time. */
const PATIENCE_MS = 10_000;
/** A drill that is under way is waited for before the phone is restored. */
const RESTORE_PATIENCE_MS = 15 * 60_000;

const folderOf = (stateFolder: string): string => join(stateFolder, 'held');

/** Of one phone, or of all. */
export async function listHolds(stateFolder: string, device?: Device): Promise<Hold[]> {
  const folder = folderOf(stateFolder);
  const names = await readdir(folder).catch(() => []);
  const own = names.filter((name) => !device || name.startsWith(`${fileNameOf(device)}+`));
  const holds = await Promise.all(own.map((name) => readHold(join(folder, name))));
  return holds.flatMap((hold) => hold ?? []).sort((a, b) => (a.since < b.since ? -1 : 1));
}

async function readHold(file: string): Promise<Hold | undefined> {
  try {
    const hold = holdSchema.parse(JSON.parse(await readFile(file, 'utf8')));
    const isFresh = Date.now() - (await stat(file)).mtimeMs < DEAD_AFTER_MS;
    const isHere = hold.host === hostname();
    return { ...hold, file, isLive: isFresh && (!isHere || isRunning(hold.pid)) };
  } catch {
    // being written, or removed just now
    return undefined;
  }
}

/** What is held now, by the call that holds it. */
export interface LiveHold {
  settings: HoldFile['settings'];
  /** What each read after it was changed. */
  reads: Map<string, string | null>;
  /** What killed calls had left changed, as it reads now. */
  restoredFirst: readonly PutBack[];
  /** Holds these as well, or at another value. @throws OutOfReach */
  change(wanted: readonly Held[]): Promise<void>;
  /** Restores these, and holds the rest. @throws OutOfReach */
  drop(settings: readonly string[]): Promise<void>;
  /** Restores everything; @param onWait told once where a drill has to end first */
  release(onWait?: () => void): Promise<PutBack[]>;
}

/**
 * Changes the settings, and holds them. What a dead hold left is restored first.
 *
 * @throws OutOfReach where a live hold has one of them, or a drill is under way
 */
export async function takeHold(
  device: Device,
  stateFolder: string,
  command: string,
  wanted: readonly Held[],
): Promise<LiveHold> {
  const folder = folderOf(stateFolder);
  const name = `${fileNameOf(device)}+${process.pid}-${Date.now()}.json`;
  const file = join(folder, name);
  const hold: HoldFile = {
    device: device.serial,
    model: device.info.model,
    pid: process.pid,
    host: hostname(),
    since: new Date().toISOString(),
    command,
    settings: [],
  };
  const reads = new Map<string, string | null>();
  const restoredFirst: PutBack[] = [];
  const locked = <T>(task: () => Promise<T>) =>
    withDeviceLock(stateFolder, device, task, { patienceMs: PATIENCE_MS });
  const keep = () =>
    writeDurably(folder, name, (staged) => writeFile(staged, JSON.stringify(hold), { mode: 0o600 }));
  const change = async (more: readonly Held[]) => {
    const held = (setting: string) => hold.settings.find((one) => one.setting === setting);
    await refuseTaken(device, stateFolder, more, file);
    for (const [setting, value] of more) {
      const before = held(setting);
      if (before) before.held = value;
      else hold.settings.push({ setting, was: await device.setting(setting).read(), held: value });
    }
    await keep();
    for (const [setting, value] of more) {
      await device.setting(setting).write(value);
      reads.set(setting, await device.setting(setting).read());
    }
  };
  await mkdir(folder, { recursive: true });
  await locked(async () => {
    restoredFirst.push(...(await restoreDeadHolds(device, stateFolder)));
    await change(wanted).catch(async (error: unknown) => {
      await restoreHold(device, { ...hold, file, isLive: true }).catch(() => {});
      throw error;
    });
  });
  const beat = setInterval(() => {
    const now = new Date();
    void utimes(file, now, now).catch(() => {});
  }, BEAT_MS);
  return {
    settings: hold.settings,
    reads,
    restoredFirst,
    change: (more) => locked(() => change(more)),
    drop: (settings) =>
      locked(async () => {
        for (const { setting, was } of hold.settings.filter((one) => settings.includes(one.setting)))
          await restoreSetting(device, setting, was);
        const rest = hold.settings.filter((one) => !settings.includes(one.setting));
        hold.settings.splice(0, hold.settings.length, ...rest);
        await keep();
      }),
    release: async (onWait) => {
      clearInterval(beat);
      if (device.isGone()) await device.reconnect();
      return withDeviceLock(
        stateFolder,
        device,
        // somebody else may have restored it by force
        async () => ((await readHold(file)) ? restoreHold(device, { ...hold, file, isLive: true }) : []),
        { patienceMs: RESTORE_PATIENCE_MS, onWait },
      );
    },
  };
}

async function refuseTaken(
  device: Device,
  stateFolder: string,
  wanted: readonly Held[],
  ownFile: string,
): Promise<void> {
  for (const hold of await listHolds(stateFolder, device)) {
    if (hold.file === ownFile) continue;
    const taken = hold.settings.find(({ setting }) => wanted.some(([other]) => other === setting));
    if (taken)
      throw new OutOfReach(
        'in-use',
        `${taken.setting} of ${device.serial} is held by process ${hold.pid} since ${hold.since} (${hold.command}). End that call with Ctrl-C, or restore it by force: fenlok restore --force`,
      );
  }
}

/** Under the phone's lock. @returns every setting as it reads now */
export async function restoreDeadHolds(device: Device, stateFolder: string): Promise<PutBack[]> {
  const dead = (await listHolds(stateFolder, device)).filter(({ isLive }) => !isLive);
  const done: PutBack[] = [];
  // the latest first, since it may rest on one before
  for (const hold of dead.reverse()) done.push(...(await restoreHold(device, hold)));
  return done;
}

/** Under the phone's lock; the file goes only where every setting reads as it was. */
export async function restoreHold(device: Device, { file, settings }: Hold): Promise<PutBack[]> {
  const done: PutBack[] = [];
  for (const { setting, was } of settings.toReversed()) {
    await restoreSetting(device, setting, was);
    done.push({ setting, was, now: await readUnlessRefused(device, setting) });
  }
  if (done.every(({ now, was }) => now === was)) await rm(file, { force: true });
  return done;
}
