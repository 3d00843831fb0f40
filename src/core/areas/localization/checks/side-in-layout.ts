/**
 * Attributes of layouts that name left or right, where languages are meant that run from right to left (Android developers,
 * *Support different languages and cultures*, "Create RTL layouts"). Code may lay it out otherwise, so it is always an estimate.
 */

import { z } from 'zod';
import type { LayoutViewFact } from '../../../model/fact.ts';
import { isRightToLeft } from '../../../model/locale.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({ layout: z.string(), attributes: z.array(z.string()), view: z.string() });

export const sideInLayout = defineCheck({
  id: 'side-in-layout',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, Support different languages and cultures, “Create RTL layouts”',
  basis: 'estimated',
  needs: 'package',
  reads: ['layout-view'],
  data: dataSchema,
  words: ({ attributes, layout, view }) => ({
    what: `A layout names left or right: ${view}`,
    measured: `${attributes.join(', ')} in ${layout}`,
    required: 'start and end',
    why: 'In languages that run from right to left it stays on the side that it was put on.',
    remedy: 'Write Start for Left and End for Right; keep the other one where a side is really meant.',
  }),

  *run(facts, intent) {
    const isMeant = intent.locales.some(isRightToLeft);
    // an app that is never mirrored has but one side; another check says so
    for (const view of facts.of('layout-view'))
      if (!isMeant || !view.supportsRtl) yield { outcome: 'inapplicable' };
      else if (view.sideAttributes.length === 0) yield { outcome: 'passed' };
      else yield { outcome: 'cantTell', draft: draftOf(view) };
  },

  doc: {
    looksAt: 'Attributes of layouts that name left or right',
    against: 'Start and end, unless both sides are alike. Always estimated',
    matters: 'What is laid out by left and right stays there when the language runs from right to left.',
    measured: 'Attributes of layouts that name left or right, unless both sides are alike.',
    errs: 'Some things stay at one side on purpose; always estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<TextView android:layout_marginStart="16dp" android:layout_alignParentEnd="true" />',
      },
    ],
  },
});

const draftOf = ({ evidence, layout, sideAttributes, view }: LayoutViewFact) => ({
  identity: { subject: `${layout} ${view}` },
  basis: 'estimated' as const,
  severity: 1,
  digest: sideAttributes.join(' '),
  cause: 'sides',
  occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, attributes: sideAttributes, view } },
});
