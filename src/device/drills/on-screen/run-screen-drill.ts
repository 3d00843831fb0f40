/** Runs a drill on one screen: reach it, change something, leave and come back, look, and walk back. */
import { lifecycleTag } from '../../../core/areas/lifecycle/runs/callbacks.ts';
import { compareStates } from '../../../core/areas/lifecycle/state/compare-states.ts';
import {
  SAME_SCREEN,
  screenOutline,
  screenState,
  similarity,
} from '../../../core/areas/lifecycle/state/screen-state.ts';
import { isStateDrill } from '../../../core/model/drill.ts';
import type { IntentScreen } from '../../../core/model/intent-parts.ts';
import type { DrillLine } from '../../../core/model/trace.ts';
import type { AppState, Device, DeviceApp, Held, LogLine, Order, Snapshot } from '../../device.ts';
import { settingsNamed } from '../../holdable.ts';
import { NoDump, Refused } from '../../out-of-reach.ts';
import { takeAppSnapshot, windowAbove } from '../../phone/app-window.ts';
import { pause, until } from '../../phone/pause.ts';
import { StepFailed } from '../../phone/perform-step.ts';
import { beginTrace } from '../begin-trace.ts';
import type { DrillSubject } from '../drill-subject.ts';
import type { Act, ScreenDrill } from './screen-drill.ts';
import { ledTo, type Start } from './start.ts';

const STOPS_WITHIN_MS = 6_000;
// iOS lets an app finish what it does first.
const SUSPENDED_WITHIN_MS = 30_000;
const GONE_WITHIN_MS = 3_000;
// A second look, to tell what changes by itself.
const AGAIN_MS = 60;
const MOST_BACKS = 10;

/**
 * On a screen of the intent file.
 *
 * @param keepPicture keeps a picture of what differs; @returns the name that the trace gives it
 * @returns the lines of its trace; what the app or the device did wrong is in them. @throws OutOfReach
 */
export const runScreenDrill = (
  drill: ScreenDrill,
  subject: DrillSubject,
  screen: IntentScreen,
  keepPicture?: KeepPicture,
): Promise<DrillLine[]> =>
  runDrillFrom(ledTo(screen), drill, subject, async (step, { png, isLost, write }) => {
    if (!keepPicture || step !== 'after' || !isLost) return;
    const file = await keepPicture(`${drill.id}-${screen.id}.png`, await png());
    write('screen.pictured', { step, file });
  });

type KeepPicture = (name: string, png: Uint8Array) => Promise<string>;

/** Told when the screen rests before and after. */
type OnRest = (
  step: 'before' | 'after',
  of: { png(): Promise<Uint8Array>; isLost: boolean; write: Act['write'] },
) => Promise<void>;

/** From wherever it begins; otherwise the same. */
export async function runDrillFrom(
  start: Start,
  drill: ScreenDrill,
  subject: DrillSubject,
  onRest: OnRest,
): Promise<DrillLine[]> {
  const { app, device } = subject;
  const { lines, write } = beginTrace(subject, drill.id, start.screen);
  const rest = (step: 'before' | 'after', isLost: boolean) =>
    onRest(step, { png: () => device.picture(), isLost, write });
  const see = (step: string, { activity, hierarchy }: Snapshot) =>
    write('screen.seen', { step, activity, hierarchy });
  const seeProcess = async (step: string) =>
    write('process.seen', { step, ...(await device.processOf(app.appId)) });
  const began = await device.logMoment();
  // lines of the same moment that were there already
  let logged: LogLine[] = await device.logSince(began);
  /** Lines of the app that were not written down yet. */
  const writeLog = async () => {
    const fresh = linesAfter(logged, await device.logSince(began));
    logged = [...logged, ...fresh];
    for (const { message, pid, tag } of ofApp(fresh, logged, app.appId))
      write('log.line', { tag, pid, message });
  };
  try {
    await drill.demand?.(subject);
    await start.arrive(subject, see);
    const before = await takeAppSnapshot(device, app.appId);
    start.demand?.(subject, before);
    demandUncovered(before, app);
    see('before', before);
    await seeProcess('before');
    await pause(AGAIN_MS);
    await writeLog();
    see('before-again', await takeAppSnapshot(device, app.appId));
    await rest('before', false);
    const moment = await device.logMoment();
    await drill.run(actOn(subject, { write, see, seeProcess, moment, before }));
    const after = await takeAppSnapshot(device, app.appId);
    demandUncovered(after, app);
    see('after', after);
    const state = await device.stateOf(app);
    if (state !== undefined) write('app-state.seen', { step: 'after', state });
    const isLost = isStateDrill(drill.id) && differs(before, after);
    await rest('after', isLost);
    await seeProcess('after');
    await writeLog();
    if (drill.walksBack && (start.mayWalkBack || !isStateDrill(drill.id)))
      await walkBack(device, app, after, see);
    if (isLost && !isSameScreen(before, after)) await start.lookAfterLoss?.(subject, see);
  } catch (error) {
    if (error instanceof Refused)
      write('command.ran', { line: error.line, code: error.exitCode, said: error.said });
    else if (!(error instanceof StepFailed || error instanceof NoDump)) throw error;
    else
      write('drill.stopped', { step: error instanceof StepFailed ? error.step : 'dump', why: error.message });
  }
  await writeLog();
  write('drill.ended', {});
  return lines;
}

interface Seen {
  write: ReturnType<typeof beginTrace>['write'];
  see(step: string, snapshot: Snapshot): void;
  seeProcess(step: string): Promise<void>;
  /** The log's, before the drill. */
  moment: string;
  before: Snapshot;
}

/** What a drill can do on a device, each act told in the trace. */
function actOn(
  { app, device, overrides }: DrillSubject,
  { before, moment, see, seeProcess, write }: Seen,
): Act {
  const byName = new Map<string, readonly Held[]>();
  const tell = (order: Order) => write('command.ran', { ...order });
  const setting = async (id: string, value: string | null) => {
    await overrides.override(id, value);
    write('setting.borrowed', { setting: id, wanted: value, reads: await device.setting(id).read() });
  };
  /** What the system tells in the place of a log, the last word of it written down. @returns whether it tells anything */
  const untilState = async (
    step: string,
    states: readonly AppState[],
    withinMs: number,
  ): Promise<boolean> => {
    let state = await device.stateOf(app);
    if (state === undefined) return false;
    await until(async () => {
      state = await device.stateOf(app);
      return state !== undefined && states.includes(state);
    }, withinMs);
    write('app-state.seen', { step, state: state ?? 'unknown' });
    return true;
  };
  return {
    device,
    app,
    write,
    kill: async () => tell(await device.kill(app)),
    openOther: async (which) => tell(await device.openOther(which)),
    openShade: async () => tell(await device.openShade()),
    closeShade: async () => tell(await device.closeShade()),
    unlock: async () => tell(await device.unlock()),
    press: async (key) => {
      await device.press(key);
    },
    launch: async () => {
      const timed = await device.launch(app);
      // a task that was only brought to the front has no times
      if (Number.isFinite(timed.totalMs)) write('start.timed', timed);
    },
    untilStopped: async () => {
      if (await untilState('left', ['suspended', 'not-running'], SUSPENDED_WITHIN_MS)) return;
      await until(
        async () => (await device.logSince(moment)).some((line) => isStop(line, before.activity)),
        STOPS_WITHIN_MS,
      );
    },
    untilGone: async () => {
      if (!(await untilState('gone', ['not-running'], GONE_WITHIN_MS)))
        await until(async () => !(await device.processOf(app.appId)), GONE_WITHIN_MS);
      await seeProcess('away');
    },
    override: async (name, value = '') => {
      const held = settingsNamed(device, name, value, app.appId);
      byName.set(name, held);
      for (const [id, wanted] of held) await setting(id, wanted);
    },
    restore: async (name) => {
      for (const [id] of byName.get(name)?.toReversed() ?? []) await overrides.restore(id);
    },
    deny: (permission) => setting(`permission ${app.appId} ${permission}`, 'denied'),
    lookAway: async () => see('away', await device.snapshot()),
  };
}

/** People want to look at what is not as it was; painting the rest would only take time. */
const differs = (before: Snapshot, after: Snapshot): boolean =>
  before.activity !== after.activity ||
  compareStates(screenState(before.tree), screenState(after.tree)).length > 0;

const isSameScreen = (before: Snapshot, after: Snapshot): boolean =>
  before.activity === after.activity &&
  similarity(screenOutline(before.tree), screenOutline(after.tree)) >= SAME_SCREEN;

const isStop = ({ message, tag }: LogLine, activity: string): boolean => {
  const className = activity.split('/')[1] ?? '';
  return lifecycleTag(tag) === 'wm_on_stop_called' && message.includes(className);
};

/** @throws StepFailed where the app cannot be seen for a window of the system */
function demandUncovered(seen: Snapshot, { appId }: DeviceApp): void {
  const owner = windowAbove(seen, appId);
  if (owner) throw new StepFailed('dump', `a window of ${owner} lies above ${appId}`);
}

/** Of what the log tells now, what was not there yet. A log that wraps has dropped its oldest lines meanwhile. */
function linesAfter(before: readonly LogLine[], now: readonly LogLine[]): readonly LogLine[] {
  const isSame = (a: LogLine | undefined, b: LogLine | undefined) =>
    a?.epoch === b?.epoch && a?.pid === b?.pid && a?.message === b?.message;
  for (let dropped = 0; dropped < before.length; dropped++) {
    const kept = before.length - dropped;
    if (kept > now.length) continue;
    if (now.slice(0, kept).every((line, i) => isSame(line, before[dropped + i]))) return now.slice(kept);
  }
  return now;
}

/** Lines that name the app, or come from one of its processes. */
function ofApp(fresh: readonly LogLine[], all: readonly LogLine[], appId: string): LogLine[] {
  const pids = new Set(
    all.flatMap(({ message, tag }) =>
      tag === 'am_proc_start' && message.includes(`,${appId},`)
        ? [Number(message.replace('[', '').split(',')[1])]
        : [],
    ),
  );
  return fresh.filter(({ message, pid }) => pids.has(pid) || message.includes(appId));
}

/** Until the app is left; or, where back never leaves it, until nothing is behind. */
async function walkBack(
  device: Device,
  { appId }: DeviceApp,
  from: Snapshot,
  see: (step: string, seen: Snapshot) => void,
): Promise<void> {
  let last = from;
  for (let n = 1; n <= MOST_BACKS; n++) {
    await device.press('BACK');
    const seen = await device.snapshot();
    see(`back-${n}`, seen);
    const isAtEnd = device.whyNot('back') ? isSameScreen(last, seen) : !seen.activity.startsWith(`${appId}/`);
    if (isAtEnd) return;
    last = seen;
  }
}
