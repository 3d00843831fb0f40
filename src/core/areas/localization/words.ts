import { type AreaWords, type DataValue, isFilled, quote, textsOf } from '../words.ts';

export const localizationWords: AreaWords = {
  'missing-translation': ({ key, locale, measured, source, textCount, wholeLocale }) =>
    wholeLocale
      ? {
          what: `No text at all in ${locale}`,
          measured: `0 of ${textCount} texts`,
          required: `${locale} is in the intent file's locales`,
          why: 'The package holds no resources for this language: left out of the build, or stripped by a resource filter.',
          remedy: `Add the texts of ${locale}, or take it out of fenlok.yaml.`,
        }
      : {
          what: `${key} is not translated into ${locale}`,
          measured: `no value; the user reads ${quote(String(source))}`,
          required: `a text of its own in ${locale}`,
          why: measured
            ? 'Other languages have this text, so it is meant to be translated.'
            : 'No language has this text: it may be the same everywhere on purpose.',
          remedy: measured
            ? `Translate ${key}, or remove it if it is no longer used.`
            : `Translate ${key}, or list it under "untranslated" in fenlok.yaml.`,
        },

  'placeholder-mismatch': ({ added, expected, form, found, key, locale, lost, retyped, source, text }) => ({
    what: `${key}${form ? ` (${form})` : ''} in ${locale} takes other arguments than its source`,
    measured: `${sayPlaceholders(found)} in ${quote(String(text))}`,
    required: `${sayPlaceholders(expected)} as in ${quote(String(source))}`,
    why: [
      isFilled(lost) && `${sayPlaceholders(lost)} is lost, so the user never sees that value.`,
      isFilled(added) && `${sayPlaceholders(added)} is given no value, so formatting throws.`,
      isFilled(retyped) &&
        `${sayPlaceholders(retyped)} has another type than in the source, so formatting throws or writes the number in another form.`,
    ]
      .filter(Boolean)
      .join(' '),
    remedy: `Put ${sayPlaceholders(expected)} into the ${locale} text, where its grammar wants them.`,
  }),

  'orphaned-locale': ({ fewest, locales, measured, sourceCount }) => {
    const names = textsOf(locales);
    return {
      what: `The package speaks ${names.length === 1 ? 'a language' : `${names.length} languages`} that nobody meant: ${names.slice(0, 8).join(', ')}${names.length > 8 ? ' …' : ''}`,
      measured: `${names.length > 1 ? 'as few as ' : ''}${fewest} of ${sourceCount} texts`,
      required: measured
        ? "only the intent file's locales"
        : 'most of the texts, in every language that ships',
      why: 'A library brought them along. The system takes the app to speak them, so people are shown a mixture of two languages.',
      remedy: `Keep only the languages that ship: resConfigs or localeFilters in the build${measured ? ', or add the language to "locales" in fenlok.yaml' : ''}.`,
    };
  },
};

/** `1:s` as the source writes it: `%1$s`. */
function sayPlaceholders(value: DataValue): string {
  const placeholders = textsOf(value);
  return placeholders.length > 0
    ? placeholders.map((placeholder) => `%${placeholder.replace(':', '$')}`).join(', ')
    : 'no placeholder';
}
