const ESCAPES: Record<string, string> = {
  '&': '&amp;',
  '<': '&lt;',
  '>': '&gt;',
  '"': '&quot;',
  "'": '&#39;',
};

/** Text for HTML and XML, in content and in quoted attributes; characters that XML 1.0 forbids are shown as U+FFFD. */
export const escapeMarkup = (text: string): string =>
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '\ufffd')
    .replace(/[&<>"']/g, (c) => ESCAPES[c]!);
