import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { pickedResources } from '../picks.ts';
import { nameOf, someOf, times } from '../words.ts';

const dataSchema = z.strictObject({
  scale: z.number(),
  upscale: z.number(),
  devices: z.array(z.string()),
  variant: z.string(),
  file: z.string(),
  widthPx: z.number(),
  heightPx: z.number(),
  densityDpi: z.number(),
});

/** No listed device gets a picture that it must scale up by more than the limit, where the package has no sharper one. */
export const blurredPicture = defineCheck({
  id: 'blurred-picture',
  area: 'resources',
  priority: 'harder',
  standard: 'Android developers, Support different pixel densities; Human Interface Guidelines, Images',
  basis: 'measured',
  needs: 'package',
  reads: ['varied-resource'],
  limits: ['upscale'],
  data: dataSchema,
  words: ({ densityDpi, devices, file, heightPx, scale, upscale, variant, widthPx }, { identity }) => ({
    what: `${identity.subject} is blurred on ${someOf(devices)}`,
    measured: `× ${times(scale)} scaled up: the best that the package has is ${nameOf(variant)}${widthPx > 0 ? `, ${widthPx} × ${heightPx} px` : ''} (${file})`,
    required: `at most × ${times(upscale)}`,
    why: `A screen of ${densityDpi} dpi draws every pixel of it over ${times(scale ** 2)} of its own.`,
    remedy: `Add the picture ${String(Math.ceil(widthPx * scale))} px wide for that density, or make it a vector drawing.`,
  }),

  *run(facts, intent) {
    const { upscale } = intent.limits;
    for (const { fact, picks } of facts.once(pickedResources, intent)) {
      if (!fact.forms.some(({ file }) => file)) {
        yield { outcome: 'inapplicable' };
        continue;
      }
      const blurred = picks
        .filter(({ sharpest }) => sharpest && sharpest.scale > upscale)
        .sort((a, b) => b.sharpest!.scale - a.sharpest!.scale);
      const [worst] = blurred;
      if (!worst) {
        yield { outcome: 'passed' };
        continue;
      }
      const devices = [...new Set(blurred.map(({ situation }) => situation.device.name))];
      const { form, scale } = worst.sharpest!;
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: fact.name },
          basis: 'measured',
          severity: scale,
          digest: `× ${scale.toFixed(2)} of ${form.qualifiers}`,
          occurrence: {
            evidence: fact.evidence,
            shown: fact.name,
            data: {
              scale,
              upscale,
              devices,
              variant: form.qualifiers,
              file: form.file!,
              widthPx: form.widthPx ?? 0,
              heightPx: form.heightPx ?? 0,
              densityDpi: worst.situation.device.densityDpi,
            },
          },
        },
      };
    }
  },

  doc: {
    looksAt: 'How far pictures are scaled up',
    against: '`limits.upscale` of the intent file, 1.34',
    matters: 'Pictures that are scaled up look washed out on the screens that people pay most for.',
    measured: 'Which form of each picture a device picks, and how far it is scaled up.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'res/drawable-xxhdpi',
        language: 'text',
        code: 'Add the picture at three times its size in dp, or make it a vector drawing.',
      },
      { where: 'iOS, asset catalogue', language: 'text', code: 'Add the @2x and @3x forms of the picture.' },
    ],
  },
});
