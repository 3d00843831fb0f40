/**
 * Right-to-left screens are the mirror image of their left-to-right counterparts (Android developers, *Support layout
 * mirroring*; Apple, Human Interface Guidelines, *Right to left*). Elements are joined by their language-free keys; what
 * lies in the middle, or spans the width, tells nothing. Without a counterpart a screen tells less, by itself: see `judge-sides.ts`.
 */

import { z } from 'zod';
import { type Cell, formatCell } from '../../../model/cell.ts';
import type { PlaceFact } from '../../../model/fact.ts';
import type { Words } from '../../../model/finding.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { arrowSchema, edgesSchema, judgeArrows, judgeEdges } from '../screens/judge-sides.ts';
import { someOf } from '../words.ts';

const mirroredSchema = z.strictObject({
  what: z.literal('mirrored'),
  elements: z.array(z.string()),
  astray: z.number(),
  mirrored: z.number(),
  counterpart: z.string(),
  isWhole: z.boolean(),
});
const dataSchema = z.union([mirroredSchema, arrowSchema, edgesSchema]);
type Data = z.infer<typeof dataSchema>;

export const notMirrored = defineCheck({
  id: 'not-mirrored',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, Support layout mirroring; Human Interface Guidelines, Right to left',
  basis: 'either',
  needs: 'capture',
  reads: ['place', 'side'],
  data: dataSchema,
  words: (data, { identity, occurrences }) =>
    data.what === 'mirrored'
      ? mirroredWords(data)
      : sideWords(data, occurrences[0]!.shown || identity.subject),

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
      const counterpart = byCell.get(keyOf({ ...cell, locale: intent.sourceLocale }));
      const sidesOf = (of?: readonly PlaceFact[]) =>
        of ? facts.of('side').filter(({ evidence }) => evidence === of[0]!.evidence) : [];
      const sides = sidesOf(places);
      yield* judgeArrows(sides, sidesOf(counterpart));
      if (counterpart && !isRightToLeft(intent.sourceLocale)) yield judgeScreen(places, counterpart, intent);
      else {
        const judged = judgeEdges(sides);
        if (judged) yield judged;
      }
    }
  },

  doc: {
    looksAt: 'Where elements stand on right-to-left screens',
    against:
      'The mirror image of the same screen in the source language. Estimated where only some stand astray, and where there is no such capture: texts that begin at the left, arrows that point inwards',
    matters: 'Reading and layout run against each other, and back arrows point into the screen.',
    measured:
      'Where elements stand on a right-to-left screen, against the mirror image of the same screen in the source language.',
    errs: 'Some things stay on purpose, such as numbers and the controls of a player. Without a capture in the source language it is estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: `<ImageView android:layout_marginStart="16dp" />
<vector android:autoMirrored="true" />`,
      },
      {
        where: 'iOS, UIKit',
        language: 'swift',
        code: 'arrow.image = UIImage(named: "back")?.imageFlippedForRightToLeftLayoutDirection()',
      },
    ],
  },
});

const keyOf = ({ device, locale, orientation, procedure, screen, step, textScale, theme }: Cell): string =>
  [screen, procedure, step, device, locale, theme, textScale, orientation].join('|');

// Texts differ in width, so that only one of their edges may tell; a row of the platform's rounding is allowed.
const TOLERANCE_DP = 4;
// What lies nearer to both sides' mirror image than this tells nothing.
const TELLING_DP = 16;

function judgeScreen(
  places: readonly PlaceFact[],
  counterpart: readonly PlaceFact[],
  { sourceLocale }: IntentWith,
): Assertion<Data> {
  const counterparts = new Map(counterpart.map((place) => [place.key, place]));
  const astray: PlaceFact[] = [];
  let mirrored = 0;
  for (const place of places) {
    const other = counterparts.get(place.key);
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
          what: 'mirrored',
          elements,
          astray: astray.length,
          mirrored,
          counterpart: formatCell({ ...cell, locale: sourceLocale }),
          isWhole,
        },
      },
    },
  };
}

const near = (a: number, b: number): boolean => Math.abs(a - b) <= TOLERANCE_DP;

/** Held against the same screen in the source language. */
const mirroredWords = ({
  astray,
  elements,
  isWhole,
  mirrored,
  counterpart,
}: z.infer<typeof mirroredSchema>): Words => ({
  what: isWhole
    ? 'The screen is not mirrored for a language that runs from right to left'
    : `${someOf(elements)} ${elements.length === 1 ? 'stands' : 'stand'} where it does in left-to-right languages`,
  measured: `${astray} unmoved and ${mirrored} mirrored elements, against ${counterpart}`,
  required: 'start and end exchanged',
  why: isWhole
    ? 'Reading and layout run against each other.'
    : 'The others are mirrored. Some things stay as they are on purpose: numbers, controls of a player.',
  remedy: 'Use start and end in place of left and right, and let the layout follow the language.',
});

const MIRROR_REMEDY =
  'Use start and end in place of left and right, and let drawings that point follow the language (autoMirrored, or flipsForRightToLeftLayoutDirection).';

/** What the screen tells by itself. */
const sideWords = (data: z.infer<typeof arrowSchema> | z.infer<typeof edgesSchema>, shown: string): Words =>
  data.what === 'arrow'
    ? {
        what: `The arrow ${quote(shown)} points ${data.points} at the ${data.edge} edge`,
        measured: 'its drawing, in the picture',
        required: 'arrows that point the way the language runs',
        why: 'In a language that runs from right to left, back points to the right and on to the left. This one leads into the screen, as if only its place had been mirrored.',
        remedy: MIRROR_REMEDY,
      }
    : {
        what: 'The screen seems not to be mirrored for a language that runs from right to left',
        measured: `${data.astray} texts begin at the left with nothing to their right (${someOf(data.elements)}), ${data.right} stand at the right`,
        required: 'start and end exchanged',
        why: 'There is no capture of it in the source language to hold it against, so this is told from the screen alone; one capture in the source language makes it sure.',
        remedy: MIRROR_REMEDY,
      };
