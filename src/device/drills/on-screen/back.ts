import type { ScreenDrill } from './screen-drill.ts';

/** Undisturbed: what the way back is, for the other drills to be held against. By the key, or by a swipe from the edge of the screen. */
export const back = {
  id: 'back',
  says: 'back, until the app is left or nothing is behind',
  run: async () => {},
  walksBack: true,
} satisfies ScreenDrill;
