/** What a drill is. Everything about one stands in its own file: which steps it wants, how each is run, what of it is done. */
import type { RunClass } from '../../core/areas/lifecycle/runs/class-of-run.ts';
import type { DrillId } from '../../core/model/drill.ts';
import type { Fact } from '../../core/model/fact.ts';
import type { Intent } from '../../core/model/intent.ts';
import type { IntentScreen } from '../../core/model/intent-parts.ts';
import type { CoverageCell } from '../../core/model/judgement.ts';
import type { Dossier } from '../../node/dossier.ts';
import type { Capability, Device } from '../device.ts';
import type { DrillSubject } from './drill-subject.ts';
import type { BuyingKit } from './walks/buy.ts';
import type { AdsKit } from './walks/load-ads.ts';
import type { PushKit } from './walks/walk-messages.ts';

export type PlannedCell = CoverageCell['cell'];

/** What some drills need besides a device. */
export interface DrillKits {
  /** The service that messages are sent from, and the messages. */
  push?: PushKit;
  /** The test store that things are bought from. */
  store?: BuyingKit;
  /** The ad networks that are asked. */
  ads?: AdsKit;
}

/** What a plan is made from. */
export interface PlanContext {
  intent: Intent;
  device: Device;
  /** Those that are wanted, in the order of the intent file. */
  screens: readonly IntentScreen[];
  kits: DrillKits;
}

/** What a step is run with. */
export interface RunContext {
  subject: DrillSubject;
  dossier: Dossier;
  intent: Intent;
  kits: DrillKits;
  /** Nothing of earlier calls is gone on with. */
  isRerun: boolean;
  /** Budget of a roam: acts, and time. */
  roamSteps?: number;
  roamMs?: number;
  signal?: AbortSignal;
}

export interface StepOutcome {
  /** What was measured on its trace. */
  facts: readonly Fact[];
  /** Of a screen left and come back to: what a person would call it. */
  came?: RunClass;
  /** Why nothing came of it, or not all. */
  trouble?: string;
}

export interface DrillStep {
  drill: DrillId;
  /** For people: `process-death on booking`, `capture of booking, dark, de`. */
  says: string;
  /** What tells it from the other steps of its drill: a screen, a route. */
  key: string;
  screen?: string;
  /** How the device is set for it; as it is meant to be, where it does not say so. */
  cell?: PlannedCell;
  /** About how long it takes on an ordinary phone; the stand-in is ten times as quick. */
  estimateS: number;
  run(context: RunContext): Promise<StepOutcome>;
}

/** What cannot be done on this device, and why. */
export interface LeftOut {
  what: string;
  why: string;
}

export interface Drill {
  id: DrillId;
  /** What the device must be able to do, beyond what every one can. */
  needs?: readonly Capability[];
  plan(context: PlanContext): Iterable<DrillStep | LeftOut>;
  /** The key of the step that a fact of a trace shows to be done. */
  doneBy?(fact: Fact, intent: Intent): string | undefined;
  /** Keys of steps that the dossier shows to be done in another way. */
  doneIn?(dossier: Dossier, device: Device): Promise<readonly string[]>;
  /** It signs in as one tester, whom several devices at once would spoil. */
  onOneDevice?: true;
  /** It is run only where it is named. */
  onlyNamed?: true;
}

/** Why this is not done on a device; nothing where it can be. */
export const whyNotOn = (
  { needs = [] }: { needs?: readonly Capability[] },
  device: Device,
): string | undefined => needs.map((need) => device.whyNot(need)).find((why) => why !== undefined);
