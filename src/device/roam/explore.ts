/**
 * Walks an app by itself, screen by screen: of what is nearest to the first screen everything is tried first. Screens are told
 * apart by their activity and by the ids of what does not scroll.
 */
import { crashInLog, ENDED_BY_ITSELF, hangInLog } from '../../core/areas/lifecycle/runs/crash-in-log.ts';
import { idsIn, screenOutline, similarity } from '../../core/areas/lifecycle/state/screen-state.ts';
import type { Intent } from '../../core/model/intent.ts';
import type { Step } from '../../core/model/intent-parts.ts';
import type { RoamMap, RoamScreen } from '../../core/model/roam-map.ts';
import { placeNodes } from '../../core/model/ui-tree.ts';
import type { LogLine, Snapshot } from '../device.ts';
import type { DrillSubject } from '../drills/drill-subject.ts';
import { performStep, StepFailed } from '../phone/perform-step.ts';
import { findActions, findInputs } from './find-actions.ts';

interface ExploreOptions {
  intent: Intent;
  /** Acts in this run at the most, and for so long. */
  maxSteps: number;
  maxMs: number;
  /** A screen was seen for the first time; @returns the file name of its picture. */
  onScreen(screen: RoamScreen): Promise<string | undefined>;
  onCrash(screen: RoamScreen, action: string, log: readonly LogLine[]): Promise<void>;
  /** After each act: the map so far, to be kept. */
  onAct(map: RoamMap): Promise<void>;
  signal?: AbortSignal;
}

const SAME_SCREEN = 0.8;

export async function explore(subject: DrillSubject, map: RoamMap, options: ExploreOptions): Promise<void> {
  const { app, device } = subject;
  const { intent, maxMs, maxSteps, signal } = options;
  const end = Date.now() + maxMs;
  const lastStep = map.stepsTaken + maxSteps;
  /** The screen in front, where it is known. */
  let here: RoamScreen | undefined;

  const recognise = (seen: Snapshot, way: readonly Step[]) => recogniseScreen(seen, way, map, options);

  /** From nothing to a screen, by its way; the app may lead there sooner than before, as when it knows who has signed in. */
  const goTo = async (screen: RoamScreen): Promise<boolean> => {
    await device.stop(app);
    await device.launch(app);
    const taken: Step[] = [];
    here = await recognise(await device.snapshot(), taken);
    for (const step of screen.way) {
      if (here === screen) break;
      await performStep(device, app, step);
      taken.push(step);
      if ('tap' in step) here = await recognise(await device.snapshot(), taken);
    }
    return here === screen;
  };

  await device.stop(app);
  await device.launch(app);
  here = await recognise(await device.snapshot(), []);
  for (;;) {
    signal?.throwIfAborted();
    const next = nearest(map);
    if (!next) map.finished = true;
    if (!next || map.stepsTaken >= lastStep || Date.now() > end) break;
    const { action, screen } = next;
    const moment = await device.logMoment();
    const before = await device.logSince(moment);
    map.stepsTaken += 1;
    try {
      if (here !== screen && !(await goTo(screen))) {
        action.outcome = 'failed';
        continue;
      }
      const typed = findInputs((await device.snapshot()).tree, intent.drills.inputs);
      for (const step of typed) await performStep(device, app, step);
      await performStep(device, app, { tap: action.name });
      const seen = await device.snapshot();
      const log = (await device.logSince(moment)).slice(before.length);
      const crash = troubleIn(log, app.appId) ?? (await endingOf(subject));
      if (crash) {
        action.outcome = 'crashed';
        map.crashes.push({ screen: screen.id, action: action.shown || action.name, ...crash });
        await options.onCrash(screen, action.shown || action.name, log);
        here = undefined;
      } else if (!seen.activity.startsWith(`${app.appId}/`)) {
        action.outcome = 'left';
        here = undefined;
      } else {
        const there = await recognise(seen, [...screen.way, ...typed, { tap: action.name }]);
        action.outcome = there === screen ? 'stayed' : 'moved';
        if (there !== screen) action.to = there.id;
        here = there;
      }
    } catch (error) {
      if (!(error instanceof StepFailed)) throw error;
      action.outcome = 'failed';
      here = undefined;
    } finally {
      await options.onAct(map);
    }
  }
}

/** The screen of the map that is in front; where it is none of them, it is put onto the map. */
async function recogniseScreen(
  seen: Snapshot,
  way: readonly Step[],
  map: RoamMap,
  { intent, onScreen }: ExploreOptions,
): Promise<RoamScreen> {
  const { activity, tree } = seen;
  const outline = screenOutline(tree);
  const known = map.screens.find(
    (one) => one.activity === activity && similarity(one.outline, outline) >= SAME_SCREEN,
  );
  // the way that was found first stays: a shorter one may rest on what was done meanwhile, such as signing in
  if (known) return known;
  const screen: RoamScreen = {
    id: nameOf(seen, outline, map),
    activity,
    outline,
    title: placeNodes(tree).find(({ node }) => node.text)?.node.text ?? '',
    way: [...way],
    depth: way.filter((step) => 'tap' in step).length,
    actions: findActions(tree, intent.drills.avoid),
  };
  map.screens.push(screen);
  screen.picture = await onScreen(screen);
  return screen;
}

function nearest(map: RoamMap): { screen: RoamScreen; action: RoamScreen['actions'][number] } | undefined {
  for (const screen of [...map.screens].sort((a, b) => a.depth - b.depth)) {
    const action = screen.actions.find(({ outcome }) => outcome === 'untried');
    if (action) return { screen, action };
  }
  return undefined;
}

/** Of iOS nothing names a screen but what stands in its bar. */
function plainName({ activity, tree }: Snapshot): string {
  const own = activity.split('/')[1]
    ? activity
        .split('.')
        .at(-1)!
        .replace(/Activity$/, '')
    : (placeNodes(tree).find(({ node }) => node.className === 'UINavigationBar')?.node.value ?? '');
  return (
    own
      .toLowerCase()
      .replace(/[^a-z0-9._-]+/g, '-')
      .replace(/^-+|-+$/g, '') || 'screen'
  );
}

/** `BookingActivity` is `booking`; a second screen of the same activity is named by what stands outermost on it. */
function nameOf(seen: Snapshot, outline: readonly string[], map: RoamMap): string {
  const plain = plainName(seen);
  const taken = (id: string) => map.screens.some((one) => one.id === id);
  if (!taken(plain)) return plain;
  const rest = idsIn(outline).find((id) => !taken(`${plain}-${id}`)) ?? String(map.screens.length);
  return `${plain}-${rest}`.toLowerCase().replace(/[^a-z0-9._-]/g, '-');
}

/** Of iOS no log tells it: the app was touched, and is not there any more. */
async function endingOf({
  app,
  device,
}: DrillSubject): Promise<{ exception: string; frame: string } | undefined> {
  const state = await device.stateOf(app);
  return state === 'not-running' ? { exception: ENDED_BY_ITSELF, frame: '' } : undefined;
}

function troubleIn(log: readonly LogLine[], appId: string): { exception: string; frame: string } | undefined {
  const crash = crashInLog(log, appId);
  if (crash) return { exception: `${crash.exception}: ${crash.message}`, frame: crash.frame };
  return hangInLog(log, appId) ? { exception: 'does not answer', frame: '' } : undefined;
}
