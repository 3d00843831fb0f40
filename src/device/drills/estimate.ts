import type { PlanStep } from './plan.ts';

/** On an ordinary phone, in seconds: a dump takes one to two, an app a second to start. */
const SECONDS: Record<PlanStep['kind'], number> = {
  capture: 8,
  screen: 20,
  'cold-start': 20,
  links: 90,
  push: 240,
  store: 300,
  ads: 120,
  roam: 600,
};
// Back on every screen, or waiting for a process to go.
const LONG: readonly string[] = ['discard', 'process-death'];

/** About how long a step takes on a phone; the stand-in is ten times as quick. */
export const estimateMs = (step: PlanStep): number =>
  1000 * (SECONDS[step.kind] + (LONG.includes(step.drill) ? 10 : 0));
