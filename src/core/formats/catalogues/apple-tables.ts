/** Apple's `.strings` and `.stringsdict` tables as catalogues of one language. */
import type { Catalogue, CatalogueEntry } from '../../model/catalogue.ts';
import { parsePlistDict } from '../apple/plist.ts';
import { parseStrings } from '../apple/strings.ts';
import { readStringsdict } from '../apple/stringsdict.ts';
import { escapeXml } from './xml-events.ts';

export function readAppleStrings(bytes: Uint8Array, name: string, locale: string): Catalogue {
  const { pairs, problems } = parseStrings(bytes, name);
  const entries = pairs.map(
    ({ key, line, text }): CatalogueEntry => ({
      key,
      locale,
      kind: 'text',
      forms: [{ form: '', text, line }],
      line,
    }),
  );
  return { format: 'apple-strings', syntax: 'printf-apple', entries, problems };
}

export function readAppleStringsdict(bytes: Uint8Array, name: string, locale: string): Catalogue {
  const entries = new Map<string, CatalogueEntry>();
  for (const { form, key, text } of readStringsdict(parsePlistDict(bytes, name))) {
    const entry = entries.get(key) ?? { key, locale, kind: 'plural', forms: [] };
    entries.set(key, entry);
    entry.forms.push({ form, text });
  }
  return {
    format: 'apple-stringsdict',
    syntax: 'printf-apple',
    entries: [...entries.values()],
    problems: [],
  };
}

/** The texts; plurals go into the other file. */
export const writeAppleStrings = (entries: readonly CatalogueEntry[]): string =>
  entries
    .filter(({ kind }) => kind === 'text')
    .map(({ forms, key }) => `${quote(key)} = ${quote(forms[0]?.text ?? '')};\n`)
    .join('');

const quote = (text: string): string =>
  `"${text
    .replace(/[\\"]/g, '\\$&')
    .replaceAll('\n', '\\n')
    .replaceAll('\t', '\\t')
    .replaceAll('\r', '\\r')
    .replace(/[\u0000-\u001f\u007f]/g, (char) => `\\U${char.charCodeAt(0).toString(16).padStart(4, '0')}`)}"`;

/** The plurals, each over its first argument. */
export function writeAppleStringsdict(entries: readonly CatalogueEntry[]): string {
  const plurals = entries
    .filter(({ kind }) => kind === 'plural')
    .map(({ forms, key }) => {
      const rules = forms.map(({ form, text }) => pair(form, text));
      return `<key>${escapeXml(key)}</key>\n<dict>\n${pair('NSStringLocalizedFormatKey', '%#@value@')}<key>value</key>\n<dict>\n${pair('NSStringFormatSpecTypeKey', 'NSStringPluralRuleType')}${pair('NSStringFormatValueTypeKey', 'd')}${rules.join('')}</dict>\n</dict>\n`;
    });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<plist version="1.0">\n<dict>\n${plurals.join('')}</dict>\n</plist>\n`;
}

const pair = (key: string, text: string): string =>
  `<key>${escapeXml(key)}</key>\n<string>${escapeXml(text)}</string>\n`;
