/** What every listed device picks of every varied resource: worked out once for all checks of variants. */
import type { ResourceForm } from '../../model/app-package.ts';
import type { VariedResourceFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import { decide } from '../../platform/android/compare-configs.ts';
import { contradiction } from '../../platform/android/match-config.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { scaleFactor } from '../../platform/android/select-variant.ts';
import type { FactIndex } from '../check.ts';
import { configsOf, type Situation, situationsOf } from './devices.ts';

export interface Pick {
  situation: Situation;
  /** Undefined where no form fits. */
  form?: ResourceForm;
  config?: ResourceConfig;
  /** Of a picture: above 1 it is scaled up. */
  scale?: number;
  /** The form that would be picked if density counted first. */
  sharpest?: { form: ResourceForm; scale: number };
}

export interface PickedResource {
  fact: VariedResourceFact;
  configs: ResourceConfig[];
  picks: Pick[];
}

/** Use with `facts.once`. Only Android chooses by qualifiers; iOS pictures have only scales. */
export function pickedResources(facts: FactIndex, intent: Intent): PickedResource[] {
  const varied = facts.of('varied-resource').filter(({ platform }) => platform === 'android');
  const situations = situationsOf(intent, varied[0]?.minSdk);
  return varied.map((fact) => {
    const configs = configsOf(fact.forms);
    const resource = { configs: () => configs };
    return {
      fact,
      configs,
      picks: situations.map((situation) => pickOf(situation, fact, configs, resource)),
    };
  });
}

function pickOf(
  situation: Situation,
  { forms }: VariedResourceFact,
  configs: ResourceConfig[],
  resource: { configs(): ResourceConfig[] },
): Pick {
  const chosen = situation.pick(resource);
  if (chosen === undefined) return { situation };
  const { density } = situation.target;
  const form = forms[chosen]!;
  const config = configs[chosen]!;
  if (!form.file) return { situation, form, config };
  const scale = scaleFactor(config.density, density);
  const sharpest = sharpestOf(situation, forms, configs);
  return { situation, form, config, scale, ...(sharpest && { sharpest }) };
}

/** Among the forms that fit, the one whose density the platform likes best for this device. */
function sharpestOf(
  { target }: Situation,
  forms: readonly ResourceForm[],
  configs: readonly ResourceConfig[],
): Pick['sharpest'] {
  let best: number | undefined;
  for (const [i, config] of configs.entries()) {
    if (!forms[i]!.file || contradiction(config, target)) continue;
    const alone = { ...configs[0]!, ...ofDensity(config) };
    if (best === undefined || decide(alone, { ...configs[0]!, ...ofDensity(configs[best]!) }, target).better)
      best = i;
  }
  if (best === undefined) return undefined;
  return { form: forms[best]!, scale: scaleFactor(configs[best]!.density, target.density) };
}

const ofDensity = ({ density }: ResourceConfig): Partial<ResourceConfig> => ({ density });
