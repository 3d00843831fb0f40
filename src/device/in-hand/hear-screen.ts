/** What a screen reader meets on the screen in front, and what it does there. */
import { type Stop, walkStops } from '../../core/areas/accessibility/walk-stops.ts';
import { intersect } from '../../core/model/geometry.ts';
import { isRightToLeft } from '../../core/model/locale.ts';
import type { Device, Snapshot } from '../device.ts';
import { tap } from '../phone/perform-step.ts';

export interface HeardScreen {
  activity: string;
  stops: readonly Stop[];
  hierarchy: string;
}

/** @param locale BCP 47 */
export async function hearScreen(device: Device, locale: string): Promise<HeardScreen> {
  const { activity, hierarchy, tree }: Snapshot = await device.snapshot();
  const { height, width, x, y } = tree.bounds;
  const picture = { widthPx: x + width, heightPx: y + height };
  const { stops } = walkStops(tree, picture, { platform: device.platform, rtl: isRightToLeft(locale) });
  return { activity, hierarchy, stops };
}

/** As a reader does on a double tap: the middle of what can be seen of it. */
export async function activateStop(device: Device, { ancestors, boundsPx }: Stop): Promise<void> {
  const scroller = ancestors.findLast(({ scrollable }) => scrollable);
  await tap(device, scroller ? intersect(boundsPx, scroller.bounds) : boundsPx);
}
