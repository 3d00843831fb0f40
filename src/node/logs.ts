/** Logs and crash reports, in a dossier: of each only what it tells of the app. */
import { readFile, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { z } from 'zod';
import { parseJson } from '../core/formats/parse-json.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { type DeviceLog, deviceLogSchema } from '../core/model/trouble.ts';
import { type Dossier, type EvidenceEntry, json, type Taken } from './dossier.ts';
import { readLogFile } from './log-files.ts';
import { listNamed, type NamedFile, placeFor } from './named-evidence.ts';
import { nodePorts } from './ports.ts';
import { readTextFile } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'logs';
const KEPT_LIMIT_BYTES = 64 * 2 ** 20;

const keptSchema = z.strictObject({ fenlok: z.literal('kept-log/1'), log: deviceLogSchema });

/**
 * Takes one in; of one file the newest counts.
 *
 * @throws UnreadableError where it is no log, or about another app
 */
export async function addLog(dossier: Dossier, path: string): Promise<Taken> {
  return keepLog(dossier, path, await readLogFile(path, dossier.candidate.build.appId));
}

/** @param path its file, or the name that it goes by */
export async function keepLog({ folder }: Dossier, path: string, log: DeviceLog): Promise<Taken> {
  const kept = json({ fenlok: 'kept-log/1', log });
  const place = placeFor(folder, ROOM, `${path}.json`);
  const before = await readFile(join(folder, place), 'utf8').catch(() => undefined);
  if (before !== kept) await writeDurably(folder, place, (staged) => writeFile(staged, kept));
  return { kind: 'log', name: basename(path), digest: await digestOf(path, kept), again: before === kept };
}

export async function listLogs({ folder }: Dossier): Promise<(EvidenceEntry & NamedFile)[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named.map(async ({ file, name }) => ({
      file,
      name: name.replace(/\.json$/, ''),
      digest: (await digestOf(name, await readFile(file, 'utf8'))).slice(0, 16),
    })),
  );
}

/** @throws UnreadableError where it was changed by hand */
export async function openLog({ file }: EvidenceEntry): Promise<DeviceLog> {
  return parseJson(
    file,
    await readTextFile(file, KEPT_LIMIT_BYTES),
    keptSchema,
    'a file of logs/ as Fenlok writes it',
  ).log;
}

const digestOf = (name: string, kept: string): Promise<string> =>
  sha256Hex(nodePorts, new TextEncoder().encode(`${basename(name)}\n${kept}`));
