import type { Device } from '../../../device/device.ts';
import type { Plan } from '../../../device/drills/plan.ts';
import { type Io, progress } from '../../io.ts';
import { groupLeft } from './format-plan.ts';

/** One bar for one device; for several the sum of them. */
export function teller(devices: readonly Device[], io: Io) {
  const total = new Map<Device, number>();
  const done = new Map<Device, number>();
  const show = progress(
    io,
    devices.length === 1 ? `Drilling ${devices[0]!.info.name}` : `Drilling ${devices.length} devices`,
  );
  const sum = (of: Map<Device, number>) => [...of.values()].reduce((all, one) => all + one, 0);
  const update = (detail = '') => {
    if (total.size === devices.length && sum(total) > 0) show(sum(done), sum(total), detail);
  };
  return {
    plan: (device: Device, { done: before, left, steps }: Plan) => {
      total.set(device, steps.length);
      if (before > 0) io.err(`${device.serial}: ${before} done before; --rerun runs them again\n`);
      for (const one of groupLeft(left)) io.err(`${device.serial}: left out: ${one}\n`);
    },
    step: (device: Device, what: string, count: number) => {
      done.set(device, count);
      update(devices.length === 1 ? what : `${device.info.name}: ${what}`);
    },
    end: (device: Device) => {
      done.set(device, total.get(device) ?? 0);
      update();
    },
  };
}
