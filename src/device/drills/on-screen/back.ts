import type { ScreenDrill } from './screen-drill.ts';

/** Undisturbed: what the way back is, for the other drills to be held against. */
export const back = {
  id: 'back',
  says: 'back, until the app is left',
  needs: ['back'],
  run: async () => {},
  walksBack: true,
} satisfies ScreenDrill;
