/** Where in the app's sources a finding is to be fixed: found by name, and only where one place alone fits. */
import type { Finding } from '../model/finding.ts';
import type { SourceFile } from '../model/patch.ts';
import type { SourcePlace } from './report-format.ts';

interface Search {
  /** Of files, by their paths. */
  inFiles: RegExp;
  /** What stands there. */
  find: RegExp;
}

const CODE = /\.(kt|java|swift)$/;
const MANIFEST = /(^|\/)AndroidManifest\.xml$/;

/** Finds places for many findings in one set of sources. */
export class SourcePlaces {
  readonly #files: readonly SourceFile[];

  constructor(files: readonly SourceFile[]) {
    this.#files = files;
  }

  /** The first search that one place alone answers; undefined where there is none. */
  placeOf(finding: Finding): SourcePlace | undefined {
    for (const search of searchesFor(finding)) {
      const found = this.#search(search);
      if (found.length === 1) return found[0];
    }
    return undefined;
  }

  #search({ find, inFiles }: Search): SourcePlace[] {
    return this.#files
      .filter(({ path }) => inFiles.test(path))
      .flatMap(({ path, text }) =>
        [...text.matchAll(new RegExp(find, 'g'))].map(({ index }) => placeAt(path, text, index)),
      );
  }
}

function placeAt(path: string, text: string, offset: number): SourcePlace {
  const before = text.slice(0, offset);
  return { path, line: before.split('\n').length, column: offset - before.lastIndexOf('\n') };
}

/** What is tried, the surest first. */
function searchesFor({ area, identity: { aspect, screen, subject } }: Finding): Search[] {
  if (screen !== undefined) return ofElement(subject);
  if (subject.startsWith('layout/')) return ofLayout(subject);
  if (subject.startsWith('color/')) return ofColour(subject, aspect);
  if (area === 'localization' || area === 'resources') return ofText(subject, aspect);
  return ofComponent(subject);
}

/** The nearest id above it: `notice > ImageView[1]` is looked for as `notice`. */
function ofElement(key: string): Search[] {
  const id = escaped(key.split(' > ')[0]!);
  return [
    { inFiles: /(^|\/)layout[^/]*\/[^/]+\.xml$/, find: new RegExp(`@\\+?id/${id}(?=")`) },
    { inFiles: CODE, find: new RegExp(`"${id}"`) },
  ];
}

function ofLayout(subject: string): Search[] {
  const [layout, view] = subject.split(' ');
  const inFiles = new RegExp(`(^|/)layout[^/]*/${escaped(layout!.slice('layout/'.length))}\\.xml$`);
  return view ? [{ inFiles, find: new RegExp(`@\\+?id/${escaped(view)}(?=")`) }] : [{ inFiles, find: /</ }];
}

/** `color/deck on color/sea_deep`: that of the text. */
function ofColour(subject: string, theme: string | undefined): Search[] {
  const name = escaped(subject.split(' ')[0]!.slice('color/'.length));
  const find = new RegExp(`name="${name}"`);
  const night = { inFiles: /(^|\/)values-night[^/]*\/[^/]+\.xml$/, find };
  const day = { inFiles: /(^|\/)values\/[^/]+\.xml$/, find };
  return theme === 'dark' ? [night, day] : [day];
}

/** In the file of its language, else in that of the source, from which it is missing. */
function ofText(subject: string, locale: string | undefined): Search[] {
  const key = escaped(subject.replace(/^\w+\//, ''));
  const xml = new RegExp(`name="${key}"`);
  const strings = new RegExp(`"${key}"(?=\\s*=)`);
  const [language = '', region] = (locale ?? '').split('-');
  const folder = region ? `${escaped(language)}-r${escaped(region)}` : escaped(language);
  return [
    { inFiles: new RegExp(`(^|/)values-${folder}/[^/]+\\.xml$`), find: xml },
    { inFiles: new RegExp(`(^|/)${escaped(locale ?? '')}\\.lproj/[^/]+\\.strings$`), find: strings },
    { inFiles: /(^|\/)values\/[^/]+\.xml$/, find: xml },
    { inFiles: /(^|\/)(Base|en)\.lproj\/[^/]+\.strings$/, find: strings },
  ];
}

/** By its whole class name, or as a manifest shortens it; a filter stands within its component. */
function ofComponent(subject: string): Search[] {
  const name = /^[a-zA-Z_][\w.]*\.[A-Z]\w*/.exec(subject)?.[0];
  if (!name) return [];
  const short = name.slice(name.lastIndexOf('.'));
  return [
    { inFiles: MANIFEST, find: new RegExp(`android:name="${escaped(name)}"`) },
    { inFiles: MANIFEST, find: new RegExp(`android:name="${escaped(short)}"`) },
  ];
}

const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
