/** Language tags (BCP 47), as far as capture, intent and phone share them. */

// A pure function's answers: asking takes long, and a catalogue asks once for each of its texts.
const known = new Map<string, boolean>();
const MAX_KNOWN = 10_000;

/** Whether a tag is well-formed and its language is one that CLDR has a name for. */
export function isLocaleTag(tag: string): boolean {
  let is = known.get(tag);
  if (is === undefined) {
    is = hasName(tag);
    if (known.size < MAX_KNOWN) known.set(tag, is);
  }
  return is;
}

function hasName(tag: string): boolean {
  try {
    const { language } = new Intl.Locale(tag);
    return new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(language) !== undefined;
  } catch {
    return false;
  }
}

const RIGHT_TO_LEFT_SCRIPTS = ['Arab', 'Hebr', 'Syrc', 'Thaa', 'Nkoo', 'Adlm'];

/** Whether text of this locale runs from right to left, by its likely script (CLDR). */
export const isRightToLeft = (tag: string): boolean => RIGHT_TO_LEFT_SCRIPTS.includes(scriptOf(tag));

/** Whether both are of one language, whatever region or script follows: `pt` and `pt-BR`. */
export const isSameLanguage = (a: string, b: string): boolean => {
  const end = b.indexOf('-');
  const language = end < 0 ? b : b.slice(0, end);
  return a.startsWith(language) && (a.length === language.length || a[language.length] === '-');
};

/** The script that a locale is written in most likely (CLDR): `Latn`; empty where it is not known. */
export const scriptOf = (tag: string): string => new Intl.Locale(tag).maximize().script ?? '';

/** Languages that a tool makes up for tests, by the regions set aside for it: accented, mirrored, marked. */
export const isPseudoLocale = (tag: string): boolean => /-X[ABC]$/.test(tag);
