/** Works a plan off on one device, into a dossier. Whatever happens, the settings of the device are restored. */
import { join } from 'node:path';
import type { Fact } from '../core/model/fact.ts';
import type { Intent } from '../core/model/intent.ts';
import type { RoamMap } from '../core/model/roam-map.ts';
import { addTraceLines, type Dossier, listTraces, readTrace } from '../node/dossier.ts';
import { listMaps } from '../node/roam-map.ts';
import { type Device, nameOfDevice } from './device.ts';
import { withDeviceLock } from './device-lock.ts';
import { beginTrace } from './drills/begin-trace.ts';
import { setFor } from './drills/capture-screen.ts';
import { settingsOf } from './drills/capture-sweep.ts';
import type { DrillKits, DrillStep, PlannedCell, RunContext, StepOutcome } from './drills/drill.ts';
import type { DrillSubject } from './drills/drill-subject.ts';
import { allDrills } from './drills/drills.ts';
import { keepDrillLog } from './drills/keep-log.ts';
import { factsOfTrace } from './drills/keep-trace.ts';
import { type Plan, planDrills, type Wanted } from './drills/plan.ts';
import { findCandidate } from './installed-build.ts';
import { NoDump, OutOfReach, Refused } from './out-of-reach.ts';
import { restoreLeft } from './overrides/restore-left.ts';
import { openOverrides, type PutBack } from './overrides/setting-overrides.ts';
import { StepFailed } from './phone/perform-step.ts';

/** What came of one step. */
export interface StepResult extends StepOutcome {
  step: DrillStep;
  tookMs: number;
}

export interface SessionOptions
  extends Pick<RunContext, 'dossier' | 'intent' | 'roamMs' | 'roamSteps' | 'signal'> {
  stateFolder: string;
  wanted: Wanted;
  kits?: DrillKits;
  /** Runs again what is in the dossier already. */
  isRerun?: boolean;
  /** What killed calls had left changed, as it reads now. */
  onRestored?(putBack: readonly PutBack[]): void;
  onPlan?(plan: Plan): void;
  /** What is begun now, as the first of so many that are left. */
  onStep?(step: DrillStep, done: number, total: number): void;
  onResult?(result: StepResult): void;
}

export interface SessionReport {
  results: StepResult[];
  /** Every setting that was overridden, as it reads now. */
  putBack: PutBack[];
}

/** @throws OutOfReach, UnreadableError */
export const drillDevice = (device: Device, options: SessionOptions): Promise<SessionReport> =>
  withDeviceLock(options.stateFolder, device, () => drillLocked(device, options));

async function drillLocked(device: Device, options: SessionOptions): Promise<SessionReport> {
  const { dossier, intent, isRerun = false, kits = {}, signal, stateFolder } = options;
  useTools(device, options);
  if (kits.store?.second) useTools(kits.store.second.device, options);
  const { app, build, isBuildTold } = await findCandidate(device, dossier.candidate.build);
  const restoredFirst = await restoreLeft(device, stateFolder);
  if (restoredFirst.length > 0) options.onRestored?.(restoredFirst);
  const overrides = await openOverrides(stateFolder, device);
  const subject: DrillSubject = {
    device,
    app,
    overrides,
    build,
    isBuildTold,
    cell: plainCell(device, intent),
  };
  const plan = await planFor(device, options);
  options.onPlan?.(plan);
  const context: RunContext = { ...options, subject, isRerun, kits };
  const setFor = settler(subject, intent);
  const since = await device.logMoment();
  const results: StepResult[] = [];
  let putBack: PutBack[] = [];
  const work = async (step: DrillStep): Promise<StepResult> => {
    const began = Date.now();
    await setFor(step.cell);
    return { step, ...(await step.run(context)), tookMs: Date.now() - began };
  };
  try {
    for (const [i, step] of plan.steps.entries()) {
      signal?.throwIfAborted();
      options.onStep?.(step, i, plan.steps.length);
      const began = Date.now();
      const done = await onceMore(device, () => work(step)).catch((error: unknown): StepResult => {
        if (!isOfThisStep(error)) throw error;
        return { step, facts: [], tookMs: Date.now() - began, trouble: formatTrouble(error) };
      });
      results.push(done);
      options.onResult?.(done);
    }
    // a device that has gone meanwhile tells nothing more; what was run stays
    if (results.length > 0 && !device.isGone()) await keepDrillLog(subject, dossier, since);
  } finally {
    putBack = await restoreAll(subject, dossier);
  }
  return { results, putBack };
}

/** What cannot be done on the device itself is done by tools of the intent file. */
export const useTools = (
  device: Device,
  { dossier, intent, signal }: Pick<SessionOptions, 'dossier' | 'intent' | 'signal'>,
): void =>
  device.useTools?.({
    commands: intent.ios.commands,
    appId: dossier.candidate.build.appId,
    packageFile: join(dossier.folder, dossier.candidate.package.file),
    signal,
  });

/** The device as the app is meant to be used first. */
const plainCell = (device: Device, intent: Intent): DrillSubject['cell'] => ({
  device: nameOfDevice(device),
  locale: intent.sourceLocale,
  theme: 'light',
  textScale: 1,
  orientation: 'portrait',
});

/** Sets the device for a cell, once for all steps that want the same: each change makes the app again. */
function settler(subject: DrillSubject, intent: Intent): (cell?: PlannedCell) => Promise<void> {
  const plain: PlannedCell = { ...subject.cell, screen: '', procedure: 'as-is', step: '' };
  let settings = '';
  return async (cell = plain) => {
    if (settings === settingsOf(cell)) return;
    await setFor(cell, intent.sourceLocale, subject);
    settings = settingsOf(cell);
  };
}

/** What the app or the device did not do; the next step may go well all the same. */
const isOfThisStep = (error: unknown): error is Error =>
  error instanceof StepFailed || error instanceof NoDump || error instanceof Refused;

const formatTrouble = (error: Error): string =>
  error instanceof StepFailed ? `${error.step}: ${error.message}` : error.message;

/** A device that went away is waited for once, and the step done again. */
async function onceMore<T>(device: Device, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof OutOfReach) || error.code !== 'gone') throw error;
    await device.reconnect();
    return work();
  }
}

/** Restores every setting, reads it, and keeps in the dossier what was read. */
async function restoreAll(subject: DrillSubject, dossier: Dossier): Promise<PutBack[]> {
  const { overrides, device } = subject;
  if (device.isGone()) {
    const back = await device.reconnect().then(
      () => true,
      () => false,
    );
    if (!back) return [];
  }
  const putBack = await overrides.putBack();
  if (putBack.length === 0) return putBack;
  const { lines, write } = beginTrace(subject, 'put-back', 'device');
  for (const one of putBack) write('setting.put-back', { ...one });
  await addTraceLines(dossier, lines);
  return putBack;
}

/** What is left to do on the device. */
export async function planFor(
  device: Device,
  {
    dossier,
    intent: given,
    isRerun,
    kits = {},
    wanted,
  }: Pick<SessionOptions, 'dossier' | 'intent' | 'isRerun' | 'kits' | 'wanted'>,
): Promise<Plan> {
  useTools(device, { dossier, intent: given });
  const intent = withWays(given, await listMaps(dossier.folder));
  const done = isRerun ? new Set<string>() : await doneBefore(dossier, device, intent);
  return planDrills({ device, intent, kits }, wanted, (step) => done.has(`${step.drill}|${step.key}`));
}

/** A screen that the intent file has no way to is reached as a walk did, known by its id or its activity. */
function withWays(intent: Intent, maps: readonly RoamMap[]): Intent {
  const walked = maps.flatMap(({ screens }) => screens);
  const screens = intent.screens.map((screen) => {
    const found =
      walked.find(({ id }) => id === screen.id) ??
      walked.find(({ activity }) => screen.activity && activity.endsWith(screen.activity));
    return screen.reach || !found ? screen : { ...screen, reach: found.way };
  });
  return { ...intent, screens };
}

/** Steps that the dossier shows to be done on this device. */
async function doneBefore(dossier: Dossier, device: Device, intent: Intent): Promise<Set<string>> {
  const done = new Set<string>();
  const facts: Fact[] = [];
  for (const entry of await listTraces(dossier)) facts.push(...factsOfTrace(await readTrace(entry)));
  const here = facts.filter((fact) => 'deviceId' in fact && fact.deviceId === device.info.id);
  for (const drill of allDrills) {
    for (const fact of here) {
      const key = drill.doneBy?.(fact, intent);
      if (key !== undefined) done.add(`${drill.id}|${key}`);
    }
    for (const key of (await drill.doneIn?.(dossier, device)) ?? []) done.add(`${drill.id}|${key}`);
  }
  return done;
}
