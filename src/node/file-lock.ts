/** One at a time, over processes: what reads a file, changes it and writes it back. */
import { mkdir, readFile, realpath, rm, stat, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { dirname } from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { lock } from 'proper-lockfile';
import { z } from 'zod';
import { UnreadableError } from '../core/model/problem.ts';
import { isRunning } from './is-running.ts';

// A holder that ended without a word is noticed after so long.
const STALE_MS = 5000;
// Many that wait for one another try again at random, up to a minute in all.
const RETRIES = { retries: 600, factor: 1.1, minTimeout: 10, maxTimeout: 150, randomize: true };

/**
 * Runs `task` while nobody else holds the lock of the file, which need not exist. The lock lies beside it as `FILE.lock`, and frees
 * itself some seconds after its holder has died.
 *
 * @throws UnreadableError where another holds it for too long, or the folder cannot be written
 */
export async function withFileLock<T>(path: string, task: () => Promise<T>): Promise<T> {
  await mkdir(dirname(path), { recursive: true });
  // by whatever link it is reached
  const file = await realpath(path).catch(() => path);
  const release = await lock(file, { realpath: false, stale: STALE_MS, retries: RETRIES }).catch(
    (cause: NodeJS.ErrnoException) => {
      throw cause.code === 'ELOCKED' ? heldTooLong(file, cause) : cause;
    },
  );
  try {
    return await task();
  } finally {
    await release();
  }
}

const heldTooLong = (file: string, cause: Error) =>
  new UnreadableError(
    {
      code: 'file.locked',
      file,
      found: 'another process that keeps writing it',
      expected: 'a file that is free within a minute',
      remedy: `Wait for it, or end it. Where none is running, remove ${file}.lock.`,
    },
    { cause },
  );

const ownerSchema = z.strictObject({ pid: z.int(), host: z.string(), since: z.string() });
type LockOwner = z.infer<typeof ownerSchema>;

/** Somebody else holds a lock that is not waited for. */
export class LockHeld extends Error {
  readonly owner: LockOwner | undefined;

  constructor(owner: LockOwner | undefined) {
    super(
      owner
        ? `held by process ${owner.pid} on ${owner.host} since ${owner.since}`
        : 'held by another process',
    );
    this.name = 'LockHeld';
    this.owner = owner;
  }
}

// For work of minutes, in which a thread may be busy for seconds.
const LONG_STALE_MS = 20_000;
// By then whoever has taken a lock has said so.
const SETTLED_MS = 1000;

/**
 * Runs long work while nobody else does the same; `file` says who is at it. A holder that has died on this machine is noticed
 * within a second, on another machine after some more.
 *
 * @throws LockHeld where another is at it
 */
export async function withOwnedLock<T>(file: string, task: () => Promise<T>): Promise<T> {
  await mkdir(dirname(file), { recursive: true });
  const release = await takeOwned(file).catch((error: unknown) => {
    if (!(error instanceof LockHeld) || !hasDied(error.owner)) throw error;
    return takeOver(file);
  });
  try {
    return await task();
  } finally {
    await rm(file, { force: true });
    await release();
  }
}

async function takeOwned(file: string): Promise<() => Promise<void>> {
  const options = { realpath: false, stale: LONG_STALE_MS, retries: 0, onCompromised: () => {} };
  const release = await lock(file, options).catch(async (error: NodeJS.ErrnoException) => {
    throw error.code === 'ELOCKED' ? new LockHeld(await readOwner(file)) : error;
  });
  const owner: LockOwner = { pid: process.pid, host: hostname(), since: new Date().toISOString() };
  await writeFile(file, JSON.stringify(owner));
  return release;
}

/** One at a time, so that no two believe the dead one's lock to be theirs to remove. */
const takeOver = (file: string): Promise<() => Promise<void>> =>
  withFileLock(`${file}.takeover`, async () => {
    const taken = await stat(`${file}.lock`).catch(() => undefined);
    // one that was taken just now does not say yet whose it is
    if (taken) await setTimeout(Math.max(0, taken.mtimeMs + SETTLED_MS - Date.now()));
    if (hasDied(await readOwner(file))) await rm(`${file}.lock`, { recursive: true, force: true });
    return takeOwned(file);
  });

const readOwner = async (file: string): Promise<LockOwner | undefined> =>
  ownerSchema.safeParse(parsed(await readFile(file, 'utf8').catch(() => ''))).data;

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

const hasDied = (owner: LockOwner | undefined): boolean =>
  owner?.host === hostname() && !isRunning(owner.pid);
