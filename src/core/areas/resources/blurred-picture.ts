import type { Check } from '../check.ts';
import { pickedResources } from './picks.ts';

/** No listed device gets a picture that it must scale up by more than the limit, where the package has no sharper one. */
export const blurredPicture = {
  id: 'blurred-picture',
  area: 'resources',
  needs: ['package', 'varied-resource'],
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
} satisfies Check;
