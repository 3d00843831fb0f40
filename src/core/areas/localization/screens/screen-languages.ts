/** Texts on screens, each held against the catalogue of its language and against that of the source. */
import type { ScreenTextFact } from '../../../model/fact.ts';
import type { FactIndex, IntentWith } from '../../check.ts';
import { everyView, sourceOf, textsFor } from '../texts/catalogue.ts';
import { type TextMatcher, textMatcher, wordsIn } from './match-texts.ts';

interface ReadText {
  fact: ScreenTextFact;
  /**
   * `own`: from the catalogue of its language. `source`: from that of the source language, so left untranslated.
   * `data`: nothing to translate, as far as can be told. `hard-coded`: from no catalogue, in words of the source.
   */
  origin: 'own' | 'source' | 'data' | 'hard-coded';
  key?: string;
}

/** Use with `facts.once`. Without a catalogue nothing can be said. */
export function readTexts(
  facts: FactIndex<'screen-text' | 'catalogue-text'>,
  intent: IntentWith,
): ReadText[] {
  const views = facts.once(everyView, intent);
  const rows = views.flatMap((view) => view.rows);
  if (rows.length === 0) return [];
  const source = textMatcher(rows.flatMap((row) => sourceOf(row, intent) ?? []));
  const matchers = new Map<string, TextMatcher>();
  const matcherOf = (locale: string): TextMatcher => {
    const known = matchers.get(locale) ?? textMatcher(rows.flatMap((row) => textsFor(row, locale) ?? []));
    matchers.set(locale, known);
    return known;
  };
  return facts.of('screen-text').map((fact) => {
    const { locale } = fact.cell;
    const isSource = locale.split('-')[0] === intent.sourceLocale.split('-')[0];
    return readText(fact, isSource ? source : matcherOf(locale), source, isSource);
  });
}

function readText(fact: ScreenTextFact, own: TextMatcher, source: TextMatcher, isSource: boolean): ReadText {
  if (wordsIn(fact.text).length === 0) return { fact, origin: 'data' };
  const key = own.match(fact.text);
  if (key !== undefined) return { fact, origin: 'own', key };
  const left = isSource ? undefined : source.match(fact.text);
  if (left !== undefined) return { fact, origin: 'source', key: left };
  return { fact, origin: looksWritten(fact, source, own) ? 'hard-coded' : 'data' };
}

/**
 * A name is data, a sentence is not: at least three words, most of them words that the app's texts use. What a person
 * typed is data in any case.
 */
function looksWritten({ isField, text }: ScreenTextFact, source: TextMatcher, own: TextMatcher): boolean {
  if (isField) return false;
  const words = wordsIn(text).filter((word) => word.length > 1);
  const known = words.filter((word) => source.words.has(word) || own.words.has(word)).length;
  return words.length >= 3 && known >= words.length * 0.6;
}
