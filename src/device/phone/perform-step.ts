/** Steps of the intent file, carried out on a device: elements are found in a dump, then touched. */
import { area, type Box, intersect } from '../../core/model/geometry.ts';
import type { Step } from '../../core/model/intent-parts.ts';
import { isField, placeNodes, type UiNode, visibleBounds } from '../../core/model/ui-tree.ts';
import type { Device, DeviceApp, Snapshot } from '../device.ts';
import { takeAppSnapshot } from '../phone/app-window.ts';

/** A step that could not be carried out, and why. */
export class StepFailed extends Error {
  readonly step: string;
  constructor(step: string, why: string) {
    super(why);
    this.step = step;
  }
}

function formatStep(step: Step): string {
  if ('tap' in step) return `tap ${step.tap}`;
  if ('type' in step) return `type into ${step.into}`;
  if ('scroll' in step) return `scroll ${step.scroll}`;
  if ('press' in step) return `press ${step.press}`;
  return `open ${step.open}`;
}

/** @throws StepFailed */
export async function performStep(device: Device, app: DeviceApp, step: Step): Promise<void> {
  if ('press' in step) await device.press(step.press === 'back' ? 'BACK' : 'HOME');
  else if ('scroll' in step)
    await scroll(device, await takeAppSnapshot(device, app.appId), step.scroll, step);
  else if ('open' in step) await device.openInApp(step.open, app);
  else if ('tap' in step) await tapOn(device, app, step.tap, step);
  else {
    const why = device.whyNotType(step.type);
    if (why) throw new StepFailed(formatStep(step), why);
    await tapOn(device, app, step.into, step);
    await device.type(step.type);
  }
}

const SCROLLS = 8;

/** What is not there may be further down. */
async function tapOn(device: Device, { appId }: DeviceApp, name: string, step: Step): Promise<void> {
  let seen = await takeAppSnapshot(device, appId);
  for (let scrolls = 0; scrolls <= SCROLLS; scrolls++) {
    const box = findElement(seen.tree, name);
    if (box) {
      await tap(device, box);
      return;
    }
    const before = seen.hierarchy;
    if (!scrollerOf(seen.tree)) break;
    await scroll(device, seen, 'down', step);
    seen = await takeAppSnapshot(device, appId);
    if (seen.hierarchy === before) break;
  }
  throw new StepFailed(
    formatStep(step),
    `there is no "${name}" on ${seen.activity || 'the screen in front'}`,
  );
}

export const middleOf = ({ height, width, x, y }: Box): { x: number; y: number } => ({
  x: Math.round(x + width / 2),
  y: Math.round(y + height / 2),
});

export const tap = (device: Device, box: Box): Promise<void> => device.tap(middleOf(box));

/** By id, else by text, else by label; the first that can be seen. */
export function findElement(root: UiNode, name: string): Box | undefined {
  const placed = placeNodes(root);
  for (const nameOf of [(node: UiNode) => node.id, (node: UiNode) => node.text, (node: UiNode) => node.label])
    for (const one of placed) {
      const box = visibleBounds(one, root.bounds);
      if (nameOf(one.node) === name && one.node.visible && area(box) > 0) return box;
    }
  return undefined;
}

const scrollerOf = (root: UiNode): UiNode | undefined =>
  placeNodes(root)
    .map(({ node }) => node)
    .filter((node) => node.scrollable && !isField(node))
    .sort((a, b) => area(b.bounds) - area(a.bounds))[0];

async function scroll(
  device: Device,
  { activity, tree }: Snapshot,
  way: 'down' | 'up',
  step: Step,
): Promise<void> {
  const scroller = scrollerOf(tree);
  if (!scroller) throw new StepFailed(formatStep(step), `nothing scrolls on ${activity}`);
  const { height, width, x, y } = intersect(scroller.bounds, tree.bounds);
  const [from, to] = way === 'down' ? [0.75, 0.3] : [0.3, 0.75];
  const middle = Math.round(x + width / 2);
  await device.swipe(
    { x: middle, y: Math.round(y + height * from) },
    { x: middle, y: Math.round(y + height * to) },
    300,
  );
}
