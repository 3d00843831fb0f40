import type { Device } from '../../../device/device.ts';
import type { Plan } from '../../../device/drills/plan.ts';
import type { Io } from '../../io.ts';

/** What would be run, drill by drill, and about how long it takes. */
export function printPlan(plan: Plan, device: Device, options: { json?: boolean }, io: Io): void {
  const steps = plan.steps.map((step) => ({ what: step.says, ms: step.estimateS * 1000 }));
  const totalMs = steps.reduce((sum, { ms }) => sum + ms, 0);
  if (options.json) {
    io.out(
      `${JSON.stringify({ device: device.serial, steps: steps.map(({ ms, what }) => ({ what, estimatedMs: ms })), done: plan.done, left: plan.left, estimatedMs: totalMs }, null, 2)}\n`,
    );
    return;
  }
  const byDrill = new Map<string, { count: number; ms: number }>();
  for (const [i, step] of plan.steps.entries()) {
    const before = byDrill.get(step.drill) ?? { count: 0, ms: 0 };
    byDrill.set(step.drill, { count: before.count + 1, ms: before.ms + steps[i]!.ms });
  }
  io.out(
    `${device.info.model} (${device.serial}): ${steps.length} to run, ${plan.done} done before, about ${formatMinutes(totalMs)} on a phone\n`,
  );
  for (const [drill, { count, ms }] of byDrill)
    io.out(`  ${drill.padEnd(22)}${String(count).padStart(4)}   ${formatMinutes(ms)}\n`);
  for (const one of groupLeft(plan.left)) io.out(`  left out: ${one}\n`);
}

const formatMinutes = (ms: number): string =>
  ms < 90_000 ? `${Math.ceil(ms / 1000)} s` : `${Math.ceil(ms / 60_000)} min`;

/** What is left out for the same reason is said once. */
export function groupLeft(left: Plan['left']): string[] {
  const reasons = new Map<string, string[]>();
  for (const { what, why } of left) reasons.set(why, [...(reasons.get(why) ?? []), what]);
  return [...reasons].map(
    ([why, all]) => `${all[0]}${all.length > 1 ? ` and ${all.length - 1} more` : ''}: ${why}`,
  );
}
