/** What the measuring says of a screen of a page, held against its paintings. */
import type { Browser } from 'playwright-core';
import type { Box } from '../../../src/core/model/geometry.ts';
import type { Pixels } from '../../../src/core/model/ports.ts';
import { uiNodeSchema } from '../../../src/core/model/ui-tree.ts';
import { screenEvidence } from '../facts.ts';
import { type PartTruth, worstStretch } from '../sheets/scene.ts';
import { type Scored, scoreTruths } from '../sheets/score.ts';
import type { RealPage } from './corpus.ts';
import { type PaintedPage, paintPage } from './paint-page.ts';

export interface ScoredScreen {
  painted: PaintedPage;
  scored: Scored[];
}

export async function* scorePage(
  browser: Browser,
  page: RealPage,
  screens: number,
): AsyncGenerator<ScoredScreen> {
  for await (const painted of paintPage(browser, page, screens)) {
    const { pixels, scale, tree } = painted;
    const evidence = screenEvidence(uiNodeSchema.parse(tree), { pixels, densityDpi: 160 * scale });
    const scored = scoreTruths(evidence, truthsOf(painted), {
      family: page.name,
      manner: 'views',
      painter: 'browser',
    });
    yield { painted, scored };
  }
}

/**
 * Where the mask is black, these letters cover a pixel and those beside it wholly: there alone their own colour shows, since
 * edges are painted stronger or weaker by how light a text is.
 */
function markInk(mask: Pixels, letters: Pixels, ink: number, of: Box, as: number): void {
  const { data, widthPx } = letters;
  const isInk = (at: number) => ((data[at]! << 16) | (data[at + 1]! << 8) | data[at + 2]!) === ink;
  const around = [0, -4, 4, -widthPx * 4, widthPx * 4];
  for (let y = Math.max(1, of.y); y < Math.min(mask.heightPx - 1, of.y + of.height); y++)
    for (let x = Math.max(1, of.x); x < Math.min(widthPx - 1, of.x + of.width); x++) {
      const at = (y * widthPx + x) * 4;
      if (around.every((by) => isInk(at + by))) mask.data.fill(as, at, at + 3);
    }
}

// What nobody can see was perhaps never there.
const INVISIBLE = 1.05;

/** Of each element the worst of its texts; of one whose colours cannot be told, nothing. */
function truthsOf({ blank, letters, pixels, scale, texts }: PaintedPage): PartTruth[] {
  const mask = { ...letters, data: new Uint8Array(letters.data.length).fill(255) };
  const worst = new Map<number, PartTruth | undefined>();
  for (const { ink, isClear, kind, lines, node, sizePx, text, weight } of texts) {
    // 600 is drawn as 700 where a typeface has no other, and which of them counts is open
    const isBoldOpen = sizePx >= 14 && sizePx < 18 && weight === 600;
    for (const line of lines) {
      const box = {
        x: Math.floor(line.x * scale),
        y: Math.floor(line.y * scale),
        width: Math.ceil(line.width * scale) + 1,
        height: Math.ceil(line.height * scale) + 1,
      };
      markInk(mask, letters, ink, box, 0);
      const part = { kind, text, sizeDp: sizePx, weight, paint: '', opacity: 1, ink: () => '' };
      const seen = isClear && !isBoldOpen && worstStretch(scale, line, part, { blank, mask, solid: pixels });
      markInk(mask, letters, ink, box, 255);
      const before = worst.get(node);
      if (!seen) worst.set(node, undefined);
      else if (!worst.has(node) || (before && before.ratio > seen.ratio)) {
        const slot = { family: '', ...line, layers: [], parts: [], meaning: [] };
        worst.set(node, { slot, part, ...seen });
      }
    }
  }
  return [...worst.values()].flatMap((truth) => (truth && truth.ratio > INVISIBLE ? [truth] : []));
}
