/** Language tags (BCP 47), as far as capture, intent and phone share them. */

export function isLocaleTag(tag: string): boolean {
  try {
    return Intl.getCanonicalLocales(tag).length === 1 && /^[a-z]{2,3}(-|$)/i.test(tag);
  } catch {
    return false;
  }
}

const RIGHT_TO_LEFT_SCRIPTS = ['Arab', 'Hebr', 'Syrc', 'Thaa', 'Nkoo', 'Adlm'];

/** Whether text of this locale runs from right to left, by its likely script (CLDR). */
export const isRightToLeft = (tag: string): boolean =>
  RIGHT_TO_LEFT_SCRIPTS.includes(new Intl.Locale(tag).maximize().script ?? '');
