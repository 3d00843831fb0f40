/** Installing, at once or in a session of several files (`pm install-create`, `install-write`, `install-commit`). */
import type { PhoneOs } from '../../os/phone-os.ts';
import { type Call, letters, readAll } from '../shell-command.ts';

const APK_LIMIT_BYTES = 2 ** 30;
const MOST_SESSIONS = 50;

interface Session {
  files: Map<string, Uint8Array>;
  replaces: boolean;
}

const sessions = new WeakMap<PhoneOs, Map<string, Session>>();
const sessionsOf = (os: PhoneOs): Map<string, Session> => {
  const all = sessions.get(os) ?? new Map<string, Session>();
  sessions.set(os, all);
  return all;
};

/** From a file on the phone, or with `-S BYTES` from what is sent. */
export async function install(call: Call): Promise<number> {
  const { flags, rest, values } = letters(call.args, 'SiaC');
  const bytes = await bytesFor(call, rest[0], values.get('S'));
  return bytes ? finish(call, [bytes], !flags.has('R')) : 1;
}

async function bytesFor(
  call: Call,
  path: string | undefined,
  size: string | undefined,
): Promise<Uint8Array | undefined> {
  const sizeBytes = Number(size);
  if (path !== undefined && path !== '-') {
    const plain = call.path(path);
    const bytes = call.os.readFile(plain)?.bytes;
    if (!bytes) call.err(`Error: failed to open file: ${path}: No such file or directory\n`);
    return bytes;
  }
  if (sizeBytes > 0 && sizeBytes <= APK_LIMIT_BYTES) return readExactly(call.input, sizeBytes);
  call.err('Error: must either specify a package size or an APK file\n');
  return undefined;
}

async function finish({ os, out }: Call, apks: readonly Uint8Array[], replace: boolean): Promise<number> {
  const installed = await os.packages.install(apks, { replace });
  if (typeof installed === 'string') {
    out(`Failure [${installed}]\n`);
    return 1;
  }
  os.activities.forceStop(installed.appId);
  out('Success\n');
  return 0;
}

/** `install-create`, `install-write`, `install-commit`, `install-abandon`. */
export async function installSession(call: Call, verb: string): Promise<number> {
  const { err, os, out } = call;
  const all = sessionsOf(os);
  const { flags, rest, values } = letters(call.args, 'SiaCp');
  if (verb === 'install-create') {
    if (all.size >= MOST_SESSIONS) {
      err('Error: java.lang.IllegalStateException: Too many active sessions for UID 2000\n');
      return 255;
    }
    const id = String(1_000_000_000 + Math.floor(Math.random() * 1_000_000_000));
    all.set(id, { files: new Map(), replaces: !flags.has('R') });
    out(`Success: created install session [${id}]\n`);
    return 0;
  }
  const [id = '', name = '', path] = rest;
  const session = all.get(id);
  if (!session) {
    err(`Error: java.lang.SecurityException: Caller has no access to session ${id}\n`);
    return 255;
  }
  if (verb === 'install-abandon') {
    all.delete(id);
    out('Success\n');
    return 0;
  }
  if (verb === 'install-commit') {
    all.delete(id);
    return finish(call, [...session.files.values()], session.replaces);
  }
  const bytes = await bytesFor(call, path, values.get('S'));
  if (!bytes) return 1;
  session.files.set(name, bytes);
  out(`Success: streamed ${bytes.length} bytes\n`);
  return 0;
}

async function readExactly(input: AsyncIterable<Uint8Array>, sizeBytes: number): Promise<Uint8Array> {
  let got = 0;
  async function* untilThere() {
    for await (const piece of input) {
      got += piece.length;
      yield piece;
      if (got >= sizeBytes) return;
    }
  }
  return readAll(untilThere(), sizeBytes);
}
