/** What every listed device picks of every varied resource: worked out once for all checks of variants. */
import type { ResourceForm } from '../../model/app-package.ts';
import type { VariedResourceFact } from '../../model/fact.ts';
import { decide } from '../../platform/android/compare-configs.ts';
import { libraryOf } from '../../platform/android/library-resources.ts';
import { contradiction } from '../../platform/android/match-config.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { scaleFactor } from '../../platform/android/select-variant.ts';
import { sameLanguage } from '../../platform/android/target-device.ts';
import type { FactIndex, IntentWith } from '../check.ts';
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
export function pickedResources(facts: FactIndex<'varied-resource'>, intent: IntentWith): PickedResource[] {
  const varied = facts
    .of('varied-resource')
    .filter(({ name, platform }) => platform === 'android' && libraryOf(name) === undefined);
  const situations = situationsOf(intent, varied[0]?.minSdk, varied[0]?.madeFor);
  // most resources come in the same forms as many others: what devices pick of these is found once
  const known = new Map<string, { configs: ResourceConfig[]; choices: Choice[] }>();
  return varied.map((fact) => {
    const key = fact.forms.map(({ file, qualifiers }) => `${qualifiers}${file ? '*' : ''}`).join(' ');
    let same = known.get(key);
    if (!same) {
      const configs = configsOf(fact.forms);
      const asked = unlike(situations, configs, fact.minSdk ?? 1);
      same = { configs, choices: chooseAll(asked, fact.forms, configs) };
      known.set(key, same);
    }
    const { choices, configs } = same;
    return { fact, configs, picks: choices.map((choice) => pickOf(choice, fact.forms, configs)) };
  });
}

/**
 * Of situations that must pick alike the first: by day and night where no form says which, in every language where none
 * names one, on every platform level where none is for newer ones alone.
 */
function unlike(
  situations: readonly Situation[],
  configs: readonly ResourceConfig[],
  minSdk: number,
): Situation[] {
  const byNight = configs.some(({ night }) => night !== 'any');
  const byLevel = configs.some(({ sdkVersion }) => sdkVersion > minSdk);
  const byDirection = configs.some(({ layoutDirection }) => layoutDirection !== 'any');
  const languages = new Set(configs.map(({ language }) => language));
  languages.delete('');
  const seen = new Set<string>();
  return situations.filter(({ device, isOldest, locale, night, target }) => {
    const named = [...languages].some((language) => sameLanguage(language, target.language));
    const key = [
      device.name,
      named ? locale : byDirection ? target.layoutDirection : '',
      byNight && night,
      byLevel && isOldest,
    ].join(' ');
    return !seen.has(key) && (isOldest || byLevel) && seen.add(key);
  });
}

/** Devices that differ in nothing which a form names pick alike, so that one of them picks for all. */
function chooseAll(
  situations: readonly Situation[],
  forms: readonly ResourceForm[],
  configs: ResourceConfig[],
): Choice[] {
  const bySize = configs.some(namesSize);
  const byDensity = configs.some(({ density }) => density > 0) || forms.some(({ file }) => file);
  const known = new Map<string, Choice>();
  return situations.map((situation) => {
    const { device, isOldest, locale, night } = situation;
    const key = [bySize ? device.name : byDensity ? device.densityDpi : '', locale, night, isOldest].join(
      ' ',
    );
    const choice = known.get(key) ?? choose(situation, forms, configs);
    known.set(key, choice);
    return { ...choice, situation };
  });
}

const namesSize = (config: ResourceConfig): boolean =>
  config.smallestWidthDp + config.widthDp + config.heightDp + config.widthPx + config.heightPx > 0 ||
  config.screenSize + config.screenLong + config.orientation !== '';

/** Positions among the forms. */
interface Choice {
  situation: Situation;
  chosen?: number;
  sharpest?: number;
}

function choose(situation: Situation, forms: readonly ResourceForm[], configs: ResourceConfig[]): Choice {
  const chosen = situation.pick({ configs: () => configs });
  const { file, stretches } = chosen === undefined ? {} : forms[chosen]!;
  // a nine-patch is made to be drawn at other sizes
  const isPicture = file !== undefined && !stretches;
  return { situation, chosen, sharpest: isPicture ? sharpestOf(situation, forms, configs) : undefined };
}

function pickOf(
  { chosen, sharpest, situation }: Choice,
  forms: readonly ResourceForm[],
  configs: readonly ResourceConfig[],
): Pick {
  if (chosen === undefined) return { situation };
  const form = forms[chosen]!;
  const config = configs[chosen]!;
  if (sharpest === undefined) return { situation, form, config };
  const scaleOf = (at: number) => scaleFactor(configs[at]!.density, situation.target.density);
  return {
    situation,
    form,
    config,
    scale: scaleOf(chosen),
    sharpest: { form: forms[sharpest]!, scale: scaleOf(sharpest) },
  };
}

/** Among the forms that fit, the one whose density the platform likes best for this device. */
function sharpestOf(
  { target }: Situation,
  forms: readonly ResourceForm[],
  configs: readonly ResourceConfig[],
): number | undefined {
  let best: number | undefined;
  for (const [i, config] of configs.entries()) {
    if (!forms[i]!.file || contradiction(config, target)) continue;
    const isBetter =
      best === undefined ||
      decide(ofDensity(config, configs[0]!), ofDensity(configs[best]!, configs[0]!), target).better;
    if (isBetter) best = i;
  }
  return best;
}

/** One configuration with the density of another, so that only density is compared. */
const ofDensity = ({ density }: ResourceConfig, rest: ResourceConfig): ResourceConfig => ({
  ...rest,
  density,
});
