import type { View } from 'fenlok';
import { useEffect, useState } from 'react';
import type { Entry } from './library.ts';
import type { BenchScreen } from './worker/bench-screen.ts';
import { measuring } from './worker/client.ts';

export interface Shown {
  screen?: BenchScreen;
  bitmap?: ImageBitmap;
  problem?: string;
}

/** Opens the capture in the worker and has its picture in that view; while the next one opens, the last one stays. */
export function useScreen(entry: Entry | undefined, view: View): Shown {
  const [shown, setShown] = useState<Shown>({});
  useEffect(() => {
    if (!entry) return;
    let current = true;
    const open = async () => {
      const screen = await measuring.open(entry.id, await entry.load());
      const bitmap = await measuring.picture(entry.id, view);
      if (current) setShown({ screen, bitmap });
    };
    open().catch((error: Error) => current && setShown({ problem: error.message }));
    return () => {
      current = false;
    };
  }, [entry, view]);
  return shown;
}
