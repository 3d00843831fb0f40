/**
 * Permissions ask for features of the device that nobody wrote down, and screens that the manifest refuses: stores hide the app
 * from devices without them (Android developers, *<uses-feature>*, *<supports-screens>*). Whether that is meant, the package does
 * not say. Looked at for what tablets, computers with Android and televisions often lack.
 */
import type { ManifestFact } from '../../model/facts/manifest.ts';
import { impliedFeatures } from '../../platform/android/implied-features.ts';
import type { Assertion, Check } from '../check.ts';

// The others are in all devices that apps are made for.
const OFTEN_LACKING: Readonly<Record<string, string>> = {
  'android.hardware.camera': 'a camera on the back',
  'android.hardware.location.gps': 'GPS',
  'android.hardware.telephony': 'a telephone',
};

export const impliedFeature = {
  id: 'implied-feature',
  area: 'candidate',
  needs: ['package', 'manifest'],
  *run(facts): Iterable<Assertion> {
    const [app] = facts.of('package');
    for (const manifest of facts.of('manifest')) {
      const written = manifest.features.map(({ name }) => name);
      const lacking = impliedFeatures(app?.permissions ?? [], written, app?.targetSdk ?? 1).filter(
        ({ feature }) => OFTEN_LACKING[feature],
      );
      const { leastWidthDp, refused } = manifest.screens;
      const isRefusing = refused.length > 0 || leastWidthDp !== undefined;
      if (lacking.length === 0 && !isRefusing) yield { outcome: 'passed' };
      for (const { feature, permissions } of lacking)
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
} satisfies Check;

const draftOf = ({ evidence }: ManifestFact, subject: string, by: string, what: string): Assertion => ({
  outcome: 'cantTell',
  draft: {
    identity: { subject },
    basis: 'estimated',
    severity: 1,
    digest: by,
    occurrence: { evidence, shown: subject, data: { feature: subject, by, what } },
  },
});
