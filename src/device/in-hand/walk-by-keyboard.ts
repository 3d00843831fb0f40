/** The screen in front, walked by the keys of a hardware keyboard: Tab until it comes round, arrows where Tab goes nowhere. */
import type { FocusStep, KeyboardWalk, WalkEnd } from '../../core/areas/accessibility/keyboard-walk.ts';
import { type Stop, walkStops } from '../../core/areas/accessibility/walk-stops.ts';
import { area, type Box, intersect, pxToDp } from '../../core/model/geometry.ts';
import { isRightToLeft } from '../../core/model/locale.ts';
import type { Pixels } from '../../core/model/ports.ts';
import { type PlacedNode, placeNodes } from '../../core/model/ui-tree.ts';
import { decodeImage } from '../../node/decode-image.ts';
import type { Device, Key } from '../device.ts';
import { withDeviceLock } from '../device-lock.ts';
import { isOfOneColour } from './look-here.ts';

interface KeyboardWalkOptions {
  stateFolder: string;
  appId: string;
  /** BCP 47. */
  locale: string;
  signal: AbortSignal;
  /** Told after each press, with how many controls are known by then. */
  onStep?: (done: number, of: number) => void;
  mostSteps?: number;
}

const MOST_STEPS = 200;
const ARROWS: readonly Key[] = ['DPAD_DOWN', 'DPAD_RIGHT', 'DPAD_UP', 'DPAD_LEFT'];

/** @throws OutOfReach where another call drives the phone; NoDump */
export const walkByKeyboard = (device: Device, options: KeyboardWalkOptions): Promise<KeyboardWalk> =>
  withDeviceLock(options.stateFolder, device, async () => {
    const densityDpi = await device.densityDpi();
    const walk = new Walk(densityDpi);
    let now = await lookAt(device, options);
    walk.addControls(now);
    const ended = await followFocus(options, walk, async (key) => {
      options.signal.throwIfAborted();
      await device.press(key);
      const before = now;
      now = await lookAt(device, options);
      walk.addControls(now);
      return { before, now };
    });
    return { steps: walk.steps(), ended, controls: walk.controls() };
  });

type Press = (key: Key) => Promise<{ before: Look; now: Look }>;

async function followFocus(
  { appId, mostSteps = MOST_STEPS, onStep }: KeyboardWalkOptions,
  walk: Walk,
  press: Press,
): Promise<WalkEnd> {
  // the first key may only end the time of touches
  let isFirst = true;
  for (let count = 0; count < mostSteps; count++) {
    const { before, now } = await press('TAB');
    onStep?.(count + 1, Math.max(count + 1, walk.controls().length));
    if (!now.activity.startsWith(`${appId}/`)) return 'left';
    if (!now.focus) {
      if (walk.isEmpty && isFirst) {
        isFirst = false;
        continue;
      }
      return walk.isEmpty ? 'no-focus' : 'left';
    }
    const came = walk.arrive(before, now, 'TAB');
    if (came === 'first') return 'came-round';
    if (came === 'known') return 'looped';
    if (came === 'same' && !(await byArrow(walk, press))) return 'stuck';
  }
  return 'given-up';
}

async function byArrow(walk: Walk, press: Press): Promise<boolean> {
  for (const arrow of ARROWS) {
    const { before, now } = await press(arrow);
    if (!now.focus) continue;
    const came = walk.arrive(before, now, arrow);
    if (came === 'new') return true;
  }
  return false;
}

interface Look {
  activity: string;
  pixels: Pixels;
  placed: readonly PlacedNode[];
  stops: readonly Stop[];
  focus: PlacedNode | undefined;
  /** A window that forbids pictures. */
  isBlank: boolean;
}

async function lookAt(device: Device, { locale }: KeyboardWalkOptions): Promise<Look> {
  const { activity, tree } = await device.snapshot();
  const pixels = await decodeImage(`${device.serial}, picture`, await device.picture());
  const placed = placeNodes(tree);
  const { stops } = walkStops(tree, pixels, { platform: 'android', rtl: isRightToLeft(locale) });
  // of a list and its row, the row
  const focus = placed.findLast(({ node }) => node.focused);
  return { activity, pixels, placed, stops, focus, isBlank: isOfOneColour(pixels.data) };
}

// Levels of 255: from here on a change is seen, and up to here there is none.
const CLEAR_CHANGE = 12;
const NO_CHANGE = 2;
// Pixels: fewer are seen by nobody.
const LEAST_CHANGED = 20;
const MARGIN_DP = 6;

interface Step extends Omit<FocusStep, 'isShown'> {
  before: Look | undefined;
  now: Look | undefined;
  isShown?: boolean | undefined;
}

/** What is known of a walk so far. Pictures are kept for two presses. */
class Walk {
  readonly #controls = new Map<string, Stop>();
  readonly #steps: Step[] = [];
  readonly #marginPx: number;

  constructor(densityDpi: number) {
    this.#marginPx = Math.ceil(MARGIN_DP / pxToDp(1, densityDpi));
  }

  get isEmpty(): boolean {
    return this.#steps.length === 0;
  }

  addControls({ stops }: Look): void {
    const nth = new Map<string, number>();
    for (const stop of stops) {
      if (!stop.actionable || !stop.enabled) continue;
      const name = `${stop.key}|${stop.name}`;
      const n = (nth.get(name) ?? 0) + 1;
      nth.set(name, n);
      if (!this.#controls.has(`${name}|${n}`)) this.#controls.set(`${name}|${n}`, stop);
    }
  }

  controls(): Stop[] {
    return [...this.#controls.values()];
  }

  steps(): FocusStep[] {
    this.#tell(this.#steps.at(-1), undefined);
    return this.#steps.map(({ boundsPx, by, isShown, key, name }) => ({ boundsPx, by, isShown, key, name }));
  }

  arrive(before: Look, now: Look, by: string): 'new' | 'same' | 'first' | 'known' {
    const { key, node } = now.focus!;
    const name = now.stops.find((stop) => stop.node === node)?.name || nameOf(node);
    const isThis = (step: Step) =>
      step.key === key && step.name === name && isSameBox(step.boundsPx, node.bounds);
    const last = this.#steps.at(-1);
    if (last && isThis(last)) return 'same';
    this.#tell(last, now);
    const at = this.#steps.findIndex(isThis);
    if (at >= 0) return at === 0 ? 'first' : 'known';
    this.#steps.push({ key, name, boundsPx: node.bounds, by, before, now });
    return 'new';
  }

  /** Whether a step's focus showed, by the pictures before it, of it and after it. */
  #tell(step: Step | undefined, after: Look | undefined): void {
    if (!step?.now) return;
    const { before, boundsPx, now } = step;
    const others = [before, after].filter((look) => look && this.#canCompare(step, look)) as Look[];
    const changed = (levels: number): number[] =>
      others.map((look) =>
        changedPixels(look, now, {
          box: grow(boundsPx, this.#marginPx),
          without: this.#elsewhere(look),
          levels,
        }),
      );
    const moves =
      others.length === 2 &&
      changedPixels(others[0]!, others[1]!, { box: boundsPx, without: [], levels: NO_CHANGE }) >=
        LEAST_CHANGED;
    if (others.length > 0 && changed(NO_CHANGE).every((count) => count === 0)) step.isShown = false;
    else if (!moves && changed(CLEAR_CHANGE).some((count) => count >= LEAST_CHANGED)) step.isShown = true;
    step.before = undefined;
    step.now = undefined;
  }

  /** It lies at the same place there, and what is in focus there does not reach into it. */
  #canCompare({ boundsPx, key }: Step, look: Look): boolean {
    const isThere = look.placed.some((one) => one.key === key && isSameBox(one.node.bounds, boundsPx));
    if (look.isBlank) return false;
    return isThere && (!look.focus || area(intersect(look.focus.node.bounds, boundsPx)) === 0);
  }

  #elsewhere({ focus }: Look): Box[] {
    return focus ? [grow(focus.node.bounds, this.#marginPx)] : [];
  }
}

const nameOf = ({ className, hint, label, text }: PlacedNode['node']): string =>
  label || text || hint || className.slice(className.lastIndexOf('.') + 1);

const isSameBox = (a: Box, b: Box): boolean =>
  a.x === b.x && a.y === b.y && a.width === b.width && a.height === b.height;

const grow = ({ height, width, x, y }: Box, by: number): Box => ({
  x: x - by,
  y: y - by,
  width: width + 2 * by,
  height: height + 2 * by,
});

interface Where {
  box: Box;
  /** Boxes that do not count. */
  without: readonly Box[];
  /** By how much a channel has to differ, of 255. */
  levels: number;
}

function changedPixels({ pixels: a }: Look, { pixels: b }: Look, { box, levels, without }: Where): number {
  if (a.widthPx !== b.widthPx || a.heightPx !== b.heightPx) return 0;
  const part = intersect(box, { x: 0, y: 0, width: a.widthPx, height: a.heightPx });
  let count = 0;
  for (let y = part.y; y < part.y + part.height; y++)
    for (let x = part.x; x < part.x + part.width; x++) {
      const at = (y * a.widthPx + x) * 4;
      const isOther = [0, 1, 2].some((c) => Math.abs(a.data[at + c]! - b.data[at + c]!) > levels);
      const isOut = (of: Box) => x >= of.x && y >= of.y && x < of.x + of.width && y < of.y + of.height;
      if (isOther && !without.some(isOut)) count += 1;
    }
  return count;
}
