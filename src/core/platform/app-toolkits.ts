/**
 * What an app is made with, by what its package always holds, and what the package can then tell. By the documents of each:
 * Flutter, *Build and release*; React Native, *Publishing*; Unity, *How Unity builds Android applications* and *Structure of
 * a Unity iOS build*; .NET for Android, *Build process*; Capacitor and Cordova, *Project structure*; Godot, *Exporting*;
 * Jetpack Compose, its AAR's META-INF versions.
 */
import type { MadeWith, ToolkitName } from '../model/made-with.ts';

interface Signs {
  files: RegExp[];
  /** Types of dex files, as they stand there. */
  types?: RegExp;
  /** Libraries that an executable links. */
  links?: RegExp;
}

const SIGNS: [toolkit: ToolkitName, signs: Signs][] = [
  [
    'Flutter',
    { files: [/(^|\/)lib\/[^/]+\/libflutter\.so$/, /(^|\/)flutter_assets\//, /\/Flutter\.framework\//] },
  ],
  [
    'React Native',
    {
      files: [
        /(^|\/)assets\/index\.android\.bundle$/,
        /(^|\/)lib\/[^/]+\/lib(reactnative|reactnativejni|hermes|hermesvm)\.so$/,
        /\/main\.jsbundle$/,
        /\/hermes\.framework\//,
      ],
    },
  ],
  [
    'Unity',
    {
      files: [
        /(^|\/)lib\/[^/]+\/libunity\.so$/,
        /(^|\/)assets\/bin\/Data\//,
        /\/UnityFramework\.framework\//,
      ],
    },
  ],
  ['Godot', { files: [/(^|\/)lib\/[^/]+\/libgodot_android\.so$/, /(^|\/)assets\/project\.binary$/] }],
  [
    '.NET',
    {
      files: [
        /(^|\/)lib\/[^/]+\/lib(monodroid|monosgen-2\.0|xamarin-app)\.so$/,
        /(^|\/)assemblies\/.*\.(dll|blob)$/,
        /^Payload\/[^/]+\.app\/[^/]+\.dll$/,
      ],
    },
  ],
  [
    'a web view shell',
    {
      files: [
        /(^|\/)assets\/capacitor\.config\.json$/,
        /(^|\/)assets\/www\/cordova\.js$/,
        /^Payload\/[^/]+\.app\/(capacitor\.config\.json|www\/cordova\.js)$/,
      ],
    },
  ],
  [
    'Compose',
    { files: [/(^|\/)META-INF\/androidx\.compose\.ui_ui\.version$/], types: /^Landroidx\/compose\/ui\// },
  ],
  ['SwiftUI', { files: [], links: /\/SwiftUI\.framework\// }],
];

/** @returns each toolkit that the package has a mark of; none where it is made of the platform's own views alone */
export function recogniseToolkits(
  files: Iterable<string>,
  types: Iterable<string> = [],
  links: readonly string[] = [],
): MadeWith[] {
  const marks = new Map<ToolkitName, string>();
  const note = (toolkit: ToolkitName, mark: string) => {
    if (!marks.has(toolkit)) marks.set(toolkit, mark);
  };
  for (const file of files)
    for (const [toolkit, signs] of SIGNS)
      if (signs.files.some((sign) => sign.test(file))) note(toolkit, file);
  for (const [toolkit, signs] of SIGNS) {
    const link = signs.links && links.find((path) => signs.links!.test(path));
    if (link) note(toolkit, link);
  }
  const byType = SIGNS.filter(([toolkit, { types: sign }]) => sign && !marks.has(toolkit));
  if (byType.length > 0)
    for (const type of types)
      for (const [toolkit, signs] of byType)
        if (signs.types!.test(type)) note(toolkit, type.slice(1, -1).replaceAll('/', '.'));
  return [...marks].map(([toolkit, mark]) => ({ toolkit, mark }));
}

/** Where the texts of an app are that no resource table and no .lproj folder holds, and what to add in their place. */
export const TEXTS_ELSEWHERE: Partial<Record<ToolkitName, { where: string; add: string }>> = {
  Flutter: { where: 'its compiled Dart code', add: 'the ARB catalogues (fenlok add lib/l10n/*.arb)' },
  'React Native': { where: 'its script bundle', add: 'the JSON or PO catalogues that the script loads' },
  Unity: { where: 'its data files', add: 'the tables exported as XLIFF or PO' },
  Godot: { where: 'its packed translations', add: 'the PO catalogues of the project' },
  '.NET': { where: 'its assemblies', add: 'the resource files exported as XLIFF' },
  'a web view shell': { where: 'its web pages', add: 'the catalogues that the pages load' },
};

/** Toolkits that look resources up by name at run time, so that nothing in the package leads to them. */
export const LOOKS_UP_BY_NAME: ReadonlySet<ToolkitName> = new Set(['React Native', 'Unity', '.NET', 'Godot']);

/** Toolkits that lay their screens out by themselves, in one direction or the other, whatever the manifest says of it. */
export const LAYS_OUT_BY_ITSELF: ReadonlySet<ToolkitName> = new Set([
  'Flutter',
  'Unity',
  'Godot',
  'a web view shell',
]);
