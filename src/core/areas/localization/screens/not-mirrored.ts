/**
 * Right-to-left screens are the mirror image of their left-to-right twins (Android developers, *Support layout
 * mirroring*; Apple, Human Interface Guidelines, *Right to left*). Elements are joined by their language-free keys; what
 * lies in the middle, or spans the width, tells nothing. Without a twin a screen tells less, by itself: see `judge-sides.ts`.
 */
import { type Cell, sayCell } from '../../../model/cell.ts';
import type { PlaceFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import type { Assertion, Check } from '../../check.ts';
import { judgeArrows, judgeEdges } from './judge-sides.ts';

export const notMirrored = {
  id: 'not-mirrored',
  area: 'localization',
  needs: ['capture', 'place', 'side'],
  *run(facts, intent) {
    const byCell = new Map<string, PlaceFact[]>();
    for (const fact of facts.of('place')) {
      const places = byCell.get(keyOf(fact.cell));
      if (places) places.push(fact);
      else byCell.set(keyOf(fact.cell), [fact]);
    }
    for (const places of byCell.values()) {
      const { cell } = places[0]!;
      if (!isLocaleTag(cell.locale) || !isRightToLeft(cell.locale)) continue;
      const twin = byCell.get(keyOf({ ...cell, locale: intent.sourceLocale }));
      const sides = facts.of('side').filter(({ evidence }) => evidence === places[0]!.evidence);
      yield* judgeArrows(sides);
      if (twin && !isRightToLeft(intent.sourceLocale)) yield judgeScreen(places, twin, intent);
      else {
        const judged = judgeEdges(sides);
        if (judged) yield judged;
      }
    }
  },
} satisfies Check;

const keyOf = ({ device, locale, orientation, procedure, screen, step, textScale, theme }: Cell): string =>
  [screen, procedure, step, device, locale, theme, textScale, orientation].join('|');

// Texts differ in width, so that only one of their edges may tell; a row of the platform's rounding is allowed.
const TOLERANCE_DP = 4;
// What lies nearer to both sides' mirror image than this tells nothing.
const TELLING_DP = 16;

function judgeScreen(
  places: readonly PlaceFact[],
  twin: readonly PlaceFact[],
  { sourceLocale }: Intent,
): Assertion {
  const twins = new Map(twin.map((place) => [place.key, place]));
  const astray: PlaceFact[] = [];
  let mirrored = 0;
  for (const place of places) {
    const other = twins.get(place.key);
    if (!other || Math.abs(other.leftDp - other.rightDp) < TELLING_DP) continue;
    const isMirrored = near(place.rightDp, other.leftDp) || near(place.leftDp, other.rightDp);
    const isUnmoved = near(place.leftDp, other.leftDp) || near(place.rightDp, other.rightDp);
    if (isMirrored) mirrored += 1;
    else if (isUnmoved) astray.push(place);
  }
  const { cell, evidence } = places[0]!;
  if (astray.length === 0)
    return mirrored > 0 ? { outcome: 'passed', cell } : { outcome: 'inapplicable', cell };
  const isWhole = astray.length > mirrored;
  // those with a name of their own first
  const elements = [...new Set(astray.map(({ key }) => key.replace(/ #\d+$/, '')))].sort(
    (a, b) => Number(a.includes('>')) - Number(b.includes('>')),
  );
  return {
    outcome: isWhole ? 'failed' : 'cantTell',
    cell,
    draft: {
      identity: { screen: cell.screen, subject: isWhole ? 'layout' : elements[0]!, aspect: cell.locale },
      // a number or a sound's controls are left as they are on purpose; a whole screen is not
      basis: isWhole ? 'measured' : 'estimated',
      severity: astray.length,
      digest: elements.join(' '),
      occurrence: {
        evidence,
        cell,
        shown: elements.join(', '),
        data: {
          elements,
          astray: astray.length,
          mirrored,
          twin: sayCell({ ...cell, locale: sourceLocale }),
          isWhole,
        },
      },
    },
  };
}

const near = (a: number, b: number): boolean => Math.abs(a - b) <= TOLERANCE_DP;
