import type { CatalogueTextFact } from '../../../model/fact.ts';
import { isLocaleTag, isRightToLeft } from '../../../model/locale.ts';
import type { Check } from '../../check.ts';
import { languageOf, sourceBeside } from './catalogue.ts';
import { isDirectionBalanced, isDirectionControl, sayCharacter } from './invisible-characters.ts';
import { ownTexts } from './own-texts.ts';
import { departure, textDraft } from './text-draft.ts';

/** A text holds no character that nobody sees, except those that its language needs or that its source has too. */
export const invisibleCharacter = {
  id: 'invisible-character',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
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
      const characters = strange.map(sayCharacter);
      yield departure(
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
} satisfies Check;

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
