/**
 * WCAG 2.2, 1.4.1 Use of Color: elements of one kind on one screen, such as the marks of a list, that differ in colour and in
 * nothing else, and become alike for people with one of three kinds of colour blindness.
 */
import { differenceCiede2000, modeLab65, modeRgb, useMode } from 'culori/fn';
import { z } from 'zod';
import type { SeenIconFact, SeenTextFact } from '../../../model/fact.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote, round } from '../../words.ts';
import { parseHex, type Rgb } from '../colour.ts';
import { simulateVision, visions } from '../colour-vision.ts';
import { roundColour } from '../round-colour.ts';

const dataSchema = z.strictObject({
  colours: z.array(z.string()),
  vision: z.enum(['protanopia', 'deuteranopia', 'tritanopia']),
  plain: z.number(),
  left: z.number(),
  theme: z.enum(['light', 'dark']),
});
type Data = z.infer<typeof dataSchema>;

export const colourAlone = defineCheck({
  id: 'colour-alone',
  area: 'contrast',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.1 Use of Color',
  basis: 'estimated',
  needs: 'capture',
  reads: ['icon-contrast', 'text-contrast'],
  data: dataSchema,
  words: ({ colours, left, plain, theme, vision }, { identity, occurrences }) => ({
    what: `${quote(occurrences[0]!.shown || identity.subject)} differs by colour alone, and not for everyone, in the ${theme} theme`,
    measured: `${colours.join(' and ')} differ by ${round(plain)}, and by ${round(left)} with ${vision} (CIEDE2000)`,
    required: 'meaning that does not rest on colour alone (WCAG 2.2, 1.4.1)',
    why: 'One man in twelve sees some colours as the same. Text and shape are the same here.',
    remedy: 'Add a shape or a word. If the colours mean nothing, mark it as a false alarm.',
  }),

  *run(facts) {
    const groups = new Map<string, Coloured[]>();
    for (const fact of [...facts.of('icon-contrast'), ...facts.of('text-contrast')]) {
      if (fact.unseen || !fact.enabled) continue;
      const key = `${fact.evidence}|${fact.element.key}|${fact.element.shown}`;
      groups.set(key, [...(groups.get(key) ?? []), fact]);
    }
    for (const group of groups.values()) if (group.length > 1) yield judgeGroup(group);
  },

  doc: {
    looksAt: 'Elements of one kind and one text on one screen that differ in colour',
    against:
      'CIEDE2000 after simulating protanopia, deuteranopia and tritanopia (Machado 2009). Always estimated',
    matters: 'One man in twelve sees some colours as the same.',
    measured:
      'The colours of elements of one kind and one text on one screen, their difference (CIEDE2000) after simulating three kinds of colour vision (Machado 2009).',
    errs: 'The colours may mean nothing; always estimated.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Row { StatusIcon(status); Text(status.label) }  // a shape and a word beside the colour',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'Label(status.label, systemImage: status.symbol)' },
    ],
  },
});

type Coloured = SeenIconFact | SeenTextFact;

// CIEDE2000: plainly different colours; and such as are hard to tell apart at a glance.
const DIFFERENT = 20;
const ALIKE = 10;

useMode(modeRgb);
useMode(modeLab65);
const deltaE = differenceCiede2000();
const difference = (a: Rgb, b: Rgb): number => deltaE(toColour(a), toColour(b));
const toColour = ([r, g, b]: Rgb) => ({ mode: 'rgb' as const, r: r / 255, g: g / 255, b: b / 255 });

function judgeGroup(group: readonly Coloured[]): Assertion<Data> {
  const { cell } = group[0]!;
  for (const [i, one] of group.entries())
    for (const other of group.slice(i + 1)) {
      const [colour, otherColour] = [parseHex(one.foreground)!, parseHex(other.foreground)!];
      const plain = difference(colour, otherColour);
      if (plain < DIFFERENT) continue;
      const merged = visions
        .map((vision) => ({
          vision,
          left: difference(simulateVision(colour, vision), simulateVision(otherColour, vision)),
        }))
        .filter(({ left }) => left < ALIKE)
        .sort((a, b) => a.left - b.left)[0];
      if (merged)
        return {
          outcome: 'cantTell',
          cell,
          draft: elementDraft(one, {
            // whether the colour means something is not to be seen
            basis: 'estimated',
            severity: plain - merged.left,
            digest: `${roundColour(one.foreground)} ${roundColour(other.foreground)}`,
            aspect: cell.theme,
            data: {
              colours: [one.foreground, other.foreground],
              vision: merged.vision,
              plain,
              left: merged.left,
              theme: cell.theme,
            },
          }),
        };
    }
  return { outcome: 'passed', cell };
}
