/** Names of resource folders: `values-b+sr+Latn-land-xxhdpi` (Android developers, *App resources overview*, table 2). */
import {
  ANY_CONFIG,
  DENSITY_BY_NAME,
  localeFields,
  localeFieldsOf,
  type ResourceConfig,
  WORDS,
} from './resource-config.ts';

const WORD_FIELDS = Object.keys(WORDS) as (keyof typeof WORDS)[];
const FIELD_OF_WORD = new Map(
  WORD_FIELDS.filter((field) => field !== 'layoutDirection' && field !== 'night').flatMap((field) =>
    WORDS[field].filter(Boolean).map((word): [string, keyof typeof WORDS] => [word, field]),
  ),
);

const NUMBER_PATTERNS: [RegExp, keyof ResourceConfig][] = [
  [/^mcc(\d{1,3})$/, 'mcc'],
  [/^mnc(\d{1,3})$/, 'mnc'],
  [/^sw(\d+)dp$/, 'smallestWidthDp'],
  [/^w(\d+)dp$/, 'widthDp'],
  [/^h(\d+)dp$/, 'heightDp'],
  [/^(\d+)dpi$/, 'density'],
];

/** The configuration that qualifiers stand for, in any order; undefined where one of them is none. `''` is the default. */
export function parseConfig(qualifiers: string): ResourceConfig | undefined {
  const config = { ...ANY_CONFIG };
  for (const part of qualifiers.split('-').filter(Boolean)) if (!take(part, config)) return undefined;
  return config;
}

function take(part: string, config: ResourceConfig): boolean {
  const fields = fieldsOf(part, config);
  if (fields) Object.assign(config, fields);
  return fields !== undefined;
}

function fieldsOf(part: string, config: ResourceConfig): Partial<ResourceConfig> | undefined {
  const word = FIELD_OF_WORD.get(part);
  if (word) return { [word]: part };
  if (part === 'night' || part === 'notnight') return { night: part === 'night' ? 'yes' : 'no' };
  if (part === 'ldltr' || part === 'ldrtl') return { layoutDirection: part === 'ldrtl' ? 'rtl' : 'ltr' };
  if (part === 'mnc00') return { mnc: 0xffff };
  const density = DENSITY_BY_NAME.get(part);
  if (density !== undefined) return { density };
  for (const [pattern, field] of NUMBER_PATTERNS) {
    const match = pattern.exec(part);
    if (match) return { [field]: Number(match[1]) };
  }
  const version = /^v(\d+)(?:\.(\d+))?$/.exec(part);
  if (version) return { sdkVersion: Number(version[1]), minorVersion: Number(version[2] ?? 0) };
  const pixels = /^(\d+)x(\d+)$/.exec(part);
  if (pixels) return { widthPx: Number(pixels[1]), heightPx: Number(pixels[2]) };
  return localeOf(part, config);
}

/** `de`, then `rAT`; or all of it as `b+sr+Latn`. */
function localeOf(part: string, config: ResourceConfig): Partial<ResourceConfig> | undefined {
  if (part.startsWith('b+')) return localeFieldsOf(part.slice(2).replaceAll('+', '-'));
  const region = /^r([A-Z]{2}|\d{3})$/i.exec(part)?.[1];
  if (region && config.language && !config.region) return localeFields(config.language, '', region, '');
  return /^[a-z]{2,3}$/.test(part) && !config.language ? localeFields(part, '', '', '') : undefined;
}
