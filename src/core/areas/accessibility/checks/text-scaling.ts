/**
 * WCAG 2.2, 1.4.4 Resize Text: to 200 % without loss. Shown by two captures: what is whole at 100 % is whole when larger,
 * and glyphs really are taller, by what the platform's own curve gives them.
 */

import { z } from 'zod';
import type { Cell } from '../../../model/cell.ts';
import type { SeenTextFact } from '../../../model/fact.ts';
import { type Assertion, defineCheck, elementDraft } from '../../check.ts';
import { quote, round } from '../../words.ts';
import { counterpartName, pairScreens, type ScreenPair, seenScreens } from '../pairs/compare-pair.ts';
import { harmSchema, harmWords, ROOM } from '../pairs/harm-words.ts';
import { judgeTexts } from '../pairs/judge-pair.ts';
import { leastGrowth } from '../pairs/scale-curve.ts';

const grownSchema = z.strictObject({
  harm: z.literal('not-grown'),
  text: z.string(),
  counterpart: z.string(),
  grown: z.number(),
  expected: z.number(),
  glyphDp: z.number(),
  beforeDp: z.number(),
});
const dataSchema = z.union([harmSchema, grownSchema]);
type Data = z.infer<typeof dataSchema>;

export const textScaling = defineCheck({
  id: 'text-scaling',
  area: 'accessibility',
  priority: 'wrong',
  standard: 'WCAG 2.2, 1.4.4 Resize Text',
  basis: 'either',
  needs: 'capture',
  reads: ['screen-text', 'text-contrast'],
  data: dataSchema,
  words: (data, { occurrences: [first] }) =>
    data.harm === 'not-grown'
      ? {
          what: `${quote(data.text)} does not grow with the text size`,
          measured: `its glyphs are ${round(data.beforeDp)} dp high, and ${round(data.glyphDp)} dp at ${percent(first!.cell!)}: ${data.grown.toFixed(2)} times`,
          required: `about ${data.expected.toFixed(2)} times, by the platform's curve (WCAG 2.2, 1.4.4)`,
          why: `Both captures show the same words. The other one: ${data.counterpart}. If the app reads the setting only when it starts, it was not restarted in between.`,
          remedy: 'Give its size in sp (Android), or use a scaled font (iOS).',
        }
      : harmWords(
          data,
          `at ${percent(first!.cell!)} text size`,
          'text up to 200 % without loss (WCAG 2.2, 1.4.4)',
          ROOM,
        ),

  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), at100)) {
      yield* judgeTexts(pair);
      yield* judgeGrowth(pair);
    }
  },

  doc: {
    looksAt:
      'Every text at 100 % and larger, also one drawn from a description: there, whole, apart, and how high its glyphs are',
    against:
      "WCAG 2.2, 1.4.4, and the platform's curve of text sizes. Lost is what is gone between texts that are left, or from a row or card that is seen whole; what may only be scrolled away is untested",
    matters:
      'One adult in four uses larger text, and at 200 % many screens lose what matters, such as prices, buttons and the end of sentences.',
    measured:
      "Each text at 100 % is looked for on the larger capture, there, whole, apart from others; and the height of its letters against the platform's curve of text sizes.",
    errs: 'What may only have been scrolled away is untested. The bars of iOS keep their text size and show it large while it is held, so no growth is asked of what stands in them. An app that reads the setting only at its start must be restarted in between.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<TextView android:textSize="16sp" android:layout_height="wrap_content" />',
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: `label.font = UIFont.preferredFont(forTextStyle: .body)
label.adjustsFontForContentSizeCategory = true
label.numberOfLines = 0`,
      },
    ],
  },
});

const LEAST_SCALE = 1.15;

const at100 = (cell: Cell): Cell | undefined =>
  cell.textScale >= LEAST_SCALE ? { ...cell, textScale: 1 } : undefined;

// Less than this share of the growth to expect, and it does not follow the setting.
const LEAST_SHARE = 0.4;
const LEAST_GLYPH_DP = 4;

function* judgeGrowth(pair: ScreenPair): Iterable<Assertion<Data>> {
  const { after, before } = pair;
  for (const [key, small] of before.inks) {
    const large = after.inks.get(key);
    if (!large || large.inBar || small.unseen || large.unseen || small.doubtful || large.doubtful) continue;
    if (small.element.shown !== large.element.shown || small.glyphDp < LEAST_GLYPH_DP) continue;
    yield judgeText(small, large, pair);
  }
}

function judgeText(small: SeenTextFact, large: SeenTextFact, pair: ScreenPair): Assertion<Data> {
  const { cell, platform } = large;
  // letters that hang together make glyphs of any height; strokes grow with the text in every script
  const grown = Math.max(large.glyphDp / small.glyphDp, small.stemDp > 0 ? large.stemDp / small.stemDp : 0);
  const expected = leastGrowth(small.textSizeDp[0], cell.textScale, platform);
  if (grown >= 1 + (expected - 1) * LEAST_SHARE) return { outcome: 'passed', cell };
  const draft = elementDraft<Data>(large, {
    basis: 'measured',
    severity: expected - grown,
    digest: `grown ${grown.toFixed(1)}`,
    cause: 'not grown',
    aspect: 'not-grown',
    data: {
      harm: 'not-grown',
      text: large.element.shown,
      counterpart: counterpartName(pair),
      grown,
      expected,
      glyphDp: large.glyphDp,
      beforeDp: small.glyphDp,
    },
  });
  return { outcome: 'failed', cell, draft };
}

const percent = ({ textScale }: Cell): string => `${Math.round(textScale * 100)} %`;
