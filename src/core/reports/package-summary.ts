/** What a package declares, for people: what stands out first. */

import { ownTextsOf } from '../areas/localization/texts/own-texts.ts';
import type {
  AppPackage,
  Component,
  LevelVerdict,
  LinkAuthority,
  NativeLibrary,
  SchemeCheck,
} from '../model/app-package.ts';
import type { Area } from '../model/checklist.ts';
import type { Finding } from '../model/finding.ts';
import { formatLevels } from '../platform/android/platform-levels.ts';
import { printable } from './escape.ts';
import { plural } from './outline.ts';
import { formatPermissions } from './permission-words.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

/** @param findings of the checks that need nothing but the package */
export function packageSummary(
  given: AppPackage,
  findings: readonly Finding[],
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string {
  const app = printable(given);
  const sections: [title: string, rows: string[]][] = [
    ['What stands out', standingOut(printable(findings), style)],
    ['Signed by', signingRows(app)],
    ['Code inside that is signed by itself', partRows(app)],
    ['May ask for or do', permissionRows(app)],
    ['Languages', languageRows(app)],
    ['Pictures by density', pictureRows(app)],
    ['Links claimed', linkRows(app)],
    ['Signs of push, purchases and ads', traceRows(app)],
    ['Open to other apps', exportedRows(app.android?.manifest.components ?? [])],
    ['Size', sizeRows(app)],
  ];
  const body = sections
    .filter(([, rows]) => rows.length > 0)
    .flatMap(([title, rows]) => [
      '',
      style.strong(title),
      ...rows.flatMap((row) => wrap(row.trimStart(), widthColumns, row.length - row.trimStart().length, 6)),
    ]);
  return `${[...headRows(app, style), ...body].join('\n')}\n`;
}

const FORM = { apk: 'APK', aab: 'app bundle', ipa: 'iOS package' };

function headRows(app: AppPackage, style: TextStyle): string[] {
  const { android, build, ios } = app;
  const row = (name: string, value: string) => `${style.faint(name.padEnd(9))}${value}`;
  const bytes = app.files.reduce((sum, { compressedBytes }) => sum + compressedBytes, 0);
  const rows = [
    `${style.strong(app.name)}  ${build.appId} ${build.version} (${build.build})  ${FORM[app.container]}, ${kib(bytes)}`,
    row('code', build.code === 'none' ? 'none' : build.code + formatCode(app)),
    row('file', `SHA-256 ${app.digest}`),
  ];
  if (app.madeWith.length > 0)
    rows.push(row('made with', app.madeWith.map(({ mark, toolkit }) => `${toolkit} (${mark})`).join(', ')));
  if (android) {
    const { minSdk, targetSdk } = android.manifest;
    rows.push(row('runs on', `SDK ${minSdk ?? '?'} and later, made for ${targetSdk ?? '?'}`));
    if (android.nativeLibraries.length > 0) rows.push(row('native', formatNative(android.nativeLibraries)));
    if (android.modules.length > 1)
      rows.push(
        row('modules', android.modules.map(({ delivery, name }) => `${name} (${delivery})`).join(', ')),
      );
  }
  if (ios) {
    const architectures = ios.executable.slices.map(({ architecture }) => architecture).join(', ');
    rows.push(row('runs on', `iOS ${ios.minimumOs || '?'} and later, ${architectures}`));
  }
  return rows;
}

function formatCode({ android }: AppPackage): string {
  if (!android) return '';
  const { classes, dexFiles, methods } = android.code;
  return `  ${count(dexFiles, 'dex file')}, ${classes} ${plural(classes, 'class', 'classes')}, ${count(methods, 'method')} named`;
}

function formatNative(libraries: readonly NativeLibrary[]): string {
  const byAbi = new Map<string, number>();
  for (const { abi } of libraries) byAbi.set(abi, (byAbi.get(abi) ?? 0) + 1);
  return [...byAbi].map(([abi, number]) => `${abi} (${count(number, 'file')})`).join(', ');
}

// What is more surprising stands first; within an area its checks keep their order.
const MOST_SURPRISING: Area[] = ['candidate', 'push', 'quality', 'lifecycle', 'links'];
const SHOWN_OF_ONE_KIND = 3;

function standingOut(findings: readonly Finding[], style: TextStyle): string[] {
  const rank = ({ area, basis }: Finding) => {
    const place = MOST_SURPRISING.indexOf(area);
    return (basis === 'measured' ? 0 : 100) + (place < 0 ? MOST_SURPRISING.length : place);
  };
  const byKind = new Map<string, Finding[]>();
  for (const finding of [...findings].sort((a, b) => rank(a) - rank(b))) {
    const kind = `${finding.check} ${finding.basis}`;
    byKind.set(kind, [...(byKind.get(kind) ?? []), finding]);
  }
  const rows = [...byKind.values()].flatMap((ofKind) => [
    ...ofKind.slice(0, SHOWN_OF_ONE_KIND).map(({ basis, words }) => {
      const mark = basis === 'measured' ? style.outcome('failed', '▲') : style.outcome('cantTell', '◐');
      return `  ${mark} ${words.what}: ${words.measured}`;
    }),
    ...(ofKind.length > SHOWN_OF_ONE_KIND
      ? [`    and ${ofKind.length - SHOWN_OF_ONE_KIND} more of this kind`]
      : []),
  ]);
  return rows.length > 0 ? rows : ['  nothing that the package alone can show'];
}

const SCHEME_NAME: Record<SchemeCheck['scheme'], string> = {
  v1: 'v1',
  v2: 'v2',
  v3: 'v3',
  'v3.1': 'v3.1',
  'code-signature': 'the code signature',
};

function signingRows({ ios, signing }: AppPackage): string[] {
  if (signing.schemes.length === 0) return ['  nobody: the package is not signed'];
  const said = signing.schemes.map(
    ({ outcome, scheme }) =>
      `${SCHEME_NAME[scheme]} ${{ verified: 'holds', broken: 'DOES NOT HOLD', unchecked: 'is not looked at by these devices' }[outcome]}`,
  );
  const rows = signing.certificates.flatMap(({ key, sha256, subject, validUntil }) => [
    `  ${subject}`,
    `  ${key}, valid until ${validUntil.slice(0, 10)}, SHA-256 ${sha256}`,
  ]);
  const lineage = signing.schemes.flatMap(({ signers }) => signers.flatMap((signer) => signer.lineage ?? []));
  if (lineage.length > 1) rows.push(`  in place of ${lineage[0]!.subject}, by proof of rotation`);
  const { profile } = ios ?? {};
  if (profile)
    rows.push(
      `  profile “${profile.name}”, ${profile.kind}, until ${profile.expiresAt.slice(0, 10)}${profile.signed ? '' : ', whose own signature DOES NOT HOLD'}`,
    );
  return [...rows, `  ${said.join(', ')}`, ...levelRows(signing.levels ?? [])];
}

/** Which levels take it, or those that refuse what others take; where all refuse it, the schemes have said why. */
function levelRows(levels: readonly LevelVerdict[]): string[] {
  const [first] = levels;
  const refused = levels.filter(({ problems }) => problems.length > 0);
  if (!first || refused.length === levels.length) return [];
  if (refused.length === 0) return [`  taken by ${formatLevels(first.from, levels.at(-1)!.until)}`];
  return refused.map(
    ({ from, problems, until }) =>
      `  ${formatLevels(from, until)}: will not install it: ${problems[0]!.found}`,
  );
}

const partRows = ({ ios }: AppPackage): string[] =>
  (ios?.parts ?? []).map(
    ({ id, kind, path, signature }) =>
      `  ${kind.padEnd(10)} ${path}${id && `  ${id}`}${signature.outcome === 'broken' ? ', whose signature does not hold' : ''}`,
  );

function permissionRows({ android, permissions }: AppPackage): string[] {
  const until = new Map(
    android?.manifest.permissions.flatMap(({ maxSdk, name }) => (maxSdk ? [[name, maxSdk] as const] : [])),
  );
  return formatPermissions(permissions).map(({ asksUser, name, words }) => {
    const short = name.replace(/^android\.permission\./, '');
    const limit = until.has(name) ? `, up to SDK ${until.get(name)}` : '';
    return `  ${words ? words.padEnd(46) : ''.padEnd(46)} ${short}${asksUser ? ' (the user is asked)' : ''}${limit}`;
  });
}

/** How many of the source's texts each language has; a text that no other language has may be meant so. */
const TABLE = /\bresources\.(arsc|pb)\b/;

function languageRows(app: AppPackage): string[] {
  const { declaredLocales, unread } = app;
  const texts = ownTextsOf(app);
  if (unread.some(({ place = '' }) => TABLE.test(place)))
    return ['  not known: the table that holds the texts could not be read'];
  const own = new Map<string, Set<string>>();
  for (const { key, locale } of texts) own.set(locale, (own.get(locale) ?? new Set()).add(key));
  const source = own.get('default') ?? new Set<string>();
  const locales = app.locales.filter((locale) => own.has(locale));
  const ofLibraries = app.locales.filter((locale) => !own.has(locale));
  const shared = new Set(locales.flatMap((locale) => [...(own.get(locale) ?? [])]));
  const alone = [...source].filter((key) => !shared.has(key));
  const total = source.size - alone.length;
  const languages = locales.filter((locale) => !locale.includes('-'));
  const rows = languages
    .map((locale) => ({
      locale,
      missing: [...source].filter((key) => shared.has(key) && !own.get(locale)?.has(key)),
    }))
    .sort((a, b) => b.missing.length - a.missing.length)
    .map(
      ({ missing, locale }) =>
        `  ${locale.padEnd(8)} ${String(total - missing.length).padStart(5)} of ${total}${missing.length > 0 ? `, lacks ${some(missing)}` : ', complete'}`,
    );
  const regional = locales
    .filter((locale) => locale.includes('-'))
    .map((locale) => `${locale} ${own.get(locale)?.size ?? 0}`);
  const head = `  ${'source'.padEnd(8)} ${String(source.size).padStart(5)} texts${alone.length > 0 && locales.length > 0 ? `, ${alone.length} of them in no other language: ${some(alone)}` : ''}`;
  return [
    head,
    ...firstOf(rows, 24, 'languages'),
    ...(regional.length > 0 ? [`  regions, with texts of their own: ${regional.join(', ')}`] : []),
    ...(ofLibraries.length > 0 ? [`  libraries alone speak: ${some(ofLibraries)}`] : []),
    ...(declaredLocales ? [`  declared: ${declaredLocales.join(', ')}`] : []),
  ];
}

const some = (keys: string[]): string =>
  `${keys.slice(0, 4).join(', ')}${keys.length > 4 ? ` and ${keys.length - 4} more` : ''}`;

const firstOf = (rows: string[], most: number, what: string): string[] =>
  rows.length > most ? [...rows.slice(0, most), `  and ${rows.length - most} more ${what}`] : rows;

function pictureRows({ pictures }: AppPackage): string[] {
  const byDensity = new Map<string, number>();
  for (const { density, file } of pictures) {
    const kind = density || (file.endsWith('.xml') ? 'any (drawn)' : 'no density named');
    byDensity.set(kind, (byDensity.get(kind) ?? 0) + 1);
  }
  const names = new Set(pictures.map(({ name }) => name)).size;
  return pictures.length > 0
    ? [
        `  ${[...byDensity].map(([density, files]) => `${density} ${files}`).join(' · ')}  (${count(pictures.length, 'form')} of ${count(names, 'picture')})`,
      ]
    : [];
}

function linkRows({ android, ios }: AppPackage): string[] {
  const filters = (android?.manifest.components ?? []).flatMap((component) =>
    component.filters
      .filter((filter) => filter.schemes.length > 0)
      .map((filter) => {
        const hosts = filter.authorities.length > 0 ? filter.authorities.map(formatAuthority) : [''];
        const paths = filter.paths.length > 0 ? ` ${filter.paths.join(' ')}` : '';
        const closed = filter.categories.includes('android.intent.category.BROWSABLE')
          ? ''
          : ', not from a browser';
        const inside = component.exported === true ? '' : ', component not exported';
        return `  ${filter.schemes.map((scheme) => hosts.map((host) => `${scheme}://${host}`).join(' ')).join(' ')}${paths}  → ${shortName(component.name)}${filter.autoVerify ? ', asks to be verified' : ''}${closed}${inside}`;
      }),
  );
  const schemes = (ios?.urlSchemes ?? []).map((scheme) => `  ${scheme}://`);
  const domains = (ios?.associatedDomains ?? []).map((domain) => `  ${domain}`);
  const rows = [...filters, ...schemes, ...domains];
  return rows.length > 0 ? rows : ['  none'];
}

const formatAuthority = ({ host, port }: LinkAuthority): string =>
  port === undefined ? host : `${host}:${port}`;

const traceRows = ({ traces }: AppPackage): string[] =>
  (['push', 'billing', 'ads'] as const).map(
    (kind) =>
      `  ${{ push: 'push', billing: 'purchases', ads: 'ads' }[kind].padEnd(10)} ${traces[kind].join('; ') || 'none'}`,
  );

function exportedRows(components: readonly Component[]): string[] {
  return components
    .filter((component) => component.exported === true)
    .map(
      (component) =>
        `  ${component.type.padEnd(14)} ${component.name}${component.permission ? ` (needs ${component.permission})` : ''}`,
    );
}

const shortName = (name: string): string => name.slice(name.lastIndexOf('.') + 1);

const KINDS: [name: string, pattern: RegExp][] = [
  ['code', /\.dex$/],
  ['native libraries', /(^|\/)lib\/[^/]+\/[^/]+\.so$|\.framework\/|\.dylib$/],
  ['app extensions', /\.appex\//],
  ['resource table', /(^|\/)resources\.(arsc|pb)$/],
  ['signatures', /^META-INF\/|\/_CodeSignature\/|embedded\.mobileprovision$/],
  ['texts', /\.lproj\/[^/]+\.strings(dict)?$/],
  ['pictures', /\.(png|webp|jpe?g|gif|heic|car)$/i],
  ['layouts and other XML', /(^|\/)res\/.*\.xml$/],
  ['resource files', /(^|\/)res\//],
  ['assets', /(^|\/)assets\//],
];

function sizeRows({ files, ios }: AppPackage): string[] {
  const executable = ios && `/${ios.executable.name}`;
  const sums = new Map<string, { files: number; bytes: number }>();
  for (const { compressedBytes, name } of files) {
    const isCode = executable !== undefined && name.endsWith(`.app${executable}`);
    const kind = isCode ? 'code' : (KINDS.find(([, pattern]) => pattern.test(name))?.[0] ?? 'other');
    const sum = sums.get(kind) ?? { files: 0, bytes: 0 };
    sums.set(kind, { files: sum.files + 1, bytes: sum.bytes + compressedBytes });
  }
  return [...sums]
    .sort((a, b) => b[1].bytes - a[1].bytes)
    .map(([kind, sum]) => `  ${kind.padEnd(22)} ${kib(sum.bytes).padStart(13)}  ${count(sum.files, 'file')}`);
}

const kib = (bytes: number): string => `${(bytes / 1024).toFixed(1)} KiB`;
const count = (n: number, noun: string): string => `${n} ${plural(n, noun, `${noun}s`)}`;
