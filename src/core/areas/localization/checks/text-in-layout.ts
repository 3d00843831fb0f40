/**
 * Texts that stand in a layout or interface file and in no table of texts, so that no translation reaches them. Code may put
 * another text in their place, so it is always an estimate.
 */

import { z } from 'zod';
import type { LayoutViewFact } from '../../../model/fact.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

const WORD = /\p{L}{2,}/u;

const dataSchema = z.strictObject({
  layout: z.string(),
  part: z.enum(['text', 'hint', 'description']),
  platform: z.enum(['android', 'ios']),
  text: z.string(),
  view: z.string(),
});

export const textInLayout = defineCheck({
  id: 'text-in-layout',
  area: 'localization',
  priority: 'harder',
  standard: 'Android and Apple localization guides',
  basis: 'estimated',
  needs: 'package',
  reads: ['layout-view'],
  data: dataSchema,
  words: ({ layout, part, platform, text, view }) => ({
    what: `${quote(text)} stands in a layout, where no translation reaches it`,
    measured: `the ${part} of ${view} in ${layout}`,
    required: 'a text of the catalogue',
    why: 'Unless code puts another text there, everybody reads it in this language.',
    remedy:
      platform === 'ios'
        ? 'Localize the interface file (Base), so that its texts come from tables, or set the text in code.'
        : 'Move it into strings.xml and refer to it; what is only for the preview belongs under tools:text.',
  }),

  *run(facts, intent) {
    for (const view of facts.of('layout-view')) {
      const [fixed] = view.fixedTexts.filter(({ text }) => WORD.test(text));
      if (!fixed) yield { outcome: 'passed' };
      else if (intent.locales.length < 2) yield { outcome: 'inapplicable' };
      else yield { outcome: 'cantTell', draft: draftOf(view, fixed) };
    }
  },

  doc: {
    looksAt: 'Texts, hints and descriptions that stand in layouts and interface files',
    against: 'A text of a catalogue. Always estimated',
    matters: 'No translation reaches a text that stands in a layout.',
    measured: 'Texts, hints and descriptions of layouts and interface files that are written out.',
    errs: 'Code may put another text there; always estimated.',
    fixes: [
      {
        where: 'Android, layout',
        language: 'xml',
        code: '<TextView android:text="@string/departures" tools:text="Departures" />',
      },
      {
        where: 'iOS, from a terminal',
        language: 'sh',
        code: `# Base localization: texts of the interface file come from Main.strings
ibtool --generate-strings-file de.lproj/Main.strings Base.lproj/Main.storyboard`,
      },
    ],
  },
});

const draftOf = (
  { evidence, layout, platform, view }: LayoutViewFact,
  { part, text }: LayoutViewFact['fixedTexts'][number],
) => ({
  identity: { subject: `${layout} ${view}`, aspect: part },
  basis: 'estimated' as const,
  severity: 1,
  digest: text,
  cause: part,
  occurrence: { evidence, shown: `${layout}, ${view}`, data: { layout, part, platform, text, view } },
});
