/**
 * Which variant of a resource a device gets (AOSP `AssetManager2::FindEntry`): the platform walks the table in its
 * order, keeps the best so far, and takes the next one only where that is better. Because the comparison is not
 * transitive, the order counts.
 */

import { DENSITY_ANY, DENSITY_MEDIUM, DENSITY_NONE, decide } from './compare-configs.ts';
import { contradiction, type Qualifier } from './match-config.ts';
import type { ResourceConfig } from './resource-config.ts';
import type { TargetDevice } from './target-device.ts';

/** Anything that lists its variants' configurations in the packer's order, as `Resource` does. */
interface WithConfigs {
  configs(): readonly ResourceConfig[];
}

/** Position of the variant that the device gets; undefined where none fits, and the app that asks for it crashes. */
export function selectVariant(resource: WithConfigs, device: TargetDevice): number | undefined {
  const configs = resource.configs();
  let best: number | undefined;
  for (let i = 0; i < configs.length; i++) {
    const config = configs[i]!;
    if (contradiction(config, device) !== undefined) continue;
    if (best === undefined || decide(config, configs[best]!, device).better) best = i;
  }
  return best;
}

/** `selectVariant` for one device and many resources: what was found for one list of configurations is remembered. */
export function variantPicker(device: TargetDevice): (resource: WithConfigs) => number | undefined {
  const found = new Map<readonly ResourceConfig[], number | undefined>();
  return (resource) => {
    const configs = resource.configs();
    let best = found.get(configs);
    if (best === undefined && !found.has(configs)) {
      best = selectVariant(resource, device);
      found.set(configs, best);
    }
    return best;
  };
}

/** What became of one variant on the way to the choice. */
export type Fate =
  | { outcome: 'chosen' }
  | { outcome: 'excluded'; by: Qualifier }
  /** By none: it is the same to the device, and the other one was met first. */
  | { outcome: 'beaten'; by?: Qualifier; winner: number };

/** The walk of `selectVariant` with the fate of every variant, in the packer's order. */
export function explainSelection(resource: WithConfigs, device: TargetDevice): Fate[] {
  const configs = resource.configs();
  const fates: Fate[] = [];
  let best: number | undefined;
  for (const [i, config] of configs.entries()) {
    const by = contradiction(config, device);
    if (by) {
      fates[i] = { outcome: 'excluded', by };
      continue;
    }
    const decision = best === undefined ? { better: true } : decide(config, configs[best]!, device);
    if (decision.better) {
      if (best !== undefined) fates[best] = { outcome: 'beaten', by: decision.by, winner: i };
      fates[i] = { outcome: 'chosen' };
      best = i;
    } else
      fates[i] = {
        outcome: 'beaten',
        by: decision.by ?? decide(configs[best!]!, config, device).by,
        winner: best!,
      };
  }
  return fates;
}

/** By how much the device scales a picture of this density, above 1 up; 1 for what is never scaled. */
export function scaleFactor(pictureDensity: number, deviceDensityDpi: number): number {
  if (pictureDensity === DENSITY_ANY || pictureDensity === DENSITY_NONE) return 1;
  return deviceDensityDpi / (pictureDensity || DENSITY_MEDIUM);
}
