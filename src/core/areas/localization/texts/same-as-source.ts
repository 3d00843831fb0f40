/**
 * Translations that were left as the source has them. Whether that is meant cannot be seen, so that it is estimated:
 * words that are equal in both languages, names, numbers and units are not taken up.
 */
import type { CatalogueTextFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import { isLocaleTag, scriptOf } from '../../../model/locale.ts';
import type { Check } from '../../check.ts';
import { type Row, sourceForm, translations } from './catalogue.ts';
import { departure, textDraft } from './text-draft.ts';

export const sameAsSource = {
  id: 'same-as-source',
  area: 'localization',
  needs: ['package', 'catalogue-text'],
  *run(facts, intent) {
    let passed = 0;
    for (const { from, locale, row, text } of facts.once(translations, intent)) {
      if (
        text.text !== from.text ||
        isSameLanguage(locale, intent.sourceLocale) ||
        !looksForgotten(text, row, locale, intent)
      )
        passed += 1;
      else
        yield departure(
          textDraft(text, {
            locale,
            basis: 'estimated',
            severity: wordsOf(text.text).length,
            digest: text.text,
            data: { source: from.text },
          }),
        );
    }
    yield { outcome: 'passed', count: passed };
  },
} satisfies Check;

const isSameLanguage = (a: string, b: string): boolean => {
  const end = b.indexOf('-');
  const language = end < 0 ? b : b.slice(0, end);
  return a.startsWith(language) && (a.length === language.length || a[language.length] === '-');
};

/**
 * Two words or more, not all of them names; or a word in the letters of the source where the language writes others. One
 * word in the same letters may well be the same in both: "Ticket".
 */
function looksForgotten(text: CatalogueTextFact, row: Row, locale: string, intent: Intent): boolean {
  if (text.translatable === false || intent.untranslated.includes(text.key)) return false;
  const words = wordsOf(text.text);
  if (words.length === 0) return false;
  const others = row.byLocale.values().filter((texts) => {
    const other = texts[0]!.locale;
    const isOwn = other === 'default' || isSameLanguage(other, intent.sourceLocale);
    return !isOwn && !isSameLanguage(other, locale);
  });
  const alike = others.filter((texts) => sourceForm(texts, text.form).text === text.text).length;
  // what several languages leave is a name or a sign
  if (alike * 4 > others.length) return false;
  if (isOtherScript(locale, intent.sourceLocale))
    return words.some((word) => /^\p{L}\p{Ll}{2,}$/u.test(word));
  return words.slice(1).some((word) => /^\p{Ll}{3,}$/u.test(word));
}

const isOtherScript = (locale: string, source: string): boolean =>
  isLocaleTag(locale) && scriptOf(locale) !== scriptOf(source);

/** Words of letters, without what is filled in, addresses and markup. */
const wordsOf = (text: string): string[] =>
  text
    .replace(
      /%(\d+\$)?[-#+0,(']*\d*(\.\d+)?(ll|l)?[a-zA-Z@]|\{[^{}]*\}|<[^<>]*>|\S+@\S+|\S+\.\S+|\S+\/\S+/g,
      ' ',
    )
    .match(/\p{L}[\p{L}\p{M}'’-]*/gu) ?? [];
