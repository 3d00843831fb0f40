/** A page written down as the OS's dump of classic views would: bounds cut as the platform cuts them, and its picture. */
import type { Page } from 'playwright-core';
import type { CaptureEvidence } from '../../../src/core/areas/observer.ts';
import type { Cell } from '../../../src/core/model/cell.ts';
import { uiNodeSchema } from '../../../src/core/model/ui-tree.ts';
import { screenEvidence } from '../facts.ts';
import { decode } from '../sheets/painters.ts';

/** `described`: as toolkits do that draw by themselves, where each text is the description of a plain view. */
export type DumpManner = 'views' | 'described';

export async function dumpPage(
  page: Page,
  scale: number,
  cell: Partial<Cell>,
  manner: DumpManner = 'views',
): Promise<CaptureEvidence> {
  const tree = uiNodeSchema.parse(
    await page.evaluate(writeNodes, { isDescribed: manner === 'described', scale }),
  );
  const pixels = await decode(await page.screenshot({ scale: 'device' }));
  const evidence = screenEvidence(tree, { pixels, densityDpi: 160 * scale, cell });
  return { ...evidence, digest: JSON.stringify(evidence.capture.cell) };
}

/** Runs in the page. */
function writeNodes({ isDescribed, scale }: { isDescribed: boolean; scale: number }): unknown {
  interface Edges {
    left: number;
    top: number;
    right: number;
    bottom: number;
  }
  const within = (a: Edges, b: Edges): Edges => ({
    left: Math.max(a.left, b.left),
    top: Math.max(a.top, b.top),
    right: Math.min(a.right, b.right),
    bottom: Math.min(a.bottom, b.bottom),
  });
  const isEmpty = ({ bottom, left, right, top }: Edges) => right - left < 0.5 || bottom - top < 0.5;
  const nodesOf = (element: Element, clip: Edges): unknown[] => {
    const rect = element.getBoundingClientRect();
    const whole = { left: rect.left, top: rect.top, right: rect.right, bottom: rect.bottom };
    const style = getComputedStyle(element);
    // a drawing parent cuts its children, as view groups do unless told otherwise
    const cuts = style.overflow !== 'visible' || element.hasAttribute('n');
    const inner = cuts && !element.hasAttribute('n-open') ? within(clip, whole) : clip;
    const inside = [...element.children].flatMap((child) => nodesOf(child, inner));
    const className = element.getAttribute('n');
    if (className === null) return inside;
    const kept = element.hasAttribute('n-keep');
    const seen = kept ? whole : within(clip, whole);
    if (!kept && (isEmpty(seen) || style.visibility !== 'visible')) return [];
    const has = (name: string) => element.hasAttribute(name);
    const said = (name: string) => element.getAttribute(name) ?? '';
    const px = (dp: number) => Math.round(dp * scale);
    const writes = !element.querySelector('[n]') && !has('n-label');
    const text = has('n-text') ? said('n-text') : writes ? (element.textContent ?? '').trim() : '';
    const isText = className === 'android.widget.TextView';
    return [
      {
        className: isDescribed && isText ? 'android.view.View' : className,
        id: said('n-id'),
        text: isDescribed && isText ? '' : text,
        label: isDescribed && isText ? text : said('n-label'),
        hint: said('n-hint'),
        bounds: {
          x: px(seen.left),
          y: px(seen.top),
          width: px(seen.right) - px(seen.left),
          height: px(seen.bottom) - px(seen.top),
        },
        clickable: has('n-click'),
        focusable: has('n-click') || has('n-focus'),
        checkable: has('n-checkable'),
        checked: has('n-checked'),
        selected: has('n-selected'),
        scrollable: has('n-scroll'),
        children: inside,
      },
    ];
  };
  const screen = { left: 0, top: 0, right: innerWidth, bottom: innerHeight };
  return nodesOf(document.body, screen)[0];
}
