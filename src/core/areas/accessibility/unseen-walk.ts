/** A walk from stop to stop with the picture hidden, as somebody goes who hears the screen. */
import type { Stop } from './walk-stops.ts';

export type UnseenMove = 'next' | 'previous' | 'heading' | 'control';

/** What was met on all screens of a walk so far. */
export interface UnseenScore {
  presses: number;
  activated: number;
  /** Activations after which nothing else could be heard. */
  withoutAnswer: string[];
  screens: { title: string; heard: Set<string>; stops: number; silent: Set<string> }[];
}

export const unseenScore = (): UnseenScore => ({ presses: 0, activated: 0, withoutAnswer: [], screens: [] });

/**
 * Where a move leads, from the stop at an index (-1 before the first).
 *
 * @returns undefined where there is no further one
 */
export function unseenStep(
  stops: readonly Pick<Stop, 'actionable' | 'heading'>[],
  at: number,
  move: UnseenMove,
): number | undefined {
  if (move === 'previous') return at > 0 ? at - 1 : undefined;
  const wanted = stops.findIndex(
    (stop, i) => i > at && (move === 'next' || (move === 'heading' ? stop.heading : stop.actionable)),
  );
  return wanted < 0 ? undefined : wanted;
}

/** Counts a screen, or what is new on one that was met before. */
export function meetScreen(score: UnseenScore, title: string, stops: readonly Stop[]): void {
  const known = score.screens.find((screen) => screen.title === title);
  const count = stops.length;
  if (known) known.stops = Math.max(known.stops, count);
  else score.screens.push({ title, heard: new Set(), stops: count, silent: new Set() });
}

export function hearStop(score: UnseenScore, title: string, { key, name }: Stop, at: number): void {
  const screen = score.screens.find((one) => one.title === title);
  screen?.heard.add(`${at}`);
  if (!name) screen?.silent.add(key);
}
