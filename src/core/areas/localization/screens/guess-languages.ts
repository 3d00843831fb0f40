/**
 * Texts left in the source language, where no catalogue is at hand: by their letters, and by what captures in the source
 * language show. A name, a trade mark or a word that both languages share is the same in both, so only what reads like
 * words of a sentence is taken: two and more, one of them written small.
 */
import type { ScreenTextFact } from '../../../model/fact.ts';
import { isLocaleTag, isPseudoLocale, scriptOf } from '../../../model/locale.ts';
import type { FactIndex, IntentWith } from '../../check.ts';

interface GuessedText {
  fact: ScreenTextFact;
  /** `other-letters` than its language is written in; `same-words` as a capture in the source language shows. */
  why?: 'other-letters' | 'same-words';
}

/** Of all screens that are not in the source language. Use with `facts.once`. */
export function guessTexts(facts: FactIndex<'screen-text'>, { sourceLocale }: IntentWith): GuessedText[] {
  const texts = facts.of('screen-text').filter(({ cell, isField }) => isLocaleTag(cell.locale) && !isField);
  const isSource = ({ cell }: ScreenTextFact) => languageOf(cell.locale) === languageOf(sourceLocale);
  const shown = new Set(texts.filter(isSource).map(({ text }) => text.trim()));
  const sourceScript = scriptOf(sourceLocale);
  return texts
    .filter((fact) => !isSource(fact) && !isPseudoLocale(fact.cell.locale))
    .map((fact) => {
      if (!readsLikeWords(fact.text)) return { fact };
      if (isWrittenIn(fact.text, sourceScript) && !sharesScript(scriptOf(fact.cell.locale), sourceScript))
        return { fact, why: 'other-letters' };
      return shown.has(fact.text.trim()) ? { fact, why: 'same-words' } : { fact };
    });
}

const languageOf = (tag: string): string => tag.split('-')[0]!.toLowerCase();

// Scripts that stand for several, by CLDR's names.
const PARTS: Record<string, readonly string[]> = {
  Jpan: ['Han', 'Hiragana', 'Katakana'],
  Kore: ['Hangul'],
  Hans: ['Han'],
  Hant: ['Han'],
};

const sharesScript = (a: string, b: string): boolean =>
  a === b || (PARTS[a] ?? []).some((part) => PARTS[b]?.includes(part));

/** Every letter of it. */
function isWrittenIn(text: string, script: string): boolean {
  const letters = text.match(/\p{L}/gu) ?? [];
  const names = PARTS[script] ?? [script];
  const own = new RegExp(`^[${names.map((name) => `\\p{Script=${name}}`).join('')}]$`, 'u');
  return letters.length > 0 && letters.every((letter) => own.test(letter));
}

// An address, a file or a code is the same in each language.
const NO_WORDS = /[@/\\_<>{}=]|\.\w{2,}|\d{3}/;

/** Two words and more of which one is written small, as in a sentence and not as in a name. */
function readsLikeWords(text: string): boolean {
  if (NO_WORDS.test(text)) return false;
  const words = text.match(/\p{L}[\p{L}\p{M}'’-]+/gu) ?? [];
  const hasCase = /\p{Lu}|\p{Ll}/u.test(text);
  return words.length >= 2 && (!hasCase || words.some((word) => /^\p{Ll}{3,}/u.test(word)));
}
