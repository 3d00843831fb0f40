import type { ScreenDrill } from './screen-drill.ts';

const CLOSED = '0';
const SHARE = 0.75;

/** A foldable is folded and unfolded; of any other device the display is made smaller for a while, as in a split screen. */
export const resize = {
  id: 'resize',
  needs: ['resize'],
  says: 'folded and unfolded, or made smaller and whole again',
  run: async ({ override, device: { info }, lookAway, restore }) => {
    const [name, value] = info.isFoldable
      ? (['posture', CLOSED] as const)
      : (['size', `${info.widthPx}x${Math.round(info.heightPx * SHARE)}`] as const);
    await override(name, value);
    await lookAway();
    await restore(name);
  },
} satisfies ScreenDrill;
