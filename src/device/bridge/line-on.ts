/** An open line of the bridge, whichever way it leads. */
import { type Adb, AdbFeature } from '@yume-chan/adb';
import type { DeviceInfo } from '../device.ts';
import { OutOfReach } from '../out-of-reach.ts';
import { pause } from '../phone/pause.ts';
import type { BridgeLine, Ran, RunOptions } from './bridge-line.ts';

const TIMEOUT_MS = 30_000;
const OUTPUT_LIMIT_BYTES = 64 * 2 ** 20;
const RECONNECTS = 5;
const LEAVES_WITHIN_MS = 50;
const RECONNECT_PAUSE_MS = 300;

export async function lineOn(serial: string, connect: () => Promise<Adb>): Promise<BridgeLine> {
  let line: Adb;
  let gone = false;
  /** Of commands that are under way: told when the device goes away. */
  const waiting = new Set<(error: OutOfReach) => void>();
  const take = async () => {
    const adb = await connect();
    line = adb;
    gone = false;
    const lose = () => {
      if (line !== adb) return;
      gone = true;
      for (const fail of waiting) fail(lost(serial));
    };
    adb.disconnected.then(lose, lose);
  };
  const within = <T>(what: string, { timeoutMs = TIMEOUT_MS }: RunOptions, work: Work<T>): Promise<T> =>
    gone
      ? Promise.reject(lost(serial))
      : endsWithin(timeoutMs, () => `${serial}: "${cut(what)}"`, work, waiting);
  const bytes = (command: string, options: RunOptions = {}) =>
    within(command, options, (onStop) => readAll(line, `exec:${command}`, onStop));
  await take();
  const run = (command: string, options: RunOptions = {}): Promise<Ran> =>
    within(command, options, async (onStop) => {
      if (!line.canUseFeature(AdbFeature.ShellV2)) {
        // before Android 7 nothing told the exit code, and the terminal of "shell:" made CR LF of each line's end
        const all = await readAll(line, `exec:${command}\necho "${ENDED}$?"`, onStop);
        return withoutEnd(new TextDecoder().decode(all));
      }
      // read whole and taken apart here: the library's own streams cost more than the command
      return unframe(await readAll(line, `shell,v2,raw:${command}`, onStop));
    });
  return {
    serial,
    info: await readInfo(run),
    run,
    bytes,
    pull: (path, limitBytes) =>
      within(`pull ${path}`, { timeoutMs: 120_000 }, async () => {
        const sync = await line.sync();
        try {
          return await collect(sync.read(path), limitBytes, path);
        } finally {
          await sync.dispose();
        }
      }),
    install: (apk) => within('install', { timeoutMs: 180_000 }, () => install(line, apk)),
    isGone: () => gone,
    reconnect: async () => {
      for (let tries = 1; ; tries++) {
        try {
          await take();
          return;
        } catch (error) {
          if (tries === RECONNECTS) throw error;
          await new Promise((resolve) => setTimeout(resolve, RECONNECT_PAUSE_MS * tries));
        }
      }
    },
    close: async () => {
      gone = true;
      await line.close();
    },
  };
}

/** `onStop` is told what stops it, for when its time is up. */
type Work<T> = (onStop: (stop: () => void) => void) => Promise<T>;

/** @param waiting where it can be failed from outside for as long as it is under way */
function endsWithin<T>(
  timeoutMs: number,
  formatWhat: () => string,
  work: Work<T>,
  waiting: Set<(error: OutOfReach) => void>,
): Promise<T> {
  return new Promise<T>((resolve, reject) => {
    let stop = () => {};
    const end = () => {
      clearTimeout(timer);
      waiting.delete(fail);
    };
    const fail = (error: unknown) => {
      end();
      reject(error);
    };
    const timer = setTimeout(() => {
      stop();
      fail(new OutOfReach('timeout', `${formatWhat()} did not end within ${timeoutMs / 1000} s`));
    }, timeoutMs);
    waiting.add(fail);
    work((of) => {
      stop = of;
    }).then(
      (value) => {
        end();
        resolve(value);
      },
      // streams end with errors of their own when the line goes, a moment before it is known
      (error) => void pause(LEAVES_WITHIN_MS).then(() => fail(error)),
    );
  });
}

const lost = (serial: string): OutOfReach =>
  new OutOfReach(
    'gone',
    `${serial} went away in the middle of it: look at cable and battery, then run the same call again; it also restores the settings`,
  );

const cut = (line: string): string => (line.length > 60 ? `${line.slice(0, 57)}…` : line);

async function readAll(line: Adb, service: string, onStop: (stop: () => void) => void): Promise<Uint8Array> {
  const socket = await line.createSocket(service);
  onStop(() => void socket.close());
  return collect(socket.readable, OUTPUT_LIMIT_BYTES, service);
}

async function collect(
  stream: { getReader(): { read(): Promise<{ done: boolean; value?: Uint8Array }> } },
  limitBytes: number,
  what: string,
): Promise<Uint8Array> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  const reader = stream.getReader();
  for (;;) {
    const { done, value } = await reader.read();
    if (done || !value) return Buffer.concat(pieces);
    length += value.length;
    if (length > limitBytes) throw new Error(`${cut(what)} gave more than ${limitBytes} bytes`);
    pieces.push(value);
  }
}

const ENDED = 'ended with ';

function withoutEnd(text: string): Ran {
  const at = text.lastIndexOf(ENDED);
  if (at < 0) throw new Error('the command was cut off');
  return { code: Number(text.slice(at + ENDED.length)), out: text.slice(0, at), err: '' };
}

// ids of the pieces of the second shell protocol (shell_protocol.h): each has a byte for its id and four for its length
const PIECE = { out: 1, err: 2, exit: 3 };

function unframe(bytes: Uint8Array): Ran {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.length);
  const pieces: Record<number, Uint8Array[]> = { [PIECE.out]: [], [PIECE.err]: [] };
  let code: number | undefined;
  for (let at = 0; at + 5 <= bytes.length; ) {
    const id = bytes[at]!;
    const end = at + 5 + view.getUint32(at + 1, true);
    if (id === PIECE.exit) code = bytes[at + 5];
    else pieces[id]?.push(bytes.subarray(at + 5, end));
    at = end;
  }
  if (code === undefined) throw new Error('the command was cut off');
  const text = (id: number) => new TextDecoder().decode(Buffer.concat(pieces[id]!));
  return { code, out: text(PIECE.out), err: text(PIECE.err) };
}

/** Streams the package into the platform's installer. */
async function install(line: Adb, apk: Uint8Array): Promise<string | undefined> {
  const socket = await line.createSocket(`exec:cmd package install -r -S ${apk.length}`);
  const writer = socket.writable.getWriter();
  const answer = collect(socket.readable, OUTPUT_LIMIT_BYTES, 'install');
  for (let at = 0; at < apk.length; at += PIECE_BYTES) await writer.write(apk.subarray(at, at + PIECE_BYTES));
  const said = new TextDecoder().decode(await answer).trim();
  return /^Success/m.test(said) ? undefined : said || 'no answer';
}

const PIECE_BYTES = 64 * 1024;

async function readInfo(run: BridgeLine['run']): Promise<DeviceInfo> {
  const props = ['ro.serialno', 'ro.product.model', 'ro.product.device', 'ro.build.version.sdk'];
  const { out } = await run(
    `${props.map((name) => `getprop ${name}`).join('; ')}; wm size; wm density; cmd device_state print-states 2>/dev/null`,
  );
  const [id = '', model = '', name = '', sdk = '', ...rest] = out.split(/\r?\n/);
  const text = rest.join('\n');
  const [, width = '0', height = '0'] = /Physical size: (\d+)x(\d+)/.exec(text) ?? [];
  return {
    id,
    model,
    name,
    sdk: Number(sdk),
    widthPx: Number(width),
    heightPx: Number(height),
    densityDpi: Number(/Physical density: (\d+)/.exec(text)?.[1] ?? 160),
    isFoldable: (text.match(/DeviceState\{/g)?.length ?? 0) > 1,
  };
}
