/**
 * Qualifiers that count more take away what less counting ones would give (Android developers, *App resources overview*:
 * how the best matching resource is found): a German folder its density, a German folder the night, a network its
 * language.
 */

import { z } from 'zod';
import { isPseudoLocale } from '../../../model/locale.ts';
import type { ResourceConfig } from '../../../platform/android/resource-config.ts';
import { formatConfig } from '../../../platform/android/resource-config.ts';
import { selectVariant } from '../../../platform/android/select-variant.ts';
import type { Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { type Pick, type PickedResource, pickedResources } from '../picks.ts';
import { nameOf, someOf, times } from '../words.ts';

const dataSchema = z.strictObject({
  cure: z.string(),
  picked: z.string(),
  better: z.string(),
  scale: z.number(),
  devices: z.array(z.string()),
  locales: z.array(z.string()),
  loss: z.enum(['night', 'density', 'translation']),
});
type Data = z.infer<typeof dataSchema>;

export const lostVariant = defineCheck({
  id: 'lost-variant',
  area: 'resources',
  priority: 'harder',
  standard: 'Android developers, App resources overview, “How Android finds the best matching resource”',
  basis: 'measured',
  needs: 'package',
  reads: ['varied-resource'],
  limits: ['upscale'],
  data: dataSchema,
  words: ({ better, cure, devices, locales, loss, picked, scale }, { identity }) => {
    const used = `${nameOf(picked)} is used`;
    const there = `${nameOf(better)} is there`;
    if (loss === 'translation')
      return {
        what: `${identity.subject} loses its translation in one mobile network`,
        measured: `in ${someOf(locales)}: ${used}, though ${there}`,
        required: 'the language of the user',
        why: 'The network counts before the language, so that people read the source language there.',
        remedy: `Add ${cure}, and so for each language.`,
      };
    return {
      what: `${identity.subject} loses its ${loss} in ${someOf(locales)}`,
      measured: `${used}${loss === 'density' ? `, scaled × ${times(scale)},` : ''} on ${someOf(devices)}, though ${there}`,
      required: loss === 'density' ? 'a picture of the density of the screen' : 'the drawing for the night',
      why: `The language counts before ${loss === 'density' ? 'density' : 'night mode'}, so the folder of the language takes it away.`,
      remedy: `Add ${cure}.`,
    };
  },

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

  doc: {
    looksAt: 'What a device picks',
    against: 'What it could have, if language or network did not count before density and night',
    matters: 'A folder for a language takes density, night or translation away from everybody who speaks it.',
    measured:
      'What each listed device picks, against what it could have if language or network did not count first.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Folders of res',
        language: 'text',
        code: 'drawable-de-xxhdpi/sign_board.png   beside   drawable-de-xhdpi/sign_board.png',
      },
    ],
  },
});

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
  const cure = formatConfig({ ...worst.config!, density: worst.situation.device.densityDpi, sdkVersion: 0 });
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
  const cure = formatConfig({ ...worst.config!, night: 'yes', sdkVersion: 0 });
  return lossOf('night', worst, lost, cure, formatConfig(nights[0]!));
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
      const cure = formatConfig({ ...worst.config!, mcc, mnc, density: 0, sdkVersion: 0 });
      const network = formatConfig({ ...plain[0]!, mcc, mnc });
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

const draftOf = ({ fact }: PickedResource, { of, ...loss }: Loss): Draft<Data> => ({
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
