import type { ColourPairFact } from '../../../model/fact.ts';
import type { PackageObserver } from '../../observer.ts';
import { contrastRatio, type Rgb, toHex } from '../colour.ts';

/** Contrast of every text of the package's layouts, as its colours are named. */
export const observeColourPairs = {
  id: 'colour-pairs',
  reads: 'package',
  *observe({ app, digest }) {
    for (const { background, text, ...pair } of app.android?.colourPairs ?? []) {
      const behind = rgbOf(background.argb);
      const drawn = over(text.argb, behind);
      yield {
        kind: 'colour-pair',
        platform: app.platform,
        evidence: digest,
        ...pair,
        textName: text.name,
        backgroundName: background.name,
        foreground: toHex(drawn),
        background: toHex(behind),
        ratio: contrastRatio(drawn, behind),
      } satisfies ColourPairFact;
    }
  },
} satisfies PackageObserver;

export const rgbOf = (argb: number): Rgb => [(argb >> 16) & 255, (argb >> 8) & 255, argb & 255];

function over(argb: number, below: Rgb): Rgb {
  const alpha = (argb >>> 24) / 255;
  return rgbOf(argb).map((channel, i) =>
    Math.round(channel * alpha + below[i]! * (1 - alpha)),
  ) as unknown as Rgb;
}
