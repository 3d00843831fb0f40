/** Push messages of the team, in a dossier: one file each. */
import { readFile, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { isPushPayload, PAYLOAD_FILE_LIMIT_BYTES, readPushPayload } from '../core/formats/push-payload.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { Dossier, EvidenceEntry, Taken } from './dossier.ts';
import { dropFormer, listNamed, type NamedFile, placeFor } from './named-evidence.ts';
import { nodePorts } from './ports.ts';
import { readBytes } from './read-bytes.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'payloads';

/** Whether a JSON file is a push message; what cannot be read is none. */
export async function isPayloadFile(path: string): Promise<boolean> {
  const info = await stat(path).catch(() => undefined);
  if (!info?.isFile() || info.size > PAYLOAD_FILE_LIMIT_BYTES) return false;
  try {
    return isPushPayload(JSON.parse(await readFile(path, 'utf8')));
  } catch {
    return false;
  }
}

/** Takes one in; of one file the newest counts. */
export async function addPayload({ folder }: Dossier, path: string): Promise<Taken> {
  const bytes = await readPayloadBytes(path);
  readPushPayload(path, bytes);
  const place = placeFor(folder, ROOM, path);
  const before = await readFile(join(folder, place)).catch(() => undefined);
  const again = before?.equals(bytes) ?? false;
  if (!again) await writeDurably(folder, place, (staged) => writeFile(staged, bytes));
  await dropFormer(folder, ROOM, path);
  return { kind: 'payload', name: basename(path), digest: await digestOf(basename(path), bytes), again };
}

export async function listPayloads({ folder }: Dossier): Promise<(EvidenceEntry & NamedFile)[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named
      .filter(({ name }) => name.endsWith('.json'))
      .map(async ({ file, name }) => {
        const digest = await digestOf(name, await readPayloadBytes(file));
        return { file, name, digest: digest.slice(0, 16) };
      }),
  );
}

/** Two messages may be alike, and are two pieces of evidence all the same. */
const digestOf = (name: string, bytes: Uint8Array): Promise<string> =>
  sha256Hex(nodePorts, Buffer.concat([Buffer.from(`${name}\n`), bytes]));

/** @throws UnreadableError where it is missing, or too large for any gateway */
export const readPayloadBytes = (path: string): Promise<Uint8Array> =>
  readBytes(
    path,
    PAYLOAD_FILE_LIMIT_BYTES,
    (sizeBytes) =>
      new UnreadableError({
        code: 'payload.too-large',
        file: path,
        found: `${sizeBytes} bytes`,
        expected: 'a message of a few thousand bytes',
      }),
  );
