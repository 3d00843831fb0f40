/** A rehearsal as the browser keeps it, so that a reload loses nothing. */
import { z } from 'zod';
import { actSchema } from './model/acts.ts';
import type { Played } from './model/session.ts';

const MOST_ACTS = 20_000;

const keptSchema = z.strictObject({
  fenlok: z.literal('rehearsal/1'),
  startMs: z.number(),
  testClock: z.string().optional(),
  acts: z.array(actSchema).max(MOST_ACTS),
});

const keyOf = (appId: string): string => `fenlok rehearsal of ${appId}`;

/** Undefined where nothing is kept, or nothing that can be read. */
export function readKept(appId: string): Played | undefined {
  try {
    const { fenlok: _, ...played } = keptSchema.parse(JSON.parse(localStorage.getItem(keyOf(appId)) ?? ''));
    return played;
  } catch {
    return undefined;
  }
}

/** Where a browser keeps nothing, a reload begins again, and nothing else is lost. */
export function keep(appId: string, played: Played): void {
  try {
    localStorage.setItem(keyOf(appId), JSON.stringify({ fenlok: 'rehearsal/1', ...played }));
  } catch {}
}
