/**
 * Settings that are overridden and restored. Before a setting is changed, what it was goes into a journal on disk: where the run is
 * killed, the next one restores everything. The journal of a device lies outside of any dossier, since the phone does.
 */
import { mkdir, open, readFile, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import type { Device } from '../device.ts';
import { fileNameOf } from '../device-lock.ts';
import { Refused } from '../out-of-reach.ts';

const entrySchema = z.strictObject({ setting: z.string(), was: z.string().nullable() });
type Entry = z.infer<typeof entrySchema>;

/** What a setting was, and what it reads after it was restored. */
export interface PutBack extends Entry {
  now: string | null;
}

export interface SettingOverrides {
  /** Changes a setting; the first time, what it was is kept. */
  override(setting: string, value: string | null): Promise<void>;
  /** Puts one setting back, for the while; it stays in the journal. */
  restore(setting: string): Promise<void>;
  /** Puts all of them back, and reads each to prove it; one that the device refuses does not hold up the others. */
  putBack(): Promise<PutBack[]>;
  /** What an earlier run left borrowed. */
  left: readonly string[];
}

/** @param stateFolder where the journals of all devices lie */
export async function openOverrides(stateFolder: string, device: Device): Promise<SettingOverrides> {
  const folder = join(stateFolder, 'borrowed');
  const file = join(folder, `${fileNameOf(device)}.jsonl`);
  const entries = await readJournal(file);
  const left = [...entries.keys()];
  const keep = async (entry: Entry) => {
    await mkdir(folder, { recursive: true });
    const handle = await open(file, 'a', 0o600);
    try {
      await handle.write(`${JSON.stringify(entry)}\n`);
      await handle.sync();
    } finally {
      await handle.close();
    }
    entries.set(entry.setting, entry);
  };
  return {
    left,
    override: async (setting, value) => {
      const of = device.setting(setting);
      if (!entries.has(setting)) await keep({ setting, was: await of.read() });
      await of.write(value);
    },
    restore: async (setting) => {
      const entry = entries.get(setting);
      if (entry) await writeBack(device, setting, entry.was);
    },
    putBack: async () => {
      const done: PutBack[] = [];
      // the last one borrowed goes back first, since it may rest on one before
      for (const { setting, was } of [...entries.values()].reverse()) {
        await restoreSetting(device, setting, was);
        done.push({ setting, was, now: await readUnlessRefused(device, setting) });
      }
      if (done.every(({ now, was }) => now === was)) {
        await rm(file, { force: true });
        entries.clear();
      }
      return done;
    },
  };
}

// what could not be written reads as it is, and what cannot be read is not what it was
function unlessRefused(error: unknown): string {
  if (!(error instanceof Refused)) throw error;
  return error.message;
}

/** One that the device refuses does not hold up the others. */
export async function restoreSetting(device: Device, setting: string, was: string | null): Promise<void> {
  await writeBack(device, setting, was).catch(unlessRefused);
}

export const readUnlessRefused = (device: Device, setting: string): Promise<string | null> =>
  device.setting(setting).read().catch(unlessRefused);

const writeBack = (device: Device, setting: string, was: string | null): Promise<void> => {
  const of = device.setting(setting);
  return of.reset ? of.reset() : of.write(was);
};

/** A line that the run before did not finish writing was not acted upon either. */
async function readJournal(file: string): Promise<Map<string, Entry>> {
  const text = await readFile(file, 'utf8').catch(() => '');
  const entries = new Map<string, Entry>();
  for (const line of text.split('\n').filter(Boolean)) {
    const entry = parseEntry(line);
    if (entry && !entries.has(entry.setting)) entries.set(entry.setting, entry);
  }
  return entries;
}

function parseEntry(line: string): Entry | undefined {
  try {
    return entrySchema.parse(JSON.parse(line));
  } catch {
    return undefined;
  }
}
