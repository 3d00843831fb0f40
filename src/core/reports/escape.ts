const ESCAPES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Characters that XML 1.0 forbids (section 2.2) are shown as U+FFFD. */
export const withoutControls = (text: string): string =>
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '\ufffd');

/** Text for XML, in content and in quoted attributes. */
export const escapeMarkup = (text: string): string =>
  withoutControls(text).replace(/[&<>"']/g, (c) => ESCAPES[c]!);

/**
 * Text for a terminal: what a package holds must not move the cursor, change colours or turn the order of what stands around it
 * (UAX 9, section 2: such characters are named instead). Line breaks become blanks.
 */
export const printableText = (text: string): string =>
  text
    .replace(/[\n\r\t\u2028\u2029]+/g, ' ')
    .replace(/\p{Cc}/gu, '\ufffd')
    .replace(
      /\p{Bidi_Control}/gu,
      (c) => `<U+${c.codePointAt(0)!.toString(16).toUpperCase().padStart(4, '0')}>`,
    );

/** The same for every text in plain data. */
export function printable<T>(value: T): T {
  if (typeof value === 'string') return printableText(value) as T;
  if (Array.isArray(value)) return value.map(printable) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, printable(inner)])) as T;
}
