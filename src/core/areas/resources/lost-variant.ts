/**
 * Qualifiers that count more take away what less counting ones would give (Android developers, *App resources overview*:
 * how the best matching resource is found): a German folder its density, a German folder the night, a network its
 * language.
 */
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { sayConfig } from '../../platform/android/resource-config.ts';
import { selectVariant } from '../../platform/android/select-variant.ts';
import type { Check, Draft } from '../check.ts';
import { type Pick, type PickedResource, pickedResources } from './picks.ts';

export const lostVariant = {
  id: 'lost-variant',
  area: 'resources',
  needs: ['package', 'varied-resource'],
  *run(facts, intent) {
    for (const resource of facts.once(pickedResources, intent)) {
      const drafts = [
        lostDensity(resource, intent.limits.upscale),
        lostNight(resource),
        lostLanguage(resource),
      ].filter((draft) => draft !== undefined);
      for (const draft of drafts) yield { outcome: 'failed', draft };
      if (drafts.length === 0) yield { outcome: 'passed' };
    }
  },
} satisfies Check;

type Loss = 'density' | 'night' | 'translation';

/** A picture of the device's own density is there, and one of another is used. */
function lostDensity({ fact, picks }: PickedResource, upscale: number): Draft | undefined {
  const lost = picks.filter(
    ({ scale, sharpest }) =>
      scale !== undefined &&
      sharpest !== undefined &&
      (sharpest.scale === 1 || scale > upscale) &&
      scale !== sharpest.scale &&
      scale !== 1,
  );
  const worst = [...lost].sort((a, b) => b.scale! - a.scale!)[0];
  if (!worst) return undefined;
  const cure = sayConfig({ ...worst.config!, density: worst.situation.device.densityDpi, sdkVersion: 0 });
  return draftOf(fact.name, fact.evidence, 'density', worst, lost, cure, worst.sharpest!.form.qualifiers);
}

/** It is night, there is a form for the night, and one for the day is used. */
function lostNight({ configs, fact, picks }: PickedResource): Draft | undefined {
  const nights = configs.filter(({ night }) => night === 'yes');
  if (nights.length === 0) return undefined;
  const lost = picks.filter(
    ({ config, situation }) =>
      situation.night && config && config.night !== 'yes' && fits(nights, situation.target),
  );
  const [worst] = lost;
  if (!worst) return undefined;
  const cure = sayConfig({ ...worst.config!, night: 'yes', sdkVersion: 0 });
  return draftOf(fact.name, fact.evidence, 'night', worst, lost, cure, sayConfig(nights[0]!));
}

const fits = (configs: readonly ResourceConfig[], target: Pick['situation']['target']): boolean =>
  selectVariant({ configs: () => configs }, target) !== undefined;

/** In the network that a form is made for, its language gives way to that of the source. */
function lostLanguage({ configs, fact, picks }: PickedResource): Draft | undefined {
  const networks = configs.filter(({ mcc, mnc }) => mcc > 0 || mnc > 0);
  if (networks.length === 0) return undefined;
  for (const { mcc, mnc } of networks) {
    const lost = picks.filter(({ config, situation }) => {
      if (!config || config.language === '') return false;
      const there = selectVariant({ configs: () => configs }, { ...situation.target, mcc, mnc });
      return there !== undefined && configs[there]!.language === '';
    });
    const [worst] = lost;
    if (worst) {
      const cure = sayConfig({ ...worst.config!, mcc, mnc, density: 0, sdkVersion: 0 });
      const network = sayConfig({ ...networks[0]!, mcc, mnc });
      return draftOf(
        fact.name,
        fact.evidence,
        'translation',
        { ...worst, form: { qualifiers: network } },
        lost,
        cure,
        worst.form!.qualifiers,
      );
    }
  }
  return undefined;
}

function draftOf(
  name: string,
  evidence: string,
  loss: Loss,
  worst: Pick,
  lost: readonly Pick[],
  cure: string,
  better: string,
): Draft {
  const unique = (of: (pick: Pick) => string) => [...new Set(lost.map(of))];
  return {
    identity: { subject: name, aspect: loss },
    basis: 'measured',
    severity: { translation: 10, density: 1, night: 1 }[loss] * (worst.scale ?? 1),
    digest: `${worst.form!.qualifiers} for ${better}`,
    occurrence: {
      evidence,
      shown: name,
      data: {
        loss,
        picked: worst.form!.qualifiers,
        better,
        cure: `${name.split('/')[0]}-${cure}`,
        scale: worst.scale ?? 1,
        devices: unique(({ situation }) => situation.device.name),
        locales: unique(({ situation }) => situation.locale),
      },
    },
  };
}
