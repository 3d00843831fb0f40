/** WCAG 2.2, 1.3.4 Orientation: what is there upright is there sideways, and nothing is cut. */

import type { Cell } from '../../../model/cell.ts';
import { defineCheck } from '../../check.ts';
import { pairScreens, seenScreens } from '../pairs/compare-pair.ts';
import { harmSchema, harmWords } from '../pairs/harm-words.ts';
import { judgeTexts } from '../pairs/judge-pair.ts';

export const rotatedScreen = defineCheck({
  id: 'rotated-screen',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.3.4 Orientation',
  basis: 'either',
  needs: 'capture',
  reads: ['screen-text', 'text-contrast'],
  data: harmSchema,
  words: (data) =>
    harmWords(
      data,
      'with the phone held sideways',
      'every screen in both orientations (WCAG 2.2, 1.3.4)',
      'Lay the screen out for the wide shape too, and let it scroll.',
    ),

  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), upright)) yield* judgeTexts(pair);
  },

  doc: {
    looksAt: 'Captures in landscape',
    against: 'WCAG 2.2, 1.3.4: the same screen upright',
    matters: 'Phones and tablets that are fixed to a wheelchair or a stand cannot be turned.',
    measured:
      'Each text of the upright screen is looked for in landscape, there, whole, and apart from others.',
    errs: 'What may only have been scrolled out of sight is untested until a capture is scrolled on.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Column(Modifier.verticalScroll(rememberScrollState())) { /* the screen */ }',
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: 'ScrollView { content }' },
    ],
  },
});

const upright = (cell: Cell): Cell | undefined =>
  cell.orientation === 'landscape' ? { ...cell, orientation: 'portrait' } : undefined;
