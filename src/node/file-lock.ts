/** One at a time, over processes: what reads a file, changes it and writes it back. */
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { hostname } from 'node:os';
import { dirname } from 'node:path';
import { lock } from 'proper-lockfile';
import { z } from 'zod';
import { UnreadableError } from '../core/model/problem.ts';
import { isRunning } from './is-running.ts';

// A holder that ended without a word is noticed after so long.
const STALE_MS = 5000;
// Many that wait for one another try again at random, up to a minute in all.
const RETRIES = { retries: 600, factor: 1.1, minTimeout: 10, maxTimeout: 150, randomize: true };

/**
 * Runs `task` while nobody else holds the lock of `file`, which need not exist. The lock lies beside it as `FILE.lock`, and frees
 * itself some seconds after its holder has died.
 *
 * @throws UnreadableError where another holds it for too long, or the folder cannot be written
 */
export async function withFileLock<T>(file: string, task: () => Promise<T>): Promise<T> {
  await mkdir(dirname(file), { recursive: true });
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

/**
 * Runs long work while nobody else does the same; `file` says who is at it. A holder that has died on this machine is noticed at
 * once, on another machine after some seconds.
 *
 * @throws LockHeld where another is at it
 */
export async function withOwnedLock<T>(file: string, task: () => Promise<T>): Promise<T> {
  await mkdir(dirname(file), { recursive: true });
  const take = () =>
    lock(file, { realpath: false, stale: LONG_STALE_MS, retries: 0, onCompromised: () => {} }).catch(
      async (error: NodeJS.ErrnoException) => {
        if (error.code !== 'ELOCKED') throw error;
        throw new LockHeld(await readOwner(file));
      },
    );
  const release = await take().catch(async (error: unknown) => {
    if (!(error instanceof LockHeld) || !hasDied(error.owner)) throw error;
    await rm(`${file}.lock`, { recursive: true, force: true });
    return take();
  });
  try {
    const owner: LockOwner = { pid: process.pid, host: hostname(), since: new Date().toISOString() };
    await writeFile(file, JSON.stringify(owner));
    return await task();
  } finally {
    await release();
  }
}

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
