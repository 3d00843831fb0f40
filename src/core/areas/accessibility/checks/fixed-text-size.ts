/**
 * Texts of layouts that do not grow with the user's text size, or cannot (WCAG 2.2, 1.4.4: up to 200 %): sizes in another unit
 * than sp, and heights that hold the text at its plain size alone. Code may set either, so it is always an estimate.
 */

import { z } from 'zod';
import type { LayoutViewFact } from '../../../model/fact.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const GROWTH = 2;
// What the platform's own font needs for a line, in parts of its size.
const LINE_HEIGHT = 1.17;

const dataSchema = z.strictObject({
  flaw: z.enum(['unit', 'height']),
  heightDp: z.number(),
  layout: z.string(),
  neededDp: z.number(),
  size: z.string(),
  unit: z.string(),
  view: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const fixedTextSize = defineCheck({
  id: 'fixed-text-size',
  area: 'accessibility',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.4 Resize Text',
  basis: 'estimated',
  needs: 'package',
  reads: ['layout-view'],
  data: dataSchema,
  words: ({ flaw, heightDp, layout, neededDp, size, unit, view }) =>
    flaw === 'unit'
      ? {
          what: `A text of a layout is sized in ${unit}, which does not follow the user's text size: ${view}`,
          measured: `${size} in ${layout}`,
          required: 'sp (WCAG 2.2, 1.4.4)',
          why: 'Who needs larger text does not get it here, unless code sets another size.',
          remedy: 'Give the size in sp.',
        }
      : {
          what: `A layout leaves no room for its text at 200 %: ${view}`,
          measured: `${heightDp} dp high around text of ${size}, in ${layout}`,
          required: `wrap_content, or at least ${neededDp} dp (WCAG 2.2, 1.4.4)`,
          why: 'With larger text the letters are cut off, unless code sets another height.',
          remedy: 'Set the height to wrap_content, and give android:minHeight what it was.',
        },

  *run(facts): Iterable<Assertion<Data>> {
    for (const view of facts.of('layout-view')) {
      if (!view.textSize || view.role === 'picture') continue;
      const { unit, value } = view.textSize;
      const neededDp = GROWTH * LINE_HEIGHT * value;
      if (unit !== 'sp') yield { outcome: 'cantTell', draft: draftOf(view, 'unit', neededDp) };
      else if (view.heightDp !== undefined && view.heightDp < neededDp)
        yield { outcome: 'cantTell', draft: draftOf(view, 'height', neededDp) };
      else yield { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: 'Sizes of texts in layouts, and fixed heights around them',
    against: 'Sp; twice the height of a line. Always estimated',
    matters:
      'One adult in four uses larger text. Sizes in dp or px do not follow the setting, and boxes of a fixed height cut the letters.',
    measured:
      "Unit and value of each text size of the package's layouts, and the height of the box against twice a line of that text.",
    errs: 'Code may set another size or height, so it is always estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: `<TextView android:textSize="16sp"
    android:layout_height="wrap_content" android:minHeight="48dp" />`,
      },
    ],
  },
});

const draftOf = (fact: LayoutViewFact, flaw: 'unit' | 'height', neededDp: number) => {
  const { evidence, heightDp = 0, layout, view } = fact;
  const { unit, value } = fact.textSize!;
  const size = `${Math.round(value * 10) / 10} ${unit}`;
  return {
    identity: { subject: `${layout} ${view}`, aspect: flaw },
    basis: 'estimated' as const,
    severity: flaw === 'unit' ? 2 : neededDp / heightDp,
    digest: `${size} ${heightDp}`,
    cause: flaw,
    occurrence: {
      evidence,
      shown: `${layout}, ${view}`,
      data: { flaw, heightDp, layout, neededDp: Math.ceil(neededDp), size, unit, view },
    },
  };
};
