/** WCAG 2.2, 1.4.3, on the colours that layouts and themes put on one another, whether a screen was captured or not. */
import type { ColourPairFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { parseHex } from './colour.ts';
import { LARGE_TEXT } from './large-text.ts';
import { suggestColours } from './suggest-colour.ts';

export const themeContrast = {
  id: 'theme-contrast',
  area: 'contrast',
  needs: ['package', 'colour-pair'],
  *run(facts, intent) {
    for (const pair of facts.of('colour-pair')) yield judgePair(pair, intent.limits);
  },
} satisfies Check;

function judgePair(pair: ColourPairFact, limits: Intent['limits']): Assertion {
  const { ratio } = pair;
  const large = isLarge(pair, limits.largeTextCountedIn);
  const required = large === true ? limits.largeTextContrast : limits.textContrast;
  const least = large === false ? limits.textContrast : limits.largeTextContrast;
  if (ratio >= required) return { outcome: 'passed' };
  // a layout without a background of its own may be put on another one than the window's
  const measured = pair.from === 'layout' && ratio < least;
  const suggested = suggestColours(parseHex(pair.foreground)!, parseHex(pair.background)!, required);
  const theme = pair.night ? 'dark' : 'light';
  return {
    outcome: measured ? 'failed' : 'cantTell',
    draft: {
      identity: { subject: `${pair.textName} on ${pair.backgroundName}`, aspect: theme },
      basis: measured ? 'measured' : 'estimated',
      severity: required - ratio,
      digest: `${pair.foreground} on ${pair.background}`,
      occurrence: {
        evidence: pair.evidence,
        shown: `${pair.layout}, ${pair.view}`,
        data: {
          ratio,
          required,
          requiredIfLarge: limits.largeTextContrast,
          large: String(large),
          theme,
          text: pair.textName,
          behind: pair.backgroundName,
          from: pair.from,
          hint: pair.part === 'hint',
          size: pair.textSizeSp ?? 0,
          bold: pair.bold,
          foreground: pair.foreground,
          background: pair.background,
          ...(suggested.text && {
            suggestedText: suggested.text.colour,
            suggestedTextRatio: suggested.text.ratio,
          }),
          ...(suggested.background && {
            suggestedBackground: suggested.background.colour,
            suggestedBackgroundRatio: suggested.background.ratio,
          }),
        },
      },
    },
  };
}

function isLarge(
  { bold, textSizeSp }: ColourPairFact,
  countedIn: keyof typeof LARGE_TEXT,
): boolean | 'unknown' {
  const { any, bold: ifBold } = LARGE_TEXT[countedIn];
  return textSizeSp === undefined ? 'unknown' : textSizeSp >= any || (bold && textSizeSp >= ifBold);
}
