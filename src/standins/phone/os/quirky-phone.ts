/** What a phone with quirks is from the start; `imitate-quirks.ts` has what its commands do. */
import type { Quirk } from '../quirks.ts';
import type { PhoneShape } from '../shapes.ts';
import type { PhoneOs } from './phone-os.ts';

const SLOW_ANIMATION_MS = 2500;
const SHORT_LOG_LINES = 40;
const BEHIND_MS = 9 * 3_600_000;

export const quirkyShape = (shape: PhoneShape, quirks: ReadonlySet<Quirk>): PhoneShape =>
  quirks.has('slow-animations') ? { ...shape, animationMs: SLOW_ANIMATION_MS } : shape;

export function setUpQuirks(os: PhoneOs, quirks: ReadonlySet<Quirk>): void {
  os.quirks = quirks;
  if (quirks.has('own-size')) {
    const { densityDpi, heightPx, widthPx } = os.shape;
    os.sizePx = { widthPx: Math.round(widthPx * 0.75), heightPx: Math.round(heightPx * 0.75) };
    os.densityDpi = densityDpi * 0.75;
  }
  if (quirks.has('short-log')) os.log.keptLines = SHORT_LOG_LINES;
  if (quirks.has('other-clock')) os.log.clockAheadMs = -BEHIND_MS;
}
