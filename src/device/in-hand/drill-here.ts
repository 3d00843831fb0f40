/** A drill on the screen that a person has reached by hand: no dossier, no intent file, no package. */
import { type Callback, callbacksIn } from '../../core/areas/lifecycle/runs/callbacks.ts';
import { classOfRun, type RunClass } from '../../core/areas/lifecycle/runs/class-of-run.ts';
import { compareStates } from '../../core/areas/lifecycle/state/compare-states.ts';
import { screenState } from '../../core/areas/lifecycle/state/screen-state.ts';
import { treeOfDump } from '../../core/formats/trace.ts';
import type { BuildKey } from '../../core/model/candidate.ts';
import { type HereDrillId, isStateDrill } from '../../core/model/drill.ts';
import type { DrillRunFact } from '../../core/model/fact.ts';
import type { DrillLine, DrillLineOf } from '../../core/model/trace.ts';
import type { Device } from '../device.ts';
import { withDeviceLock } from '../device-lock.ts';
import { startCold } from '../drills/cold-start.ts';
import type { DrillSubject } from '../drills/drill-subject.ts';
import { factsOfLines } from '../drills/keep-trace.ts';
import { runDrillFrom } from '../drills/on-screen/run-screen-drill.ts';
import { allScreenDrills } from '../drills/on-screen/screen-drills.ts';
import { here } from '../drills/on-screen/start.ts';
import { restoreLeft } from '../overrides/restore-left.ts';
import { openOverrides, type PutBack } from '../overrides/setting-overrides.ts';
import type { AppInFront } from './app-in-front.ts';

/** What came of a drill from here. */
export interface HereRun {
  drill: HereDrillId;
  app: AppInFront;
  came: RunClass;
  run: DrillRunFact;
  /** Of the app's activities while the drill went on. */
  callbacks: Callback[];
  pictures: { before?: Uint8Array; after?: Uint8Array };
  /** Its trace. */
  lines: DrillLine[];
  /** Every setting that was overridden, as it reads now. */
  putBack: PutBack[];
  /** What killed calls had left changed, as it reads now. */
  restoredFirst: PutBack[];
  tookMs: number;
}

export interface HereOptions {
  stateFolder: string;
  /** Keys of elements whose changes do not count. */
  ignore?: readonly string[];
  /** Pictures take a moment each. */
  takesPictures?: boolean;
  /** What the screen is called in the trace. */
  screen?: string;
  /** Of the app, where its code was read. */
  build?: BuildKey;
}

/** @throws OutOfReach; UnreadableError where a window of the system lies over the app */
export const drillHere = (
  device: Device,
  app: AppInFront,
  id: HereDrillId,
  options: HereOptions,
): Promise<HereRun> =>
  withDeviceLock(options.stateFolder, device, async () => {
    const began = Date.now();
    const restoredFirst = await restoreLeft(device, options.stateFolder);
    const overrides = await openOverrides(options.stateFolder, device);
    const cell = await device.settingsNow(app.app.appId);
    const { build = app.build, screen = 'here' } = options;
    const subject: DrillSubject = { device, app: app.app, build, overrides, cell };
    const drill = allScreenDrills.find((one) => one.id === id);
    const pictures: HereRun['pictures'] = {};
    let lines: DrillLine[] = [];
    let putBack: PutBack[] = [];
    try {
      lines = drill
        ? await runDrillFrom({ ...here, screen }, drill, subject, async (step, { png }) => {
            if (options.takesPictures) pictures[step] = await png();
          })
        : await startCold(subject);
      // it ends where a person would go on
      if (!isStateDrill(id)) await device.launch(app.app);
    } finally {
      putBack = await overrides.putBack();
    }
    const facts = await factsOfLines(lines);
    const run = facts.find((fact) => fact.kind === 'drill-run') as DrillRunFact;
    return {
      drill: id,
      app,
      came: classOfRun(run, options.ignore),
      run,
      callbacks: callbacksIn(linesBetween(lines)),
      pictures,
      lines,
      putBack,
      restoredFirst,
      tookMs: Date.now() - began,
    };
  });

/** Whether the screen in front is as it was before that run, but for what changes by itself. */
export async function isAsBefore(device: Device, { lines, run }: HereRun): Promise<boolean> {
  const before = lines.find(
    (line): line is DrillLineOf<'screen.seen'> => line.kind === 'screen.seen' && line.step === 'before',
  );
  if (!before) return false;
  const now = await device.snapshot();
  const was = await treeOfDump('before', before.hierarchy);
  return (
    now.activity === before.activity &&
    compareStates(screenState(was), screenState(now.tree)).every(({ key }) => run.volatile.includes(key))
  );
}

/** What the log told between the two looks. */
function linesBetween(lines: readonly DrillLine[]): DrillLineOf<'log.line'>[] {
  const at = (step: string) => lines.findIndex((line) => line.kind === 'screen.seen' && line.step === step);
  const end = Math.max(at('first'), at('back-1'));
  return lines
    .slice(Math.max(0, at('before-again')), end < 0 ? undefined : end)
    .filter((line): line is DrillLineOf<'log.line'> => line.kind === 'log.line');
}
