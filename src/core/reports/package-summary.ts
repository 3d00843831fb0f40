/** What a package declares, for people. */
import type { AppPackage, Component } from '../model/app-package.ts';
import { plural } from './outline.ts';
import type { TextStyle } from './text.ts';

export function packageSummary(app: AppPackage, style: TextStyle): string {
  const { build, manifest } = app;
  const row = (name: string, value: string) => `${style.faint(name.padEnd(13))}${value}`;
  return `${[
    `${style.strong(app.name)}  ${build.appId} ${build.version} (${build.build})`,
    row('code', build.code === 'none' ? 'no dex file' : build.code),
    row('file', `SHA-256 ${app.digest}`),
    row(
      'SDK',
      `runs from ${manifest.minSdk ?? '?'}, made for ${manifest.targetSdk ?? '?'}${manifest.debuggable ? ', DEBUGGABLE' : ''}`,
    ),
    row(
      'permissions',
      manifest.permissions.map((name) => name.replace(/^android\.permission\./, '')).join(', ') || 'none',
    ),
    '',
    style.strong('Languages'),
    ...languageRows(app),
    '',
    style.strong('Links claimed'),
    ...linkRows(manifest.components),
    '',
    style.strong('Open to other apps'),
    ...exportedRows(manifest.components),
    '',
    style.strong('Size'),
    ...sizeRows(app),
  ].join('\n')}\n`;
}

/** How many of the source's texts each language has; a text that no other language has may be meant so. */
function languageRows({ locales, texts }: AppPackage): string[] {
  const keysOf = (locale: string) =>
    new Set(texts.filter((text) => text.locale === locale).map((text) => text.key));
  const source = keysOf('default');
  const own = new Map(locales.map((locale) => [locale, keysOf(locale)]));
  const alone = [...source].filter((key) => ![...own.values()].some((keys) => keys.has(key)));
  const lacks = (locale: string) =>
    [...source].filter((key) => !alone.includes(key) && !own.get(locale)!.has(key));
  const rows = locales
    .map((locale) => ({ locale, lacking: lacks(locale) }))
    .sort((a, b) => b.lacking.length - a.lacking.length);
  const total = source.size - alone.length;
  return [
    `  ${'source'.padEnd(8)} ${String(source.size).padStart(5)} texts${alone.length > 0 && locales.length > 0 ? `, ${alone.length} of them in no other language: ${some(alone)}` : ''}`,
    ...rows.map(
      ({ locale, lacking }) =>
        `  ${locale.padEnd(8)} ${String(total - lacking.length).padStart(5)} of ${total}${lacking.length > 0 ? `, lacks ${some(lacking)}` : ', complete'}`,
    ),
  ];
}

const some = (keys: string[]): string =>
  `${keys.slice(0, 4).join(', ')}${keys.length > 4 ? ` and ${keys.length - 4} more` : ''}`;

function linkRows(components: readonly Component[]): string[] {
  const rows = components.flatMap((component) =>
    component.filters
      .filter((filter) => filter.schemes.length > 0)
      .map((filter) => {
        const hosts = filter.hosts.length > 0 ? filter.hosts : [''];
        const paths = filter.paths.length > 0 ? ` ${filter.paths.join(' ')}` : '';
        const closed = filter.categories.includes('android.intent.category.BROWSABLE')
          ? ''
          : ', not from a browser';
        const inside = component.exported === true ? '' : ', component not exported';
        return `  ${filter.schemes.map((scheme) => hosts.map((host) => `${scheme}://${host}`).join(' ')).join(' ')}${paths}  → ${shortName(component.name)}${filter.autoVerify ? ', asks to be verified' : ''}${closed}${inside}`;
      }),
  );
  return rows.length > 0 ? rows : ['  none'];
}

function exportedRows(components: readonly Component[]): string[] {
  const rows = components
    .filter((component) => component.exported === true)
    .map(
      (component) =>
        `  ${component.type.padEnd(14)} ${component.name}${component.permission ? ` (needs ${component.permission})` : ''}`,
    );
  return rows.length > 0 ? rows : ['  nothing'];
}

const shortName = (name: string): string => name.slice(name.lastIndexOf('.') + 1);

const KINDS: [name: string, pattern: RegExp][] = [
  ['code', /\.dex$/],
  ['native libraries', /^lib\//],
  ['resource table', /^resources\.arsc$/],
  ['resource files', /^res\//],
  ['assets', /^assets\//],
  ['signatures', /^META-INF\//],
];

function sizeRows({ files }: AppPackage): string[] {
  const sums = new Map<string, { count: number; bytes: number }>();
  for (const file of files) {
    const kind = KINDS.find(([, pattern]) => pattern.test(file.name))?.[0] ?? 'other';
    const sum = sums.get(kind) ?? { count: 0, bytes: 0 };
    sums.set(kind, { count: sum.count + 1, bytes: sum.bytes + file.compressedBytes });
  }
  return [...sums]
    .sort((a, b) => b[1].bytes - a[1].bytes)
    .map(
      ([kind, { count, bytes }]) =>
        `  ${kind.padEnd(18)} ${(bytes / 1024).toFixed(1).padStart(9)} KiB  ${count} ${plural(count, 'file', 'files')}`,
    );
}
