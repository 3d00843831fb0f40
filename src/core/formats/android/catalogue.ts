/** The texts of a resource table, by key and language. */
import type { CatalogueText } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import type { Resource, ResourceTable, ResourceVariant } from './resource-table.ts';
import type { Span } from './string-pool.ts';

// Keys of plural bags (`ResTable_map::ATTR_OTHER` …). Those of lists are not used: packers begin to count at 0 or at 1.
const PLURAL_CATEGORY = new Map([
  [0x01000004, 'other'],
  [0x01000005, 'zero'],
  [0x01000006, 'one'],
  [0x01000007, 'two'],
  [0x01000008, 'few'],
  [0x01000009, 'many'],
]);

const TEXT_TYPES = new Set(['string', 'plurals', 'array']);

/** Languages that the table has texts in; values without a language are not among them. */
export function catalogueLocales(table: ResourceTable): string[] {
  const locales = new Set<string>();
  for (const resource of table.resources.values())
    if (TEXT_TYPES.has(resource.type)) for (const { locale } of resource.configs()) locales.add(locale);
  locales.delete('');
  return [...locales];
}

// All texts of the largest apps come to a few million characters; a table whose strings overlap could claim any number.
export const MAX_CHARACTERS = 32 * 2 ** 20;

/**
 * Every text of the types string, plurals and array, for each locale that has one of its own. A string's key is
 * its name; the others have their type before it, since `string/days` and `plurals/days` may stand side by side.
 */
export function catalogueTexts(table: ResourceTable): CatalogueText[] {
  const texts: CatalogueText[] = [];
  let characters = 0;
  for (const resource of table.resources.values())
    if (TEXT_TYPES.has(resource.type))
      for (const variant of firstOfEachLocale(resource, table))
        for (const text of textsOf(resource, variant)) {
          characters += text.text.length;
          if (characters > MAX_CHARACTERS)
            throw new UnreadableError({
              code: 'resources.too-large',
              place: `resource ${resource.type}/${resource.name}`,
              found: `more than ${MAX_CHARACTERS} characters of text`,
            });
          texts.push(text);
        }
  return texts;
}

/** A text may differ by more than language (night, screen size); the first that the packer wrote stands for its locale. */
function firstOfEachLocale(resource: Resource, table: ResourceTable): ResourceVariant[] {
  const byLocale = new Map<string, ResourceVariant>();
  for (const variant of resource.variants())
    if (!byLocale.has(variant.config.locale)) byLocale.set(variant.config.locale, followed(variant, table));
  // a source that is a text of the platform's cannot be held against anything here
  const isOthers = ({ content }: ResourceVariant) =>
    content.kind === 'value' && content.value.kind === 'reference' && content.value.id !== 0;
  const source = byLocale.get('');
  return source && isOthers(source) ? [] : [...byLocale.values()];
}

const MAX_STEPS = 20;

/** `@string/other` is that text in the same language, as the platform shows it. */
function followed(variant: ResourceVariant, table: ResourceTable): ResourceVariant {
  let { content } = variant;
  for (let step = 0; step < MAX_STEPS; step++) {
    if (content.kind !== 'value' || content.value.kind !== 'reference') break;
    const variants = table.resources.get(content.value.id)?.variants() ?? [];
    const next = variants.find(({ config }) => config.locale === variant.config.locale) ?? variants[0];
    if (!next) break;
    content = next.content;
  }
  return { ...variant, content };
}

function textsOf(resource: Resource, { config, content }: ResourceVariant): CatalogueText[] {
  const locale = config.locale || 'default';
  const key = resource.type === 'string' ? resource.name : `${resource.type}/${resource.name}`;
  if (content.kind === 'value')
    return content.value.kind === 'string' ? [{ key, locale, text: withTags(content.value) }] : [];
  return content.items.flatMap(({ name, value }, i) => {
    if (value.kind !== 'string') return [];
    const form = resource.type === 'plurals' ? (PLURAL_CATEGORY.get(name) ?? 'other') : String(i);
    return [{ key, locale, form, text: withTags(value) }];
  });
}

/** Runs of markup as the tags that they were: `font;color=#f00` is `<font color="#f00">`. */
function withTags({ spans, text }: { text: string; spans?: readonly Span[] }): string {
  if (!spans) return text;
  const tags = spans.flatMap(({ firstChar, lastChar, tag }) => {
    const [name = '', ...attributes] = tag.split(';');
    const said = attributes.map((attribute) => ` ${attribute.replace('=', '="')}"`).join('');
    return [
      // at one place the ends come first, those that began last before the others
      { at: firstChar, rank: 2 * text.length - lastChar, written: `<${name}${said}>` },
      { at: lastChar + 1, rank: -firstChar, written: `</${name}>` },
    ];
  });
  let out = '';
  let from = 0;
  for (const { at, written } of tags.sort((a, b) => a.at - b.at || a.rank - b.rank)) {
    out += text.slice(from, at) + written;
    from = Math.max(from, at);
  }
  return out + text.slice(from);
}
