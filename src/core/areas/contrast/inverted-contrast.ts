/**
 * Texts under the display's colour inversion. Light and dark change places channel by channel, but a strong hue does not keep
 * its distance: red on black becomes cyan on white. What stands out as it is must not vanish there (Android and iOS,
 * accessibility settings; ratio by WCAG 2.2, 1.4.3).
 */
import type { SeenTextFact } from '../../model/fact.ts';
import { type Assertion, type Check, elementDraft } from '../check.ts';
import { contrastRatio, parseHex, toHex } from './colour.ts';
import { invert } from './colour-vision.ts';
import { roundColour } from './round-colour.ts';
import { lightnessSteps } from './suggest-colour.ts';

export const invertedContrast = {
  id: 'inverted-contrast',
  area: 'contrast',
  needs: ['capture', 'text-contrast'],
  *run(facts, { limits: { largeTextContrast: least } }) {
    for (const text of facts.of('text-contrast'))
      if (!text.unseen && text.enabled && text.behind === 'flat' && text.interval[0] >= least)
        yield judgeText(text, least);
  },
} satisfies Check;

function judgeText(fact: SeenTextFact, least: number): Assertion {
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
