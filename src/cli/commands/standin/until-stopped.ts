import type { Io } from '../../io.ts';

export const untilStopped = ({ signal }: Io): Promise<void> =>
  new Promise((resolve) => {
    if (signal.aborted) resolve();
    else signal.addEventListener('abort', () => resolve(), { once: true });
  });
