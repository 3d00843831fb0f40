/** Where a touch on a message led. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { IntentWith } from '../check.ts';
import { SAME_SCREEN } from '../lifecycle/state/screen-state.ts';

export type Landing = 'there' | 'elsewhere' | 'not-in-app' | 'unknown';

/**
 * Of iOS nothing names the screen in front: it is told by what stands on it. Unknown where nobody saw the wanted one, or where it is
 * as like another.
 */
export function landingOf(
  { inApp, landed, like, platform }: PushRunFact,
  wanted: string,
  { screens }: IntentWith,
): Landing {
  if (!inApp) return 'not-in-app';
  const activity = screens.find(({ id }) => id === wanted)?.activity ?? '';
  if (platform !== 'ios') return landed.endsWith(activity) ? 'there' : 'elsewhere';
  const likeWanted = like?.[wanted];
  if (likeWanted === undefined) return 'unknown';
  if (likeWanted < SAME_SCREEN) return 'elsewhere';
  return Object.entries(like!).every(([id, one]) => id === wanted || one < likeWanted) ? 'there' : 'unknown';
}

/** What was in front, for people. */
export const namedLanding = ({ landed, title }: PushRunFact): string =>
  title !== undefined && landed !== '' ? `a screen that begins with “${title}”` : landed;

export const unknownScreen = (wanted: string): string =>
  `nobody can tell whether that is ${wanted}: it was not reached by the steps of fenlok.yaml, or another screen looks the same`;
