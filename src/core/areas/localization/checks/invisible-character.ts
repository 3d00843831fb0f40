import { z } from 'zod';
import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import { defineCheck } from '../../check.ts';
import { languageOf, sourceBeside } from '../texts/catalogue.ts';
import { formatCharacter, isDirectionBalanced, isDirectionControl } from '../texts/invisible-characters.ts';
import { ownTexts } from '../texts/own-texts.ts';
import { textDraft, textPlaceShape, toAssertion } from '../texts/text-draft.ts';
import { foundAt, keyForm } from '../words.ts';

const dataSchema = z.strictObject({
  ...textPlaceShape,
  characters: z.array(z.string()),
  unbalanced: z.boolean(),
});

/** A text holds no character that nobody sees, except those that its language needs or that its source has too. */
export const invisibleCharacter = defineCheck({
  id: 'invisible-character',
  area: 'localization',
  priority: 'harder',
  standard: 'Unicode Standard, 23.2 Layout Controls; UAX 9',
  basis: 'measured',
  needs: 'package',
  reads: ['catalogue-text'],
  data: dataSchema,
  words: ({ characters, unbalanced, ...place }) => ({
    what: `${keyForm(place)} in ${place.locale} holds a character that nobody sees`,
    measured: `${characters.join(', ')}${foundAt(place)}`,
    required: 'only characters that the language needs',
    why: unbalanced
      ? 'A control of direction that is not ended turns what comes after it around.'
      : 'It was copied with the text: it breaks search and comparison, and screen readers may read it out.',
    remedy: unbalanced ? 'End it, or delete it.' : 'Delete it.',
  }),

  *run(facts, intent) {
    let passed = 0;
    for (const text of facts.once(ownTexts, intent)) {
      const strange = text.invisible
        ? strangeCharacters(text, sourceBeside(text, facts, intent), languageOf(text, intent))
        : [];
      if (strange.length === 0) {
        passed += 1;
        continue;
      }
      const characters = strange.map(formatCharacter);
      yield toAssertion(
        textDraft(text, {
          locale: languageOf(text, intent),
          severity: 1,
          digest: characters.join(),
          data: { characters, unbalanced: !isDirectionBalanced(text.text) },
        }),
      );
    }
    yield { outcome: 'passed', count: passed };
  },

  doc: {
    looksAt: 'Zero-width, control and direction characters',
    against: 'Only where the language needs them or the source has them',
    matters:
      'It breaks search and comparison, and a control of direction that is not ended turns the rest of the line around.',
    measured:
      'Zero-width, control and direction characters that neither the language needs nor the source has.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Any',
        language: 'text',
        code: 'Delete the character that the finding names by its code point, such as U+200B.',
      },
    ],
  },
});

// Scripts in which the joiners change how letters are drawn.
const JOINED =
  /[\p{sc=Arabic}\p{sc=Devanagari}\p{sc=Bengali}\p{sc=Gujarati}\p{sc=Gurmukhi}\p{sc=Kannada}\p{sc=Malayalam}\p{sc=Oriya}\p{sc=Sinhala}\p{sc=Tamil}\p{sc=Telugu}\p{sc=Khmer}\p{sc=Myanmar}\p{sc=Mongolian}\p{Extended_Pictographic}]/u;
// It marks where a line may break in scripts without blanks.
const NO_BLANKS =
  /[\p{sc=Thai}\p{sc=Lao}\p{sc=Khmer}\p{sc=Myanmar}\p{sc=Han}\p{sc=Hiragana}\p{sc=Katakana}]/u;

function strangeCharacters(
  fact: CatalogueTextFact,
  source: readonly CatalogueTextFact[],
  locale: string,
): string[] {
  const { invisible = [], text } = fact;
  const isRtl = () => isLocaleTag(locale) && isRightToLeft(locale);
  const isMeant = (char: string): boolean => {
    if (char === '\ufffd') return false;
    if (source.some((of) => of !== fact && of.text.includes(char))) return true;
    if (char === '\u200c' || char === '\u200d') return JOINED.test(text);
    if (char === '\u200b') return NO_BLANKS.test(text);
    if (char === '\u200e' || char === '\u200f') return isRtl();
    return isDirectionControl(char) && isDirectionBalanced(text) && (/[%{]/.test(text) || isRtl());
  };
  return invisible.filter((char) => !isMeant(char));
}
