/** Language tags (BCP 47), as far as capture, intent and phone share them. */

/** Whether a tag is well-formed and its language is one that CLDR has a name for. */
export function isLocaleTag(tag: string): boolean {
  try {
    const { language } = new Intl.Locale(tag);
    return new Intl.DisplayNames('en', { type: 'language', fallback: 'none' }).of(language) !== undefined;
  } catch {
    return false;
  }
}

const RIGHT_TO_LEFT_SCRIPTS = ['Arab', 'Hebr', 'Syrc', 'Thaa', 'Nkoo', 'Adlm'];

/** Whether text of this locale runs from right to left, by its likely script (CLDR). */
export const isRightToLeft = (tag: string): boolean =>
  RIGHT_TO_LEFT_SCRIPTS.includes(new Intl.Locale(tag).maximize().script ?? '');
