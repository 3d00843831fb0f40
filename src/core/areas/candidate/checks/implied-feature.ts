/**
 * Permissions ask for features of the device that nobody wrote down, and screens that the manifest refuses: stores hide the app
 * from devices without them (Android developers, *<uses-feature>*, *<supports-screens>*). Whether that is meant, the package does
 * not say. Looked at for what tablets, computers with Android and televisions often lack.
 */

import { z } from 'zod';
import type { ManifestFact } from '../../../model/facts/manifest.ts';
import { impliedFeatures } from '../../../platform/android/implied-features.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

// The others are in all devices that apps are made for.
const OFTEN_LACKING: Readonly<Record<string, string>> = {
  'android.hardware.camera': 'a camera on the back',
  'android.hardware.location.gps': 'GPS',
  'android.hardware.telephony': 'a telephone',
};

const dataSchema = z.strictObject({ feature: z.string(), by: z.string(), what: z.string() });
type Data = z.infer<typeof dataSchema>;

export const impliedFeature = defineCheck({
  id: 'implied-feature',
  area: 'candidate',
  priority: 'harder',
  standard: 'Android developers, <uses-feature>, “Permissions that imply feature requirements”',
  basis: 'estimated',
  needs: 'package',
  reads: ['manifest'],
  data: dataSchema,
  words: ({ by, feature, what }) => ({
    what: `The store hides the app from devices without ${what}`,
    measured:
      feature === 'supports-screens'
        ? `<supports-screens> says ${by}`
        : `${by.replaceAll(', ', ' and ')} ${by.includes(',') ? 'ask' : 'asks'} for ${feature}, and no <uses-feature> says that it can do without`,
    required: 'only what the app cannot do without',
    why: 'Tablets, computers and televisions often lack it: their owners do not find the app, and nobody tells them why.',
    remedy:
      feature === 'supports-screens'
        ? 'Take the attribute away, unless the app cannot be used on such screens.'
        : `Add <uses-feature android:name="${feature}" android:required="false" />, unless the app is of no use without.`,
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const [app] = facts.of('package');
    for (const manifest of facts.of('manifest')) {
      const written = manifest.features.map(({ name }) => name);
      const missing = impliedFeatures(app?.permissions ?? [], written, app?.targetSdk ?? 1).filter(
        ({ feature }) => OFTEN_LACKING[feature],
      );
      const { leastWidthDp, refused } = manifest.screens;
      const isRefusing = refused.length > 0 || leastWidthDp !== undefined;
      if (missing.length === 0 && !isRefusing) yield { outcome: 'passed' };
      for (const { feature, permissions } of missing)
        yield draftOf(manifest, feature, permissions.join(', '), OFTEN_LACKING[feature]!);
      if (isRefusing)
        yield draftOf(
          manifest,
          'supports-screens',
          [
            ...refused.map((size) => `${size}Screens="false"`),
            ...(leastWidthDp ? [`requiresSmallestWidthDp="${leastWidthDp}"`] : []),
          ].join(', '),
          'such a screen',
        );
    }
  },

  doc: {
    looksAt:
      'Features that permissions ask for, and screens that the manifest refuses: a camera on the back, GPS, a telephone',
    against: 'A `<uses-feature>` that says whether the app can do without. Always estimated',
    matters:
      'The store hides the app from tablets, computers and televisions without the feature, and nobody is told why.',
    measured:
      "Permissions and screen sizes of the manifest, and the features that the platform's packer derives from them.",
    errs: 'The app may be of no use without the feature; always estimated.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<uses-feature android:name="android.hardware.camera" android:required="false" />',
      },
    ],
  },
});

const draftOf = ({ evidence }: ManifestFact, subject: string, by: string, what: string): Assertion<Data> => ({
  outcome: 'cantTell',
  draft: {
    identity: { subject },
    basis: 'estimated',
    severity: 1,
    digest: by,
    occurrence: { evidence, shown: subject, data: { feature: subject, by, what } },
  },
});
