/** Escapes that come out wrong: what the platform drops while it reads the file, and what is left over for the user to see. */

import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Draft, FactIndex, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { languageOf, sourceBeside, translationsBeside } from '../texts/catalogue.ts';
import { ownTexts } from '../texts/own-texts.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.union([
  z.strictObject({ ...textPlaceShape, fault: z.literal('swallowed'), swallowed: z.array(z.string()) }),
  z.strictObject({ ...textPlaceShape, fault: z.literal('left-over'), escape: z.string() }),
]);
type Data = z.infer<typeof dataSchema>;

export const swallowedEscape = defineCheck({
  id: 'swallowed-escape',
  area: 'localization',
  priority: 'harder',
  standard: 'Android developers, String resources, “Handle special characters”',
  basis: 'either',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: (data) =>
    data.fault === 'swallowed'
      ? {
          what: `${keyForm(data)} in ${data.locale} loses characters when it is packed`,
          measured: `${data.swallowed.join(' and ')} dropped: ${quote(data.text)}${foundAt(data)}`,
          required: 'every character escaped as the platform wants it',
          why: 'The packer drops a bare apostrophe or an unknown escape, or refuses the file.',
          remedy: `Write ${data.swallowed
            .map((characters) => (characters === "'" ? "\\' for '" : `\\${characters} for ${characters}`))
            .join(', ')}, or put the text into double quotes.`,
        }
      : {
          what: `${keyForm(data)} in ${data.locale} shows an escape to the user`,
          measured: `${data.escape} in ${quote(data.text)}${foundAt(data)}`,
          required: 'the character itself',
          why: 'It was escaped twice on its way here, so that one escape is left.',
          remedy: `Write the character in place of ${data.escape}.`,
        },

  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const draft =
        text.swallowed || text.escape
          ? judgeText(text, othersBeside(text, facts, intent), languageOf(text, intent))
          : undefined;
      if (draft) yield toAssertion(draft);
      else passed += 1;
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'What the packer drops (in catalogue files), and escapes that are left for the user to see',
    against: 'None of either',
    matters: 'An apostrophe is missing, or people read a backslash.',
    measured: 'What the packer drops in catalogue files, and escapes that are left for people to see.',
    errs: 'Nothing known.',
    fixes: [
      { where: 'strings.xml', language: 'xml', code: '<string name="dont">Don\\\'t show again</string>' },
    ],
  },
});

/** For a translation its source, for the source its translations. */
function othersBeside(
  text: CatalogueTextFact,
  facts: FactIndex<'catalogue-text'>,
  intent: IntentWith,
): CatalogueTextFact[] {
  const source = sourceBeside(text, facts, intent);
  return source.includes(text) ? translationsBeside(text, facts, intent) : source;
}

/** It stands alone, between blanks, quotes or brackets, as where people are told what to type. */
function isMention({ escape: written = '', text }: CatalogueTextFact): boolean {
  const at = text.indexOf(written);
  const [before = ' ', after = ' '] = [text[at - 1], text[at + written.length]];
  return written.startsWith('\\') && MENTION_EDGE.test(before) && MENTION_EDGE.test(after);
}

const MENTION_EDGE = /[\s"'`‘’“”«»„(),]/;

function judgeText(
  text: CatalogueTextFact,
  others: readonly CatalogueTextFact[],
  locale: string,
): Draft<Data> | undefined {
  if (text.swallowed)
    return textDraft(text, {
      locale,
      severity: 2,
      digest: `swallowed ${text.swallowed.join(' ')}`,
      data: { fault: 'swallowed', swallowed: text.swallowed },
    });
  // where it stands beside markup, or on both sides, the app resolves it itself
  if (text.tags || others.some((of) => of.escape)) return undefined;
  return textDraft(text, {
    locale,
    ...(isMention(text) && { basis: 'estimated' as const }),
    severity: 1,
    digest: `left ${text.escape}`,
    data: { fault: 'left-over', escape: text.escape! },
  });
}
