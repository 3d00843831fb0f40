import { type Remote, wrap } from 'comlink';
import type { BenchWorker } from './bench-screen.ts';

export const measuring: Remote<BenchWorker> = wrap<BenchWorker>(
  new Worker(new URL('./measure.worker.ts', import.meta.url), { type: 'module' }),
);
