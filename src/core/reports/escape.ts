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

/** Text for a terminal: what a package holds must not move the cursor or change colours. Line breaks become blanks. */
export const printableText = (text: string): string =>
  text.replace(/[\n\r\t]+/g, ' ').replace(/\p{Cc}/gu, '\ufffd');

/** The same for every text in plain data. */
export function printable<T>(value: T): T {
  if (typeof value === 'string') return printableText(value) as T;
  if (Array.isArray(value)) return value.map(printable) as T;
  if (typeof value !== 'object' || value === null) return value;
  return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, printable(inner)])) as T;
}
