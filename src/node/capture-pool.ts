/** Captures are measured on threads of their own, as many as there are cores, once there are more than a few. */
import { availableParallelism } from 'node:os';
import type { Tinypool } from 'tinypool';
import type { Fact } from '../core/model/fact.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { CaptureAnswer } from './capture-thread.ts';
import { type CaptureJob, measureCapture } from './measure-capture.ts';
import { ownFile } from './own-files.ts';

// Fewer are done before a thread has loaded.
const FEW = 3;
// Each takes some 150 MB.
const MOST_THREADS = 8;
const IDLE_MS = 2000;

/** So many are worth having in hand. */
export const CAPTURES_AT_ONCE = Math.min(MOST_THREADS, availableParallelism()) + 1;

let measured = 0;
let pool: Promise<Tinypool> | undefined;

/** @throws UnreadableError */
export async function measureOnThread(job: CaptureJob): Promise<Fact[]> {
  if (++measured <= FEW) return measureCapture(job);
  pool ??= openPool();
  const answer = (await (await pool).run(job)) as CaptureAnswer;
  if ('problem' in answer) throw new UnreadableError(answer.problem);
  return answer.facts;
}

async function openPool(): Promise<Tinypool> {
  const { Tinypool: Pool } = await import('tinypool');
  return new Pool({
    filename: ownFile('dist/bin/capture-thread.js'),
    minThreads: 0,
    maxThreads: CAPTURES_AT_ONCE - 1,
    idleTimeout: IDLE_MS,
    // those of this process are not for the threads
    execArgv: [],
    // pixels are many short-lived numbers, and twice the usual room for them is cleared up less often
    resourceLimits: { maxYoungGenerationSizeMb: 96 },
  });
}
