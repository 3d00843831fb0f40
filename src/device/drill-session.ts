/** Works a plan off on one device, into a dossier. Whatever happens, what was borrowed of the device is put back. */

import { classOfRun, type RunClass } from '../core/areas/lifecycle/runs/class-of-run.ts';
import { sayInvalid } from '../core/areas/lifecycle/runs/invalid-words.ts';
import { traceObservers } from '../core/areas/observers-by-evidence.ts';
import { parseCapture } from '../core/formats/capture.ts';
import { decodeTrace } from '../core/formats/trace.ts';
import type { Cell } from '../core/model/cell.ts';
import type { DrillRunFact, Fact } from '../core/model/fact.ts';
import type { LinkRunFact } from '../core/model/facts/links.ts';
import type { Intent } from '../core/model/intent.ts';
import type { RoamMap } from '../core/model/roam-map.ts';
import type { DrillLine, TraceLine } from '../core/model/trace.ts';
import { addCapture, listCaptures } from '../node/captures.ts';
import { addPicture, addTraceLines, type Dossier, listTraces, readTrace } from '../node/dossier.ts';
import { readTextFile } from '../node/read-yaml.ts';
import { listMaps } from '../node/roam-map.ts';
import { openBorrower, type PutBack } from './borrow/borrower.ts';
import { Refused } from './borrow/settings.ts';
import type { Device } from './bridge/device.ts';
import { OutOfReach } from './bridge/out-of-reach.ts';
import { beginTrace } from './drills/begin-trace.ts';
import { type BuyingKit, runBuyFlows } from './drills/buy-flows.ts';
import { captureScreen, setFor } from './drills/capture-screen.ts';
import { runColdStart } from './drills/cold-start.ts';
import { runFireLinks } from './drills/fire-links.ts';
import { type AdsKit, runLoadAds } from './drills/load-ads.ts';
import { type Plan, type PlanStep, planDrills, settingsOf, type Wanted } from './drills/plan.ts';
import { type PushKit, runPushWalk } from './drills/push-walk.ts';
import { reach } from './drills/reach.ts';
import { type DrillSubject, runScreenDrill } from './drills/run-screen-drill.ts';
import { findCandidate } from './installed-build.ts';
import { StepFailed } from './phone/act.ts';
import { NoDump } from './phone/look.ts';
import { runRoam } from './roam/run-roam.ts';

/** What came of one step. */
export interface StepResult {
  step: PlanStep;
  tookMs: number;
  /** Of a drill: what was measured, and what a person would call it. */
  run?: DrillRunFact;
  came?: RunClass;
  /** Of links: what came of each. */
  links?: LinkRunFact[];
  /** Of messages: permission, token, and each message. */
  push?: Fact[];
  /** Of purchases: what the store and the app said. */
  bought?: Fact[];
  /** Of ads: each load, and each one shown. */
  ads?: Fact[];
  /** Why nothing came of it. */
  trouble?: string;
}

export interface SessionOptions {
  dossier: Dossier;
  intent: Intent;
  stateFolder: string;
  wanted: Wanted;
  /** Runs anew what is in the dossier already. */
  again?: boolean;
  /** Budget of a roam: acts, and time. */
  roamSteps?: number;
  roamMs?: number;
  /** What a walk through push messages sends from, and what it sends. */
  push?: PushKit;
  /** The test store that things are bought from. */
  store?: BuyingKit;
  /** The ad networks that are asked. */
  ads?: AdsKit;
  onPlan?(plan: Plan): void;
  /** What is begun now, as the first of so many that are left. */
  onStep?(step: PlanStep, done: number, total: number): void;
  onResult?(result: StepResult): void;
  signal?: AbortSignal;
}

export interface SessionReport {
  results: StepResult[];
  /** Every setting that was borrowed, as it reads now. */
  putBack: PutBack[];
}

/** @throws OutOfReach, UnreadableError */
export async function drillDevice(device: Device, options: SessionOptions): Promise<SessionReport> {
  const { dossier, intent, signal, stateFolder } = options;
  const { app, build } = await findCandidate(device, dossier.candidate.build);
  const borrower = await openBorrower(stateFolder, device);
  // what a run that was killed left behind
  if (borrower.left.length > 0) await borrower.putBack();
  const cell: DrillSubject['cell'] = {
    device: nameOf(device),
    locale: intent.sourceLocale,
    theme: 'light',
    textScale: 1,
    orientation: 'portrait',
  };
  const subject: DrillSubject = { device, app, borrower, build, cell };
  const plan = await planFor(device, options);
  options.onPlan?.(plan);
  const results: StepResult[] = [];
  let putBack: PutBack[] = [];
  let settings = '';
  const setOnce = async (wanted: Parameters<typeof setFor>[0]) => {
    if (settings === settingsOf(wanted)) return;
    await setFor(wanted, intent.sourceLocale, subject);
    settings = settingsOf(wanted);
  };
  const plain = { ...cell, screen: '', procedure: 'as-is', step: '' };
  const work = async (step: PlanStep): Promise<StepResult> => {
    const began = Date.now();
    const result = (more: Partial<StepResult>): StepResult => ({ step, tookMs: Date.now() - began, ...more });
    if (step.kind === 'capture') {
      await setOnce(step.cell);
      await reach(device, app, step.screen);
      await addCapture(dossier, `${step.screen.id}.json`, await captureScreen(step.cell, subject));
      return result({});
    }
    await setOnce(plain);
    if (step.kind === 'links') {
      const lines = await runFireLinks(subject, intent, step.route, signal);
      await addTraceLines(dossier, lines);
      const stopped = lines.find((line) => line.kind === 'drill.stopped');
      return result({ links: await linkRunsOf(lines), trouble: stopped?.why });
    }
    /** Keeps a walk through the whole app. @returns what it measured, and what stopped it */
    const walked = async (lines: readonly TraceLine[]) => {
      await addTraceLines(dossier, lines);
      const stopped = (lines as DrillLine[]).find((line) => line.kind === 'drill.stopped');
      return { facts: await factsOfLines(lines), trouble: stopped && `${stopped.step}: ${stopped.why}` };
    };
    if (step.kind === 'push') {
      const { facts, trouble } = await walked(
        await runPushWalk(subject, intent, { ...options.push!, signal }),
      );
      return result({ push: facts, trouble });
    }
    if (step.kind === 'store') {
      const { facts, trouble } = await walked(
        await runBuyFlows(subject, intent, { ...options.store!, signal }),
      );
      return result({ bought: facts, trouble });
    }
    if (step.kind === 'ads') {
      const { facts, trouble } = await walked(await runLoadAds(subject, intent, { ...options.ads!, signal }));
      return result({ ads: facts, trouble });
    }
    if (step.kind === 'roam') return result({ trouble: await runRoam(subject, options) });
    const lines =
      step.kind === 'screen'
        ? await runScreenDrill(step.run, subject, step.screen, (name, png) => addPicture(dossier, name, png))
        : await runColdStart(subject);
    await addTraceLines(dossier, lines);
    const run = await factOf(lines);
    const came = run && classOfRun(run, intent.drills.ignore);
    return result({ run, came, trouble: came?.kind === 'invalid' ? sayInvalid(came.why, run!) : undefined });
  };
  try {
    for (const [i, step] of plan.steps.entries()) {
      signal?.throwIfAborted();
      options.onStep?.(step, i, plan.steps.length);
      const began = Date.now();
      const done = await onceMore(device, () => work(step)).catch((error: unknown): StepResult => {
        if (!isOfThisStep(error)) throw error;
        return { step, tookMs: Date.now() - began, trouble: sayTrouble(error) };
      });
      results.push(done);
      options.onResult?.(done);
    }
  } finally {
    putBack = await giveBack(subject, dossier);
  }
  return { results, putBack };
}

/** What the app or the device did not do; the next step may go well all the same. */
const isOfThisStep = (error: unknown): error is Error =>
  error instanceof StepFailed || error instanceof NoDump || error instanceof Refused;

const sayTrouble = (error: Error): string =>
  error instanceof StepFailed ? `${error.step}: ${error.message}` : error.message;

/** A device that went away is waited for once, and the step done anew. */
async function onceMore<T>(device: Device, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    if (!(error instanceof OutOfReach) || error.code !== 'gone') throw error;
    await device.reconnect();
    return work();
  }
}

/** Puts everything back, reads it, and keeps in the dossier what was read. */
async function giveBack(subject: DrillSubject, dossier: Dossier): Promise<PutBack[]> {
  const { borrower, device } = subject;
  if (device.isGone()) {
    const back = await device.reconnect().then(
      () => true,
      () => false,
    );
    if (!back) return [];
  }
  const putBack = await borrower.putBack();
  if (putBack.length === 0) return putBack;
  const { lines, write } = beginTrace(subject, 'put-back', 'device');
  for (const one of putBack) write('setting.put-back', { ...one });
  await addTraceLines(dossier, lines);
  return putBack;
}

/** What is left to do on the device. */
export async function planFor(
  device: Device,
  { again, dossier, intent: given, wanted }: Pick<SessionOptions, 'again' | 'dossier' | 'intent' | 'wanted'>,
): Promise<Plan> {
  const intent = withWays(given, await listMaps(dossier.folder));
  const done = again ? new Set<string>() : await doneBefore(dossier, intent);
  return planDrills(intent, device, wanted, (step) => done.has(keyOf(step, device.info.id, nameOf(device))));
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

const nameOf = ({ info }: Device): string => info.name || info.model;

function keyOf(step: PlanStep, deviceId: string, deviceName: string): string {
  if (step.kind === 'capture') return `capture|${deviceName}|${keyOfCell(step.cell)}`;
  const of = step.kind === 'screen' ? step.screen.id : step.kind === 'links' ? step.route : '';
  return `${step.drill}|${deviceId}|${of}`;
}

const keyOfCell = (cell: Omit<Cell, 'device'>): string => `${cell.screen}|${settingsOf(cell)}`;

/** Captures, and runs that prove something; what was invalid is run again. */
async function doneBefore(dossier: Dossier, intent: Intent): Promise<Set<string>> {
  const done = new Set<string>();
  for (const { file } of await listCaptures(dossier)) {
    const capture = parseCapture(file, await readTextFile(file));
    if (capture.build) done.add(`capture|${capture.cell.device}|${keyOfCell(capture.cell)}`);
  }
  for (const entry of await listTraces(dossier)) {
    const facts = factsOfTrace(await readTrace(entry));
    for (const fact of facts)
      if (fact.kind === 'push-token') done.add(`push-walk|${fact.deviceId}|`);
      else if (fact.kind === 'ad-load') done.add(`load-ads|${fact.deviceId}|`);
      else if (fact.kind === 'purchase-history' && fact.cell.procedure === 'buy-flows')
        done.add(`buy-flows|${fact.deviceId}|`);
      else if (fact.kind === 'link-run') done.add(`fire-links|${fact.deviceId}|${fact.route}`);
    const run = runIn(facts);
    // a walk may have more to try: its map tells
    if (!run || run.drill === 'roam' || classOfRun(run, intent.drills.ignore).kind === 'invalid') continue;
    done.add(`${run.drill}|${run.deviceId}|${run.drill === 'cold-start' ? '' : run.cell.screen}`);
  }
  for (const map of await listMaps(dossier.folder)) if (map.finished) done.add(`roam|${map.deviceId}|`);
  return done;
}

const factOf = async (lines: readonly DrillLine[]): Promise<DrillRunFact | undefined> =>
  runIn(await factsOfLines(lines));

const linkRunsOf = async (lines: readonly DrillLine[]): Promise<LinkRunFact[]> =>
  (await factsOfLines(lines)).filter((fact) => fact.kind === 'link-run');

const factsOfLines = async (lines: readonly TraceLine[]): Promise<Fact[]> =>
  factsOfTrace(await decodeTrace('run', lines.map((line) => JSON.stringify(line)).join('\n')));

function factsOfTrace(lines: readonly TraceLine[]): Fact[] {
  const evidence = { digest: '', platform: 'android' as const, lines };
  return traceObservers.flatMap((observer) => [...observer.observe(evidence)]);
}

const runIn = (facts: readonly Fact[]): DrillRunFact | undefined =>
  facts.find((fact) => fact.kind === 'drill-run');

/** Puts back what a run that was killed left borrowed; @returns undefined where there was nothing. */
export async function putBackLeft(device: Device, stateFolder: string): Promise<PutBack[] | undefined> {
  const borrower = await openBorrower(stateFolder, device);
  return borrower.left.length > 0 ? borrower.putBack() : undefined;
}
