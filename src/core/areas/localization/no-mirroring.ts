/**
 * An app is laid out from right to left only where it says that it can be (Android developers, *Support different languages and
 * cultures*, "Create RTL layouts"; since API level 17, for apps that target it). Toolkits that lay out by themselves do not ask.
 */
import { isRightToLeft } from '../../model/locale.ts';
import { LAYS_OUT_BY_ITSELF } from '../../platform/app-toolkits.ts';
import type { Assertion, Check } from '../check.ts';

const FIRST_LEVEL = 17;

export const noMirroring = {
  id: 'no-mirroring',
  area: 'localization',
  needs: ['package', 'manifest'],
  *run(facts, intent): Iterable<Assertion> {
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
} satisfies Check;
