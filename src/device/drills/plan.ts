/** What is to be run on a device, in which order. */
import type { DrillId } from '../../core/model/drill.ts';
import { type Part, partOf } from '../../core/model/part.ts';
import { type DrillStep, type LeftOut, type PlanContext, whyNotOn } from './drill.ts';
import { allDrills } from './drills.ts';

export interface Plan {
  steps: DrillStep[];
  /** What cannot be done on this device, and why. */
  left: LeftOut[];
  /** Already in the dossier. */
  done: number;
}

export interface Wanted {
  drills: readonly DrillId[];
  screens?: readonly string[];
  /** Words that a step's description must hold, all of them. */
  only?: readonly string[];
  /** Of all that, whether it is done or not: so that each machine of several has its own. */
  part?: Part;
}

/** @param isDone what an earlier call has done for this build on this device */
export function planDrills(
  context: Omit<PlanContext, 'screens'>,
  wanted: Wanted,
  isDone: (step: DrillStep) => boolean,
): Plan {
  const plan: Plan = { steps: [], left: [], done: 0 };
  const asked: DrillStep[] = [];
  const { screens } = context.intent;
  const own = screens.filter(({ id }) => !wanted.screens || wanted.screens.includes(id));
  for (const drill of allDrills.filter(({ id }) => wanted.drills.includes(id))) {
    const why = whyNotOn(drill, context.device);
    if (why) {
      plan.left.push({ what: drill.id, why });
      continue;
    }
    for (const step of drill.plan({ ...context, screens: own })) {
      if (!('run' in step)) plan.left.push(step);
      else if (isWanted(step, wanted)) asked.push(step);
    }
  }
  for (const step of wanted.part ? partOf(asked, wanted.part) : asked) {
    if (isDone(step)) plan.done += 1;
    else plan.steps.push(step);
  }
  return plan;
}

function isWanted({ says }: DrillStep, { only = [] }: Wanted): boolean {
  const words = says.split(/[\s,]+/);
  return only.every((word) => words.includes(word));
}
