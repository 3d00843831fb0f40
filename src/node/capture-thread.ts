/** What a thread of the pool runs: errors that a user causes come back as what is wrong, since classes do not pass between threads. */
import sharp from 'sharp';
import type { Fact } from '../core/model/fact.ts';
import { type Problem, UnreadableError } from '../core/model/problem.ts';
import { type CaptureJob, measureCapture } from './measure-capture.ts';

// there are as many threads as cores already
sharp.concurrency(1);

export type CaptureAnswer = { facts: Fact[] } | { problem: Problem };

export default async function answer(job: CaptureJob): Promise<CaptureAnswer> {
  try {
    return { facts: await measureCapture(job) };
  } catch (error) {
    if (error instanceof UnreadableError) return { problem: error.problem };
    throw error;
  }
}
