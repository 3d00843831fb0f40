/** What a right-to-left screen tells by itself of being mirrored, without its left-to-right counterpart. Estimated at best. */
import { z } from 'zod';
import type { SideFact } from '../../../model/fact.ts';
import { type Assertion, elementDraft } from '../../check.ts';

export const arrowSchema = z.strictObject({
  what: z.literal('arrow'),
  points: z.enum(['left', 'right']),
  edge: z.enum(['left', 'right']),
});
export const edgesSchema = z.strictObject({
  what: z.literal('edges'),
  elements: z.array(z.string()),
  astray: z.number(),
  right: z.number(),
});

// Of the screen's width: an arrow so near to an edge leads there.
const NEAR_EDGE = 0.3;

/**
 * An arrow at the edge of a screen leads out of it, back or on; mirrored with its place but not as a drawing, it leads inwards. One that
 * points the other way in the left-to-right language is mirrored, wherever it leads.
 */
export function* judgeArrows(
  sides: readonly SideFact[],
  counterpart: readonly SideFact[],
): Iterable<Assertion<z.infer<typeof arrowSchema>>> {
  const pointed = new Map(counterpart.map(({ element, points }) => [element.key, points]));
  for (const fact of sides) {
    if (fact.what !== 'arrow' || !fact.points) continue;
    const { cell, leftDp, points, rightDp } = fact;
    const nearest = Math.min(leftDp, rightDp);
    const widthDp = leftDp + rightDp;
    if (nearest > widthDp * NEAR_EDGE) continue;
    const edge = leftDp < rightDp ? 'left' : 'right';
    const before = pointed.get(fact.element.key);
    if (points === edge || (before && before !== points)) yield { outcome: 'passed', cell };
    else
      yield {
        outcome: 'cantTell',
        cell,
        draft: elementDraft(fact, {
          basis: 'estimated',
          severity: 1,
          digest: `points ${points}`,
          aspect: cell.locale,
          data: { what: 'arrow', points, edge },
        }),
      };
  }
}

// From the edge, or from what stands before it.
const MOST_MARGIN_DP = 40;
const LEAST_ROOM_DP = 72;
// Fewer may be buttons at the end of a bar.
const LEAST_ASTRAY = 2;
const LEAST_SHARE = 0.34;

/** Texts that begin at the left although nothing of their row stands to their right. */
export function judgeEdges(sides: readonly SideFact[]): Assertion<z.infer<typeof edgesSchema>> | undefined {
  const texts = sides.filter(({ what }) => what === 'text');
  const astray = texts.filter((text) => beginsLeft(text) && !texts.some((other) => isRightOf(other, text)));
  const right = texts.filter(beginsRight);
  const [first] = astray;
  if (!first && right.length === 0) return undefined;
  const { cell } = texts[0]!;
  const isAstray =
    first && astray.length >= LEAST_ASTRAY && astray.length >= (astray.length + right.length) * LEAST_SHARE;
  if (!isAstray) return { outcome: 'passed', cell };
  const draft = elementDraft<z.infer<typeof edgesSchema>>(first, {
    basis: 'estimated',
    severity: astray.length,
    digest: astray.map(({ element }) => element.key).join(' '),
    data: {
      what: 'edges',
      elements: astray.map(({ element }) => element.key),
      astray: astray.length,
      right: right.length,
    },
  });
  return {
    outcome: 'cantTell',
    cell,
    draft: { ...draft, identity: { screen: cell.screen, subject: 'layout', aspect: cell.locale } },
  };
}

const beginsLeft = ({ roomLeftDp, roomRightDp }: SideFact): boolean =>
  roomLeftDp <= MOST_MARGIN_DP && roomRightDp >= LEAST_ROOM_DP && roomLeftDp < roomRightDp / 2;
const beginsRight = ({ roomLeftDp, roomRightDp }: SideFact): boolean =>
  roomRightDp <= MOST_MARGIN_DP && roomRightDp < roomLeftDp / 2;

/** In the same row. */
function isRightOf(other: SideFact, text: SideFact): boolean {
  const shared = Math.min(other.bottomDp, text.bottomDp) - Math.max(other.topDp, text.topDp);
  return (
    other !== text &&
    other.rightDp < text.rightDp &&
    shared > Math.min(other.bottomDp - other.topDp, text.bottomDp - text.topDp) / 2
  );
}
