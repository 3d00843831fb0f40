import { z } from 'zod';
import type { Cell } from '../../../model/cell.ts';
import { defineCheck, elementDraft } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.strictObject({ text: z.string(), locale: z.string(), textScale: z.number() });

/** No text ends in an ellipsis that it does not have. */
export const cutText = defineCheck({
  id: 'cut-text',
  area: 'localization',
  priority: 'harder',
  standard: 'WCAG 2.2, 1.4.4 Resize Text; Apple and Android localization guides',
  basis: 'measured',
  needs: 'capture',
  reads: ['screen-text'],
  data: dataSchema,
  words: ({ locale, text, textScale }) => ({
    what: `${quote(text)} is cut off in ${locale}${textScale === 1 ? '' : ` at ${textScale * 100} % text size`}`,
    measured: 'the picture ends it in three dots, the text itself does not',
    required: 'the whole text',
    why: 'People cannot read the end of it.',
    remedy: 'Let it wrap onto another line or grow, or ask for a shorter text.',
  }),

  *run(facts) {
    const at100 = new Set(
      facts.of('capture').flatMap(({ cell }) => (cell.textScale === 1 ? [keyOf(cell)] : [])),
    );
    for (const fact of facts.of('screen-text')) {
      if (fact.from === 'label') continue;
      // what larger text cuts is told by its pair
      if (fact.cell.textScale > 1 && at100.has(keyOf(fact.cell))) continue;
      if (!fact.ellipsized) yield { outcome: 'passed', cell: fact.cell };
      else
        yield {
          outcome: 'failed',
          cell: fact.cell,
          draft: elementDraft(fact, {
            basis: 'measured',
            severity: fact.text.length,
            digest: fact.text,
            cause: 'cut',
            aspect: fact.cell.locale,
            data: { text: fact.text, locale: fact.cell.locale, textScale: fact.cell.textScale },
          }),
        };
    }
  },

  doc: {
    looksAt: 'The end of every drawn text, in the picture',
    against: 'No ellipsis that the text itself does not have',
    matters: 'What was cut off is often the part that mattered, such as a time, an amount or a negation.',
    measured: 'Three dots are looked for at the end of every drawn text, in the picture.',
    errs: 'A text that ends in an ellipsis of its own is not counted. A text that is cut without dots is left to text-scaling.',
    fixes: [
      {
        where: 'Android, Compose',
        language: 'kotlin',
        code: 'Text(label)  // no maxLines = 1 where it may be longer in another language',
      },
      {
        where: 'iOS, SwiftUI',
        language: 'swift',
        code: 'Text(label).fixedSize(horizontal: false, vertical: true)',
      },
    ],
  },
});

const keyOf = ({ device, locale, orientation, procedure, screen, theme }: Cell): string =>
  [screen, procedure, device, locale, theme, orientation].join('|');
