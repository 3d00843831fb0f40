/** One at a time, over processes: what reads a file, changes it and writes it back. */
import { randomUUID } from 'node:crypto';
import { link, mkdir, readFile, realpath, rename, rm, stat, writeFile } from 'node:fs/promises';
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
    if (!(error instanceof LockHeld) || isAlive(error.owner)) throw error;
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
  try {
    await claim(file);
  } catch (error) {
    await release();
    throw error;
  }
  return release;
}

/** Says whose the lock is, whole or not at all, and never over the word of another that lives. */
async function claim(file: string): Promise<void> {
  const own: LockOwner = { pid: process.pid, host: hostname(), since: new Date().toISOString() };
  const staged = `${file}.${own.pid}-${randomUUID()}`;
  await writeFile(staged, JSON.stringify(own));
  try {
    await link(staged, file).catch(async (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EEXIST') throw error;
      const other = await readOwner(file);
      if (isAlive(other) && other?.host === own.host) throw new LockHeld(other);
      // what a dead one left
      await rename(staged, file);
    });
  } finally {
    await rm(staged, { force: true });
  }
}

/**
 * One at a time, so that no two believe the dead one's lock to be theirs to remove. Where nobody says that it is theirs, it was
 * being taken or given back when its holder was killed.
 */
const takeOver = (file: string): Promise<() => Promise<void>> =>
  withFileLock(`${file}.takeover`, async () => {
    const taken = await stat(`${file}.lock`).catch(() => undefined);
    // one that was taken just now does not say yet whose it is
    if (taken) await setTimeout(Math.max(0, taken.mtimeMs + SETTLED_MS - Date.now()));
    if (!isAlive(await readOwner(file))) await rm(`${file}.lock`, { recursive: true, force: true });
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

/** As far as can be told from here. */
const isAlive = (owner: LockOwner | undefined): boolean =>
  owner !== undefined && (owner.host !== hostname() || isRunning(owner.pid));
