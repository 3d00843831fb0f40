import type { LightAreaFact } from '../../../model/facts/looks.ts';
import { area, intersect, pxToDp } from '../../../model/geometry.ts';
import { isActionable, isPicture, type VisibleNode } from '../../../model/ui-tree.ts';
import type { CaptureObserver } from '../../observer.ts';
import { relativeLuminance, toHex } from '../colour.ts';
import { flatColour } from '../pixels/flat-colour.ts';
import { seenTexts } from '../seen-texts.ts';

// What a screen of the dark theme may have that is light: a button, a chip, a thumb. Not a panel.
const LEAST_SHARE = 0.03;
const BUTTON_DP = 96;
const LEAST_LUMINANCE = 0.4;
/** Of an element's own area, without what it holds. */
const MOSTLY = 0.6;
const STEP_PX = 6;

/** Light areas on screens of the dark theme, each once: by the outermost element that is filled with the colour. */
export const observeLightAreas = {
  id: 'light-areas',
  reads: 'capture',
  *observe(evidence) {
    const { capture, digest } = evidence;
    if (capture.cell.theme !== 'dark') return;
    const { nodes, pixels } = seenTexts(evidence);
    const screenPx = pixels.widthPx * pixels.heightPx;
    const isButton = ({ ancestors, node }: VisibleNode) =>
      [node, ...ancestors].some(
        (one) => isActionable(one) && pxToDp(one.bounds.height, capture.densityDpi) <= BUTTON_DP,
      );
    const isPictured = ({ ancestors, node }: VisibleNode) =>
      isPicture(node) || ancestors.some((ancestor) => isPicture(ancestor));
    const found: { item: VisibleNode; colour: string }[] = [];
    for (const item of nodes) {
      const share = area(item.visiblePx) / screenPx;
      if (share < LEAST_SHARE || isButton(item) || isPictured(item)) continue;
      const inside = nodes
        .filter(
          ({ order, visiblePx }) => order > item.order && area(intersect(visiblePx, item.visiblePx)) > 0,
        )
        .map(({ visiblePx }) => visiblePx)
        // what covers it whole is its own content, drawn on its ground
        .filter((box) => area(intersect(box, item.visiblePx)) < 0.95 * area(item.visiblePx));
      const flat = flatColour(pixels, item.visiblePx, inside, STEP_PX);
      if (!flat || flat.share < MOSTLY) continue;
      const luminance = relativeLuminance(flat.rgb);
      const colour = toHex(flat.rgb);
      const ownShare = (flat.points * flat.share * STEP_PX ** 2) / screenPx;
      if (luminance < LEAST_LUMINANCE || ownShare < LEAST_SHARE / 2) continue;
      if (found.some((one) => one.colour === colour && item.ancestors.includes(one.item.node))) continue;
      found.push({ item, colour });
      yield {
        kind: 'light-area',
        cell: capture.cell,
        evidence: digest,
        platform: capture.platform,
        element: {
          key: item.key,
          className: item.node.className,
          shown: item.node.label || item.node.text,
          boundsPx: item.visiblePx,
        },
        colour,
        luminance,
        share: ownShare,
      } satisfies LightAreaFact;
    }
  },
} satisfies CaptureObserver;
