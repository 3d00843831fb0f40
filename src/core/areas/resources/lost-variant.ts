/**
 * Qualifiers that count more take away what less counting ones would give (Android developers, *App resources overview*:
 * how the best matching resource is found): a German folder its density, a German folder the night, a network its
 * language.
 */
import { isPseudoLocale } from '../../model/locale.ts';
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
    const { upscale } = intent.limits;
    // resources of the same forms share their configurations, and lose the same
    const known = new Map<readonly ResourceConfig[], Loss[]>();
    for (const resource of facts.once(pickedResources, intent)) {
      let losses = known.get(resource.configs);
      if (!losses) {
        losses = [lostDensity(resource, upscale), lostNight(resource), lostLanguage(resource)].filter(
          (loss) => loss !== undefined,
        );
        known.set(resource.configs, losses);
      }
      for (const loss of losses) yield { outcome: 'failed', draft: draftOf(resource, loss) };
      if (losses.length === 0) yield { outcome: 'passed' };
    }
  },
} satisfies Check;

interface Loss {
  of: 'density' | 'night' | 'translation';
  /** Qualifiers of the form that is used, of the one that would be better, and of the one to add. */
  picked: string;
  better: string;
  cure: string;
  scale: number;
  devices: string[];
  locales: string[];
}

/** A picture of the device's own density is there, and one of another is used. */
function lostDensity({ picks }: PickedResource, upscale: number): Loss | undefined {
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
  return lossOf('density', worst, lost, cure, worst.sharpest!.form.qualifiers);
}

/** It is night, there is a form for the night, and one for the day is used. */
function lostNight({ configs, picks }: PickedResource): Loss | undefined {
  const nights = configs.filter(({ night }) => night === 'yes');
  if (nights.length === 0) return undefined;
  const lost = picks.filter(
    ({ config, situation }) =>
      situation.night && config && config.night !== 'yes' && fits(nights, situation.target),
  );
  const [worst] = lost;
  if (!worst) return undefined;
  const cure = sayConfig({ ...worst.config!, night: 'yes', sdkVersion: 0 });
  return lossOf('night', worst, lost, cure, sayConfig(nights[0]!));
}

const fits = (configs: readonly ResourceConfig[], target: Pick['situation']['target']): boolean =>
  selectVariant({ configs: () => configs }, target) !== undefined;

/** In the network that a form is made for, its language gives way to that of the source. */
function lostLanguage({ configs, picks }: PickedResource): Loss | undefined {
  // only a form that names no language can take one away
  const plain = configs.filter(({ language, mcc, mnc }) => (mcc > 0 || mnc > 0) && language === '');
  const networks = [...new Map(plain.map((config) => [`${config.mcc} ${config.mnc}`, config])).values()];
  for (const { mcc, mnc } of networks) {
    const lost = picks.filter(({ config, situation }) => {
      if (!config || config.language === '' || isPseudo(config)) return false;
      const there = selectVariant({ configs: () => configs }, { ...situation.target, mcc, mnc });
      return there !== undefined && configs[there]!.language === '';
    });
    const [worst] = lost;
    if (worst) {
      const cure = sayConfig({ ...worst.config!, mcc, mnc, density: 0, sdkVersion: 0 });
      const network = sayConfig({ ...plain[0]!, mcc, mnc });
      const there = { ...worst, form: { qualifiers: network } };
      return lossOf('translation', there, lost, cure, worst.form!.qualifiers);
    }
  }
  return undefined;
}

const isPseudo = ({ language, region }: ResourceConfig): boolean => isPseudoLocale(`${language}-${region}`);

function lossOf(of: Loss['of'], worst: Pick, lost: readonly Pick[], cure: string, better: string): Loss {
  const unique = (say: (pick: Pick) => string) => [...new Set(lost.map(say))];
  return {
    of,
    picked: worst.form!.qualifiers,
    better,
    cure,
    scale: worst.scale ?? 1,
    devices: unique(({ situation }) => situation.device.name),
    locales: unique(({ situation }) => situation.locale),
  };
}

// A lost language is worse than any blur.
const WEIGHT = { translation: 10, density: 1, night: 1 };

const draftOf = ({ fact }: PickedResource, { of, ...loss }: Loss): Draft => ({
  identity: { subject: fact.name, aspect: of },
  basis: 'measured',
  severity: WEIGHT[of] * loss.scale,
  digest: `${loss.picked} for ${loss.better}`,
  occurrence: {
    evidence: fact.evidence,
    shown: fact.name,
    data: { loss: of, ...loss, cure: `${fact.name.split('/')[0]}-${loss.cure}` },
  },
});
