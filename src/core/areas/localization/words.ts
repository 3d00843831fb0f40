import type { FindingData, Words } from '../../model/finding.ts';
import { type AreaWords, type DataValue, isFilled, quote, round, textsOf } from '../words.ts';

export const localizationWords: AreaWords = {
  'missing-translation': ({ doubt, key, locale, measured, source, textCount, wholeLocale }) =>
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
            : doubt === 'left'
              ? 'The languages that have this text leave it as the source has it: it may be a name.'
              : doubt === 'code'
                ? 'It looks like a value for the code, and not like a text for people.'
                : 'No language has this text: it may be the same everywhere on purpose.',
          remedy: measured
            ? `Translate ${key}, or remove it if it is no longer used.`
            : `Translate ${key}, or list it under "untranslated" in fenlok.yaml.`,
        },

  'placeholder-mismatch': (data) => {
    const { form, key, locale, source, swapped, syntax, text } = data;
    const [expected, found, added, lost, retyped] = ['expected', 'found', 'added', 'lost', 'retyped'].map(
      (name) => sayPlaceholders(data[name], syntax),
    ) as [string, string, string, string, string];
    return {
      what: `${keyForm(key, form)} in ${locale} takes other arguments than its source`,
      measured: `${found} in ${quote(String(text))}`,
      required: `${expected} as in ${quote(String(source))}`,
      why: swapped
        ? 'The placeholders stand in another order and bear no numbers, so each gets the value of another.'
        : [
            isFilled(data.lost) && `${lost} is lost, so the user never sees that value.`,
            isFilled(data.added) && `${added} is given no value, so formatting throws.`,
            isFilled(data.retyped) &&
              `${retyped} has another type than in the source, so formatting throws or writes the number in another form.`,
          ]
            .filter(Boolean)
            .join(' '),
      remedy: swapped
        ? `Number them, here and in the source: ${expected}.`
        : `Put ${expected} into the ${locale} text, where its grammar wants them.`,
    };
  },

  'extra-translation': ({ fromFiles, key, locales, platform, text }) => ({
    what: `${key} is translated, and the source language does not have it`,
    measured: `only in ${someOf(textsOf(locales))}: ${quote(String(text))}`,
    required: 'a source text for every key',
    why:
      platform === 'android'
        ? 'On a device in any other language the app crashes where it asks for it.'
        : 'Users of every other language see the bare key, if anything asks for it.',
    remedy: `Add the source text, or delete ${key}${fromFiles ? ' from these files' : ''}: it is mostly left over from a text that was renamed.`,
  }),

  'empty-translation': ({ form, key, locale, source }) => ({
    what: `${keyForm(key, form)} is empty in ${locale}`,
    measured: 'no character that can be seen',
    required: `a text for ${quote(String(source))}`,
    why: 'An empty text counts as translated, so nothing falls back to the source: the user sees a gap.',
    remedy: 'Translate it, or delete the entry so that the source shows until it is.',
  }),

  'same-as-source': ({ form, key, locale, source }) => ({
    what: `${keyForm(key, form)} in ${locale} is word for word the source`,
    measured: quote(String(source)),
    required: `a text in ${locale}`,
    why: 'It reads like a sentence of the source language, and other languages did translate it.',
    remedy: `Translate it; or list ${key} under "untranslated" in fenlok.yaml, where it is the same on purpose.`,
  }),

  'message-syntax': ({ excerpt, fault, form, key, locale, syntax, text }) => {
    const [why, remedy] = sayFault(String(fault), String(syntax));
    return {
      what: `${keyForm(key, form)} in ${locale} cannot be formatted as it stands`,
      measured: `${quote(String(excerpt))} in ${quote(String(text))}`,
      required: 'whole placeholders',
      why,
      remedy,
    };
  },

  'plural-forms': ({ category, examples, fault, has, key, lacksOther, locale, missing, numbers, text }) =>
    fault === 'missing'
      ? {
          what: `${key} in ${locale} lacks the plural ${textsOf(missing).length === 1 ? 'form' : 'forms'} ${textsOf(missing).join(', ')}`,
          measured: `only ${textsOf(has).join(', ')}`,
          required: `${textsOf(examples).join('; ') || 'other, for all numbers that no other form is for'} (CLDR)`,
          why: lacksOther
            ? 'Without "other" there is nothing to fall back to: Android throws, iOS shows the key.'
            : 'For these numbers the app falls back to "other", which is wrong grammar in this language.',
          remedy: `Add a text for ${textsOf(missing).join(' and ')} to ${key} in ${locale}.`,
        }
      : {
          what: `${key} in ${locale} leaves the number out of "${category}", which is not one number`,
          measured: `no placeholder for the number in ${quote(String(text))}`,
          required: `the number in it: "${category}" is said for ${textsOf(numbers).join(', ')} … (CLDR)`,
          why: `At ${textsOf(numbers).at(-1)} the user reads ${quote(String(text))}.`,
          remedy: 'Put the placeholder of the number back in.',
        },

  'markup-mismatch': ({ added, excerpt, fault, form, key, locale, lost, source, text }) =>
    fault === 'differing'
      ? {
          what: `${keyForm(key, form)} in ${locale} bears other markup than its source`,
          measured: `${[isFilled(lost) && `lost ${sayTags(lost)}`, isFilled(added) && `added ${sayTags(added)}`].filter(Boolean).join(', ')} in ${quote(String(text))}`,
          required: `the markup of ${quote(String(source))}`,
          why: 'What was bold or a link in the source is plain here, and a link that is gone cannot be tapped.',
          remedy: 'Set the tags around the words that they belong to.',
        }
      : {
          what: `${keyForm(key, form)} in ${locale} has markup that is not ${fault === 'unclosed-tag' ? 'closed' : 'opened'}`,
          measured: `${quote(String(excerpt))} in ${quote(String(text))}`,
          required: 'an end for every tag',
          why: 'What renders it shows the tag as text, or styles everything up to the end.',
          remedy: `${fault === 'unclosed-tag' ? 'Close' : 'Open or delete'} ${excerpt}.`,
        },

  'swallowed-escape': ({ escape: found, fault, form, key, locale, swallowed, text }) =>
    fault === 'swallowed'
      ? {
          what: `${keyForm(key, form)} in ${locale} loses characters when it is packed`,
          measured: `${textsOf(swallowed).join(' and ')} dropped: ${quote(String(text))}`,
          required: 'every character escaped as the platform wants it',
          why: 'The packer drops a bare apostrophe or an unknown escape, or refuses the file.',
          remedy: `Write ${textsOf(swallowed)
            .map((characters) => (characters === "'" ? "\\' for '" : `\\${characters} for ${characters}`))
            .join(', ')}, or put the text into double quotes.`,
        }
      : {
          what: `${keyForm(key, form)} in ${locale} shows an escape to the user`,
          measured: `${found} in ${quote(String(text))}`,
          required: 'the character itself',
          why: 'It was escaped twice on its way here, so that one escape is left.',
          remedy: `Write the character in place of ${found}.`,
        },

  'stray-space': ({ fault, form, key, locale, text }) => ({
    what: `${keyForm(key, form)} in ${locale} ${{ leading: 'begins with a blank', trailing: 'ends with a blank', doubled: 'has two blanks in a row', lost: 'has lost the blank at its edge' }[String(fault)]}`,
    measured: quote(String(text).replaceAll(' ', '␣').replaceAll('\u00a0', '⍽').replaceAll('\n', '⏎')),
    required: 'the edges of the source',
    why:
      fault === 'lost'
        ? 'The source ends with a blank because something is joined to it: here the two run together.'
        : 'It shifts centred text, breaks comparisons, and shows as a gap.',
    remedy:
      fault === 'lost' ? 'Put the blank back, in quotes where the format needs it.' : 'Delete the blank.',
  }),

  'mixed-script': ({ form, key, letters, locale, word }) => ({
    what: `${keyForm(key, form)} in ${locale} has letters of two scripts in one word`,
    measured: `${quote(String(word))}: ${textsOf(letters).join(', ')}`,
    required: 'letters of one script in a word',
    why: 'They look the same, but search, sorting, line breaks and screen readers take them for others.',
    remedy: 'Type the word anew on the keyboard of its language.',
  }),

  'invisible-character': ({ characters, form, key, locale, unbalanced }) => ({
    what: `${keyForm(key, form)} in ${locale} holds a character that nobody sees`,
    measured: textsOf(characters).join(', '),
    required: 'only characters that the language needs',
    why: unbalanced
      ? 'A control of direction that is not ended turns what comes after it around.'
      : 'It came along by copying: it breaks search and comparison, and screen readers may read it out.',
    remedy: unbalanced ? 'End it, or delete it.' : 'Delete it.',
  }),

  'text-growth': ({ allowed, factor, form, key, locale, source, text }) => ({
    what: `${keyForm(key, form)} is ${round(factor)} times as wide in ${locale} as in the source`,
    measured: `× ${round(factor)}, ${quote(String(text))} for ${quote(String(source))}`,
    required: `up to × ${round(allowed)}, by the length of the source (W3C, Text size in translation)`,
    why: 'The width is estimated from the letters. A label made for the source cuts or wraps it.',
    remedy: 'Look at the screen in this language. Let the label grow, or ask for a shorter text.',
  }),

  'duplicate-key': ({ first, firstLine, form, key, last, line, locale }) => ({
    what: `${keyForm(key, form)} stands twice in ${locale}`,
    measured: `${quote(String(first))}${firstLine ? ` in line ${firstLine}` : ''} and ${quote(String(last))}${line ? ` in line ${line}` : ''}`,
    required: 'one text for a key',
    why: 'The platform takes one of them and says nothing, so a correction of the other never shows.',
    remedy: 'Delete the one that is out of date.',
  }),

  'list-length': ({ expected, found, key, locale }) => ({
    what: `The list ${key} has ${found} texts in ${locale}, and ${expected} in the source`,
    measured: `${found} texts`,
    required: `${expected} texts`,
    why:
      Number(found) < Number(expected)
        ? 'Code that takes a text by its place reaches past the end, and crashes.'
        : 'The texts at the end are never shown, or one in the middle moves all others.',
    remedy: 'Give the list the same texts in the same order.',
  }),

  'undeclared-locale': ({ declared, fault, locale, platform }) => {
    const list = platform === 'ios' ? 'CFBundleLocalizations' : 'the locale configuration';
    return fault === 'promised'
      ? {
          what: `The package says that it speaks ${locale}, and holds no text in it`,
          measured: `${list}: ${textsOf(declared).join(', ')}`,
          required: 'only languages that the package has texts in',
          why: 'Users can choose the language in the system settings, and then read the source language.',
          remedy: `Take ${locale} out of ${list}, or add its texts.`,
        }
      : {
          what: `The package holds texts in ${locale} and does not say so`,
          measured: `${list}: ${textsOf(declared).join(', ')}`,
          required: 'every intended language',
          why: 'It is missing from the list of languages in the system settings of the app.',
          remedy: `Add ${locale} to ${list}.`,
        };
  },

  'untranslated-on-screen': ({ key, locale, source, spoken, text, why }) => ({
    what: `${quote(String(text))} ${why ? 'seems to be' : 'is'} ${spoken ? 'spoken' : 'shown'} in ${source} on a screen in ${locale}`,
    measured:
      why === 'other-letters'
        ? `no letter that ${locale} is written in`
        : why
          ? `the same words on a screen in ${source}`
          : `word for word the ${source} text of ${key}`,
    required: why ? `the text in ${locale}` : `the text of ${key} in ${locale}`,
    why: why
      ? 'It reads like words and not like a name. There is no catalogue to hold it against: add the package or its catalogues, and it is sure.'
      : 'It is made of the source text: the translation is missing, was not loaded, or the code holds a text of its own.',
    remedy: `Look the text up by its key at run time, in the language of the app, and check that ${locale} has it.`,
  }),

  'language-split': ({ locales }) => ({
    what: 'The store delivers the languages of the device alone, and the app offers others',
    measured: `the bundle is split by language, and the locale configuration offers ${textsOf(locales).join(', ')}`,
    required: 'all languages at once, or code that fetches the one that is chosen',
    why: 'Who chooses a language inside the app may get the source language instead: its texts are not on the device.',
    remedy:
      'Set bundle { language { enableSplit = false } } in the build, or fetch the language with SplitInstallManager; if the app does so, rule this a false alarm.',
  }),

  'no-mirroring': ({ locales }) => ({
    what: `The app is never laid out from right to left, and ${textsOf(locales).join(', ')} ${textsOf(locales).length === 1 ? 'runs' : 'run'} that way`,
    measured: 'no android:supportsRtl="true", or target SDK below 17',
    required: 'android:supportsRtl="true" on <application>',
    why: 'Texts run from the right while everything around them stays as it is for English: rows, arrows and gestures are the wrong way round.',
    remedy: 'Set android:supportsRtl="true", and look at each screen in one of these languages.',
  }),

  'text-in-layout': ({ layout, part, platform, text, view }) => ({
    what: `${quote(String(text))} stands in a layout, where no translation reaches it`,
    measured: `the ${part} of ${view} in ${layout}`,
    required: 'a text of the catalogue',
    why: 'Unless code puts another text there, everybody reads it in this language.',
    remedy:
      platform === 'ios'
        ? 'Localize the interface file (Base), so that its texts come from tables, or set the text in code.'
        : 'Move it into strings.xml and refer to it; what is only for the preview belongs under tools:text.',
  }),

  'side-in-layout': ({ attributes, layout, view }) => ({
    what: `A layout names left or right: ${view}`,
    measured: `${textsOf(attributes).join(', ')} in ${layout}`,
    required: 'start and end',
    why: 'In languages that run from right to left it stays on the side that it was put on.',
    remedy: 'Write Start for Left and End for Right; keep the other one where a side is really meant.',
  }),

  'hard-coded-text': ({ locale, text }) => ({
    what: `${quote(String(text))} comes from no catalogue`,
    measured: `no text in ${locale} or in the source that it could be made from, and words that the app's texts use`,
    required: 'every text from a catalogue',
    why: 'It reads like a sentence of the app and not like a name or data, so it seems to stand in the code, where no translator sees it.',
    remedy: 'Move it into the catalogue; where it is data, rule it a false alarm.',
  }),

  'cut-text': ({ locale, text, textScale }) => ({
    what: `${quote(String(text))} is cut off in ${locale}${Number(textScale) === 1 ? '' : ` at ${Number(textScale) * 100} % text size`}`,
    measured: 'the picture ends it in three dots, the text itself does not',
    required: 'the whole text',
    why: 'People cannot read the end of it.',
    remedy: 'Let it wrap onto another line or grow, or ask for a shorter text.',
  }),

  'not-mirrored': (data, { identity, occurrences }) =>
    data.what === undefined
      ? mirroredWords(data)
      : sideWords(data, occurrences[0]!.shown || identity.subject),

  'orphaned-locale': ({ fewest, locales, measured, sourceCount }) => {
    const names = textsOf(locales);
    return {
      what: `The package speaks ${names.length === 1 ? 'a language' : `${names.length} languages`} that nobody meant: ${someOf(names)}`,
      measured: `${names.length > 1 ? 'as few as ' : ''}${fewest} of ${sourceCount} texts`,
      required: measured
        ? "only the intent file's locales"
        : 'most of the texts, in every language that ships',
      why: 'A library brought them along. The system takes the app to speak them, so people are shown a mixture of two languages.',
      remedy: `Keep only the languages that ship: resConfigs or localeFilters in the build${measured ? ', or add the language to "locales" in fenlok.yaml' : ''}.`,
    };
  },
};

/** The first few. */
const someOf = (names: readonly string[]): string =>
  `${names.slice(0, 8).join(', ')}${names.length > 8 ? ' …' : ''}`;

const keyForm = (key: DataValue, form: DataValue): string => `${key}${form ? ` (${form})` : ''}`;

const sayTags = (tags: DataValue): string =>
  textsOf(tags)
    .map((tag) => `<${tag}>`)
    .join(' ');

/** `1:s` as the text writes it: `%1$s`; in ICU `name:text` is `{name}`. */
function sayPlaceholders(value: DataValue, syntax: DataValue): string {
  const placeholders = textsOf(value);
  if (placeholders.length === 0) return 'no placeholder';
  return placeholders
    .map((placeholder) => {
      const [name = '', conversion = ''] = placeholder.split(':');
      if (syntax === 'i18next') return name.startsWith('$t(') ? name : `{{${name}}}`;
      if (syntax === 'icu' || syntax === 'braces') return `{${name}}`;
      return /^\d+$/.test(name) ? `%${name}$${conversion}` : `%(${name})${conversion}`;
    })
    .join(', ');
}

const FORMATTERS: Record<string, string> = {
  'printf-apple': 'NSString',
  'printf-c': 'printf',
  'percent-python': 'Python',
};

/** Why a fault of syntax matters, and what to do. */
function sayFault(fault: string, syntax: string): [why: string, remedy: string] {
  switch (fault) {
    case 'unclosed-placeholder':
      return [
        'The placeholder ends before it says what it is, so formatting throws.',
        'Write it whole, as %1$s or %1$d.',
      ];
    case 'unknown-conversion':
      return [
        `${FORMATTERS[syntax] ?? 'java.util.Formatter'} knows no such conversion, so formatting throws or shows it as it is.`,
        syntax === 'printf-apple'
          ? 'Write one that it knows: @, d or f.'
          : 'Write one that it knows: s, d or f.',
      ];
    case 'bare-percent':
      return [
        'The text is formatted, since it has placeholders: a percent sign alone is taken for the beginning of one.',
        'Write %% for a percent sign.',
      ];
    case 'unclosed-brace':
      return ['The brace is never closed, so that the message cannot be read at all.', 'Close it.'];
    case 'unopened-brace':
      return ['The brace closes nothing.', "Delete it, or quote it as '}'."];
    case 'bad-argument-name':
      return [
        'The name of an argument may hold letters, digits and _ alone: formatters refuse the whole message.',
        'Give the argument another name, here and in the code.',
      ];
    case 'choice-without-other':
      return [
        'A choice without "other" has no text for values that it does not name, and is refused.',
        'Add other {…}.',
      ];
    case 'quoted-placeholder':
      return [
        'An apostrophe before a brace quotes what follows, so that the user sees the name of the argument.',
        "Write '' for an apostrophe, or take the quotes away.",
      ];
    default:
      return [
        'Formatters refuse it, or show it as it is.',
        'Write the argument as {name}, or {name, number}.',
      ];
  }
}

/** Held against the same screen in the source language. */
const mirroredWords = ({ astray, elements, isWhole, mirrored, twin }: FindingData): Words => ({
  what: isWhole
    ? 'The screen is not mirrored for a language that runs from right to left'
    : `${someOf(textsOf(elements))} ${textsOf(elements).length === 1 ? 'stands' : 'stand'} where it does in left-to-right languages`,
  measured: `${astray} unmoved and ${mirrored} mirrored elements, against ${twin}`,
  required: 'start and end exchanged',
  why: isWhole
    ? 'Reading and layout run against each other.'
    : 'The others are mirrored. Some things stay as they are on purpose: numbers, controls of a player.',
  remedy: 'Use start and end in place of left and right, and let the layout follow the language.',
});

const MIRROR_REMEDY =
  'Use start and end in place of left and right, and let drawings that point follow the language (autoMirrored, or flipsForRightToLeftLayoutDirection).';

/** What the screen tells by itself. */
const sideWords = ({ astray, edge, elements, points, right, what }: FindingData, shown: string): Words =>
  what === 'arrow'
    ? {
        what: `The arrow ${quote(shown)} points ${points} at the ${edge} edge`,
        measured: 'its drawing, in the picture',
        required: 'arrows that point the way the language runs',
        why: 'In a language that runs from right to left, back points to the right and on to the left. This one leads into the screen, as if only its place had been mirrored.',
        remedy: MIRROR_REMEDY,
      }
    : {
        what: 'The screen seems not to be mirrored for a language that runs from right to left',
        measured: `${astray} texts begin at the left with nothing to their right (${someOf(textsOf(elements))}), ${right} stand at the right`,
        required: 'start and end exchanged',
        why: 'There is no capture of it in the source language to hold it against, so this is told from the screen alone; one capture in the source language makes it sure.',
        remedy: MIRROR_REMEDY,
      };
