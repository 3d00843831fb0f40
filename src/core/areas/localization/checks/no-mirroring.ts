/**
 * An app is laid out from right to left only where it says that it can be (Android developers, *Support different languages and
 * cultures*, "Create RTL layouts"; since API level 17, for apps that target it). Toolkits that lay out by themselves do not ask.
 */

import { z } from 'zod';
import { isRightToLeft } from '../../../model/locale.ts';
import { LAYS_OUT_BY_ITSELF } from '../../../platform/app-toolkits.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const FIRST_LEVEL = 17;

const dataSchema = z.strictObject({ locales: z.array(z.string()) });
type Data = z.infer<typeof dataSchema>;

export const noMirroring = defineCheck({
  id: 'no-mirroring',
  area: 'localization',
  priority: 'wrong',
  standard: 'Android developers, Support different languages and cultures, “Create RTL layouts”',
  basis: 'measured',
  needs: 'package',
  reads: ['manifest'],
  data: dataSchema,
  words: ({ locales }) => ({
    what: `The app is never laid out from right to left, and ${locales.join(', ')} ${locales.length === 1 ? 'runs' : 'run'} that way`,
    measured: 'no android:supportsRtl="true", or target SDK below 17',
    required: 'android:supportsRtl="true" on <application>',
    why: 'Texts run from the right while everything around them stays as it is for English: rows, arrows and gestures are the wrong way round.',
    remedy: 'Set android:supportsRtl="true", and look at each screen in one of these languages.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    const isOwnLayout = app?.toolkits?.some((toolkit) => LAYS_OUT_BY_ITSELF.has(toolkit));
    const locales = intent.locales.filter(isRightToLeft);
    for (const { evidence, supportsRtl } of facts.of('manifest')) {
      if (locales.length === 0 || isOwnLayout) yield { outcome: 'inapplicable' };
      else if (supportsRtl && (app?.targetSdk ?? 1) >= FIRST_LEVEL) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: 'supportsRtl' },
            basis: 'measured',
            severity: 2,
            digest: String(supportsRtl),
            occurrence: { evidence, shown: 'AndroidManifest.xml', data: { locales } },
          },
        };
    }
  },

  doc: {
    looksAt:
      '`supportsRtl`, where a language is meant that runs from right to left; not for toolkits that lay out by themselves (Flutter, Unity, Godot, web views)',
    against: 'True, with target SDK 17 or later',
    matters: 'Texts run from the right while rows, arrows and gestures stay as they are for English.',
    measured: 'android:supportsRtl and the target SDK, where an intended language runs from right to left.',
    errs: 'Toolkits that lay out by themselves, such as Flutter and Unity, are left out.',
    fixes: [
      { where: 'AndroidManifest.xml', language: 'xml', code: '<application android:supportsRtl="true" />' },
    ],
  },
});
