/**
 * Apple's string catalogues (`.xcstrings`, Apple, *Localizing and varying text with a string catalog*): JSON with all
 * languages of a table in one file.
 *
 *     strings › KEY › localizations › LOCALE › stringUnit › value
 *                                            › variations › plural › one … other › stringUnit › value
 *                                            › substitutions › NAME › variations › plural › …
 */
import type { Catalogue, CatalogueEntry } from '../../model/catalogue.ts';
import { type JsonLeaf, readJsonLeaves } from './json-events.ts';

export function readXcstrings(json: string, name: string): Catalogue {
  const { leaves, problems } = readJsonLeaves(json, name);
  const entries = new Map<string, CatalogueEntry>();
  const keep = new Set<string>();
  for (const leaf of leaves) {
    const [top, key, property] = leaf.path.map(String);
    if (top !== 'strings' || key === undefined) continue;
    if (property === 'shouldTranslate' && leaf.value === false) keep.add(key);
    if (property === 'localizations') takeValue(leaf, entries);
  }
  for (const entry of entries.values()) if (keep.has(entry.key)) entry.translatable = false;
  return {
    format: 'apple-xcstrings',
    syntax: 'printf-apple',
    entries: [...entries.values()],
    problems,
  };
}

function takeValue({ line, path, value }: JsonLeaf, entries: Map<string, CatalogueEntry>): void {
  const [, key, , locale, ...rest] = path.map(String) as [string, string, string, string, ...string[]];
  if (rest.at(-1) !== 'value' || rest.at(-2) !== 'stringUnit' || typeof value !== 'string') return;
  const plural = rest.indexOf('plural');
  const device = rest.indexOf('device');
  // the other devices say the same in their own words
  if (device >= 0 && rest[device + 1] !== 'other') return;
  const substitution = rest[0] === 'substitutions' ? `${rest[1]}/` : '';
  const form = plural < 0 ? '' : `${substitution}${rest[plural + 1]}`;
  const id = `${locale}\n${key}`;
  const entry = entries.get(id) ?? { key, locale, kind: 'text', forms: [], line };
  entries.set(id, entry);
  if (form !== '') {
    // the text around substitutions is only their frame
    if (entry.kind === 'text') entry.forms = [];
    entry.kind = 'plural';
  } else if (entry.kind === 'plural') return;
  entry.forms.push({ form, text: value, line });
}

/** All languages in one file. */
export function writeXcstrings(entries: readonly CatalogueEntry[], sourceLocale: string): string {
  const strings: Record<string, { shouldTranslate?: false; localizations: Record<string, unknown> }> = {};
  const unit = (value: string) => ({ stringUnit: { state: 'translated', value } });
  for (const { forms, key, kind, locale, translatable } of entries) {
    strings[key] ??= { ...(translatable === false && { shouldTranslate: false }), localizations: {} };
    strings[key].localizations[locale] =
      kind === 'plural'
        ? { variations: { plural: Object.fromEntries(forms.map(({ form, text }) => [form, unit(text)])) } }
        : unit(forms[0]?.text ?? '');
  }
  return `${JSON.stringify({ sourceLanguage: sourceLocale, strings, version: '1.0' }, null, 2)}\n`;
}
