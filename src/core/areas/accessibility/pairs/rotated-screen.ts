/** WCAG 2.2, 1.3.4 Orientation: what is there upright is there sideways, and nothing is cut. */
import type { Cell } from '../../../model/cell.ts';
import type { Check } from '../../check.ts';
import { pairScreens, seenScreens } from './compare-pair.ts';
import { judgeTexts } from './judge-pair.ts';

export const rotatedScreen = {
  id: 'rotated-screen',
  area: 'accessibility',
  needs: ['capture', 'screen-text', 'text-contrast'],
  *run(facts, intent) {
    for (const pair of pairScreens(facts.once(seenScreens, intent), upright)) yield* judgeTexts(pair);
  },
} satisfies Check;

const upright = (cell: Cell): Cell | undefined =>
  cell.orientation === 'landscape' ? { ...cell, orientation: 'portrait' } : undefined;
