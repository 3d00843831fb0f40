import type { NamedColourFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';
import { toHex } from '../colour.ts';
import { rgbOf } from './observe-colour-pairs.ts';

/** Colours with names, by day and by night. */
export const observeNamedColours = {
  id: 'named-colours',
  reads: 'package',
  *observe({ app, digest }) {
    // an app that is always light says so
    if (app.ios?.info.UIUserInterfaceStyle === 'Light') return;
    for (const { dark, light, name } of app.namedColours ?? [])
      yield {
        kind: 'named-colour',
        platform: app.platform,
        evidence: digest,
        name,
        light: toHex(rgbOf(light)),
        ...(dark !== undefined && { dark: toHex(rgbOf(dark)) }),
      } satisfies NamedColourFact;
  },
} satisfies PackageObserver;
