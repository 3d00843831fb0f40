/** Push messages of the team, in a dossier: one file each, by its name. */
import { readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { isPushPayload, PAYLOAD_FILE_LIMIT_BYTES, readPushPayload } from '../core/formats/push-payload.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { type Dossier, type EvidenceEntry, type Taken, whole } from './dossier.ts';
import { nodePorts } from './ports.ts';
import { readBytes } from './read-bytes.ts';

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

/** Takes one in; of one name the newest counts. */
export async function addPayload({ folder }: Dossier, path: string): Promise<Taken> {
  const bytes = await readPayloadBytes(path);
  readPushPayload(path, bytes);
  const name = `payloads/${basename(path)}`;
  const before = await readFile(join(folder, name)).catch(() => undefined);
  const again = before?.equals(bytes) ?? false;
  if (!again) await whole(folder, name, (staged) => writeFile(staged, bytes));
  return { kind: 'payload', name: basename(path), digest: await digestOf(path, bytes), again };
}

export async function listPayloads({ folder }: Dossier): Promise<EvidenceEntry[]> {
  const names = await readdir(join(folder, 'payloads')).catch(() => []);
  return Promise.all(
    names
      .filter((name) => name.endsWith('.json'))
      .sort()
      .map(async (name) => {
        const file = join(folder, 'payloads', name);
        return { file, digest: (await digestOf(file, await readPayloadBytes(file))).slice(0, 16) };
      }),
  );
}

/** Two messages may be alike, and are two pieces of evidence all the same. */
const digestOf = (path: string, bytes: Uint8Array): Promise<string> =>
  sha256Hex(nodePorts, Buffer.concat([Buffer.from(`${basename(path)}\n`), bytes]));

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
