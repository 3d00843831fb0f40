/**
 * Texts under the display's colour inversion. Light and dark change places channel by channel, but a strong hue does not keep
 * its distance: red on black becomes cyan on white. What stands out as it is must not vanish there (Android and iOS,
 * accessibility settings; ratio by WCAG 2.2, 1.4.3).
 */

import { z } from 'zod';
import type { SeenTextFact } from '../../../model/fact.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { cut } from '../../words.ts';
import { contrastRatio, parseHex, toHex } from '../colour.ts';
import { invert } from '../colour-vision.ts';
import { roundColour } from '../round-colour.ts';
import { lightnessSteps } from '../suggest-colour.ts';
import { ratio } from '../words.ts';

const dataSchema = z.strictObject({
  suggestion: z.string().optional(),
  plain: z.number(),
  inverted: z.number(),
  required: z.number(),
  theme: z.enum(['light', 'dark']),
  seenText: z.string(),
  seenBackground: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const invertedContrast = defineCheck({
  id: 'inverted-contrast',
  area: 'contrast',
  priority: 'harder',
  standard: 'Android and iOS accessibility settings; ratio by WCAG 2.2, 1.4.3',
  basis: 'either',
  needs: 'capture',
  reads: ['text-contrast'],
  limits: ['largeTextContrast'],
  data: dataSchema,
  words: (data, { occurrences }) => ({
    what: `“${cut(occurrences[0]!.shown)}” fades with colours inverted, in the ${data.theme} theme`,
    measured: `${ratio(data.inverted)} : 1 inverted, ${data.seenText} on ${data.seenBackground}; ${ratio(data.plain)} : 1 as it is`,
    required: `${data.required} : 1, to be made out at all`,
    why: 'People who need inverted colours turn them on for every app. A strong hue does not keep its distance from black or white when both are inverted.',
    remedy: data.suggestion
      ? `A paler or darker one of the same hue stands out both ways: ${data.suggestion}.`
      : 'No lightness of this hue stands out both ways: choose another hue.',
  }),

  *run(facts, { limits: { largeTextContrast: least } }) {
    for (const text of facts.of('text-contrast'))
      if (!text.unseen && text.enabled && text.behind === 'flat' && text.interval[0] >= least)
        yield judgeText(text, least);
  },

  doc: {
    looksAt:
      'Texts on one colour that stand out as they are: their colours inverted channel by channel, as the display does it',
    against: '3 to 1 (`limits.largeTextContrast`): to be made out at all',
    matters:
      'People who need inverted colours turn them on for every app, and a strong hue may vanish there.',
    measured:
      'Both colours of each text on a plain ground, inverted channel by channel as the display does it.',
    errs: 'Only texts on one colour are looked at. “Smart” inversion, which leaves pictures as they are, is not simulated.',
    fixes: [
      {
        where: 'colors.xml',
        language: 'xml',
        code: '<color name="warning">#8A1C10</color>  <!-- darker, so that it stands out both ways -->',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Text(warning).foregroundStyle(Color("WarningDark"))',
      },
    ],
  },
});

function judgeText(fact: SeenTextFact, least: number): Assertion<Data> {
  const { cell } = fact;
  const [text, background] = [parseHex(fact.foreground)!, parseHex(fact.background)!];
  const ratio = contrastRatio(invert(text), invert(background));
  if (ratio >= least) return { outcome: 'passed', cell };
  // thin strokes may not have shown their whole colour
  const measured = fact.interval[1] / fact.interval[0] < 1.05 && ratio < least * 0.95;
  // both ways round, the suggested colour stands out
  const suggested = [...lightnessSteps(text)].find(
    ({ rgb }) =>
      contrastRatio(rgb, background) >= fact.ratio && contrastRatio(invert(rgb), invert(background)) >= least,
  );
  const draft = elementDraft(fact, {
    basis: measured ? 'measured' : 'estimated',
    severity: least - ratio,
    digest: `${roundColour(fact.foreground)} on ${roundColour(fact.background)}`,
    aspect: cell.theme,
    data: {
      plain: fact.ratio,
      inverted: ratio,
      required: least,
      theme: cell.theme,
      seenText: toHex(invert(text)),
      seenBackground: toHex(invert(background)),
      ...(suggested && { suggestion: suggested.hex }),
    },
  });
  return { outcome: measured ? 'failed' : 'cantTell', cell, draft };
}
