/** WCAG 2.2, 1.4.3, on the colours that layouts and themes put on one another, whether a screen was captured or not. */

import { z } from 'zod';
import type { ColourPairFact } from '../../../model/fact.ts';
import type { Limits } from '../../../model/limits.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { round } from '../../words.ts';
import { parseHex } from '../colour.ts';
import { LARGE_TEXT } from '../large-text.ts';
import { suggestColours } from '../suggest-colour.ts';
import { ratio, suggestionWords } from '../words.ts';

const dataSchema = z.strictObject({
  suggestedBackground: z.string().optional(),
  suggestedBackgroundRatio: z.number().optional(),
  suggestedText: z.string().optional(),
  suggestedTextRatio: z.number().optional(),
  ratio: z.number(),
  required: z.number(),
  requiredIfLarge: z.number(),
  large: z.enum(['true', 'false', 'unknown']),
  theme: z.string(),
  text: z.string(),
  behind: z.string(),
  from: z.enum(['layout', 'window']),
  hint: z.boolean(),
  size: z.number(),
  bold: z.boolean(),
  foreground: z.string(),
  background: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const themeContrast = defineCheck({
  id: 'theme-contrast',
  area: 'contrast',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.3 Contrast (Minimum)',
  basis: 'either',
  needs: 'package',
  reads: ['colour-pair'],
  limits: ['largeTextCountedIn', 'largeTextContrast', 'textContrast'],
  data: dataSchema,
  words: (data, { basis, occurrences }) => ({
    what: `${data.hint ? 'Hints' : 'Texts'} in ${data.text} ${basis === 'measured' ? 'are' : 'are perhaps'} too faint on ${data.behind} in the ${data.theme} theme`,
    measured: `${ratio(data.ratio)} : 1, ${data.foreground} on ${data.background}`,
    required: `${data.required} : 1${data.large === 'unknown' ? `, or ${data.requiredIfLarge} : 1 if it is large text` : ''} (WCAG 2.2, 1.4.3)`,
    why: `${listPlaces(occurrences)} put them together${data.size > 0 ? `, at ${round(data.size)} sp${data.bold ? ' bold' : ''}` : ''}.${data.from === 'window' ? ' The background is that of the window: where the layout is put on another one, mark it as a false alarm.' : ''}`,
    remedy: suggestionWords(data),
  }),

  *run(facts, intent) {
    for (const pair of facts.of('colour-pair')) yield judgePair(pair, intent.limits);
  },

  doc: {
    looksAt:
      "Every text of the package's layouts against what the layout or the theme's window puts behind it, by day and by night: through styles, text appearances, theme attributes, lists by state, shapes and included layouts",
    against:
      'WCAG 2.2, 1.4.3. Estimated where only the window lies behind, or the size is not said and large text would pass. Layouts built in code, and interface files of iOS, are not seen',
    matters: 'Screens that nobody captured have faint texts too.',
    measured:
      "Each text of the package's layouts against what the layout or the theme's window puts behind it, by day and by night.",
    errs: 'Layouts that code builds, and interface files of iOS, are not seen. Where only the window lies behind it is estimated.',
    fixes: [
      {
        where: 'res/values/themes.xml',
        language: 'xml',
        code: '<item name="android:textColorSecondary">#56616C</item>',
      },
    ],
  },
});

function judgePair(
  pair: ColourPairFact,
  limits: Pick<Limits, 'largeTextCountedIn' | 'largeTextContrast' | 'textContrast'>,
): Assertion<Data> {
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
          large: `${large}`,
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

const PLACES_NAMED = 3;

function listPlaces(occurrences: readonly { shown: string }[]): string {
  const places = [...new Set(occurrences.map(({ shown }) => shown))];
  const more = places.length - PLACES_NAMED;
  return `${places.slice(0, PLACES_NAMED).join('; ')}${more > 0 ? `; and ${more} more` : ''}`;
}
