/** A conversation with a lookout (docs/ios.md): one JSON object a line, each answer with the id of its request. */
import { createConnection, type Socket } from 'node:net';
import { OutOfReach } from '../out-of-reach.ts';

export const LOOKOUT_VERSION = 1;

/** A lookout that did not do what it was asked. */
export class LookoutRefused extends Error {
  readonly code: string;
  constructor(code: string, why: string) {
    super(why);
    this.code = code;
  }
}

export interface LookoutLine {
  /** What `hello` was answered with. */
  hello: Readonly<Record<string, unknown>>;
  /** @throws LookoutRefused; OutOfReach where it goes away or does not answer in time */
  ask(
    request: { ask: string } & Record<string, unknown>,
    timeoutMs?: number,
  ): Promise<Record<string, unknown>>;
  isGone(): boolean;
  close(): void;
}

const CONNECT_MS = 10_000;
// a UI test waits until its app is idle before it answers
const ANSWER_MS = 60_000;
/** A picture of the largest tablet, in base64. */
const LONGEST_LINE = 40 * 2 ** 20;

const HOW_TO_START =
  'Start the UI test that holds the lookout (docs/ios.md), or a stand-in: fenlok standin phone --platform ios';

interface Waiting {
  resolve(done: Record<string, unknown>): void;
  reject(error: Error): void;
  timer: NodeJS.Timeout;
}

/** @throws OutOfReach where nobody answers, the token is another one, or the lookout is of another version */
export async function openLookoutLine(address: string, token: string): Promise<LookoutLine> {
  const socket = await dial(address);
  const waiting = new Map<number, Waiting>();
  let next = 1;
  let gone = false;
  const lose = () => {
    gone = true;
    socket.destroy();
    for (const { reject, timer } of waiting.values()) {
      clearTimeout(timer);
      reject(lost(address));
    }
    waiting.clear();
  };
  socket.on('close', lose);
  socket.on('error', lose);
  onLines(socket, lose, (line) => {
    const { done, id, refused, code } = line as {
      done?: unknown;
      id?: unknown;
      refused?: unknown;
      code?: unknown;
    };
    const one = waiting.get(Number(id));
    if (!one) return;
    waiting.delete(Number(id));
    clearTimeout(one.timer);
    if (refused === undefined) one.resolve((done ?? {}) as Record<string, unknown>);
    else one.reject(new LookoutRefused(String(code), String(refused)));
  });
  const ask: LookoutLine['ask'] = (request, timeoutMs = ANSWER_MS) =>
    new Promise((resolve, reject) => {
      if (gone) {
        reject(lost(address));
        return;
      }
      const id = next++;
      const timer = setTimeout(() => {
        waiting.delete(id);
        reject(
          new OutOfReach(
            'timeout',
            `the lookout at ${address} did not answer "${request.ask}" within ${timeoutMs / 1000} s`,
          ),
        );
      }, timeoutMs);
      waiting.set(id, { resolve, reject, timer });
      socket.write(`${JSON.stringify({ id, ...request })}\n`);
    });
  try {
    const hello = await ask({ ask: 'hello', lookout: LOOKOUT_VERSION, token }, CONNECT_MS);
    return { hello, ask, isGone: () => gone, close: () => socket.destroy() };
  } catch (error) {
    socket.destroy();
    throw notLetIn(address, error);
  }
}

function notLetIn(address: string, error: unknown): unknown {
  if (!(error instanceof LookoutRefused)) return error;
  if (error.code === 'token')
    return new OutOfReach(
      'unauthorised',
      `the lookout at ${address} has another token. Give the one that your UI test was started with: FENLOK_LOOKOUT_TOKEN`,
    );
  if (error.code === 'version')
    return new OutOfReach(
      'refused',
      `the lookout at ${address} is of another version (${error.message}; this Fenlok speaks ${LOOKOUT_VERSION}). Copy FenlokLookout.swift of this Fenlok into the UI test, and start it again`,
    );
  return new OutOfReach('refused', `the lookout at ${address}: ${error.message}`);
}

function dial(address: string): Promise<Socket> {
  const [, host = '', port = ''] = /^(.+):(\d{1,5})$/.exec(address) ?? [];
  return new Promise((resolve, reject) => {
    const socket = createConnection({
      host: host.replace(/^\[|\]$/g, ''),
      port: Number(port),
      noDelay: true,
      timeout: CONNECT_MS,
    });
    const fail = (cause?: Error) => {
      socket.destroy();
      const why = (cause as NodeJS.ErrnoException | undefined)?.code ?? 'no answer';
      reject(
        new OutOfReach('no-answer', `no lookout answers at ${address} (${why}). ${HOW_TO_START}`, { cause }),
      );
    };
    socket.once('error', fail);
    socket.once('timeout', fail);
    socket.once('connect', () => {
      socket.off('error', fail).off('timeout', fail).setTimeout(0);
      resolve(socket);
    });
  });
}

/** What is no JSON, or too long, ends the conversation. */
function onLines(socket: Socket, onWrong: () => void, onLine: (line: object) => void): void {
  let pieces: string[] = [];
  let length = 0;
  socket.setEncoding('utf8');
  socket.on('data', (text: string) => {
    const lines = text.split('\n');
    for (const [i, part] of lines.entries()) {
      pieces.push(part);
      length += part.length;
      if (length > LONGEST_LINE) {
        onWrong();
        return;
      }
      if (i === lines.length - 1) return;
      const line = pieces.join('');
      pieces = [];
      length = 0;
      try {
        const value: unknown = JSON.parse(line);
        if (typeof value === 'object' && value !== null) onLine(value);
      } catch {
        onWrong();
        return;
      }
    }
  });
}

const lost = (address: string): OutOfReach =>
  new OutOfReach(
    'gone',
    `the lookout at ${address} went away in the middle of it: its UI test ended, or the device is gone. ${HOW_TO_START}; then run the same call again, which also restores the settings`,
  );
