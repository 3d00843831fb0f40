/** Defects that no truth file lists, planted by chance in the demo's own sources: each is found, and nothing else. */
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { writeAndroidStrings } from '../../src/core/formats/catalogues/android-strings.ts';
import { readCatalogue } from '../../src/core/formats/catalogues/read-catalogue.ts';
import type { CatalogueEntry } from '../../src/core/model/catalogue.ts';
import { unwrap } from '../../src/core/model/problem.ts';
import { anIntent } from '../support/facts.ts';
import { demoFolder } from '../support/paths.ts';
import { findingsIn, formatFindings, textFacts } from '../support/texts.ts';

const res = join(demoFolder, 'android/res');
const intent = anIntent({ locales: ['en', 'de', 'nb', 'pl', 'ar'], untranslated: ['app_name'] });
const folders = readdirSync(res).filter((name) => /^values(-(de|nb|pl|ar))?$/.test(name));

async function readSources(changed: readonly CatalogueEntry[] = []): Promise<CatalogueEntry[]> {
  const all: CatalogueEntry[] = [];
  for (const folder of folders)
    for (const file of ['strings.xml', 'help.xml']) {
      const path = join(res, folder, file);
      const { entries } = unwrap(await readCatalogue(path, new Uint8Array(readFileSync(path))));
      const mutated = entries.map(
        (entry) => changed.find(({ key, locale }) => key === entry.key && locale === entry.locale) ?? entry,
      );
      // through the file's own format, as an editor would have saved it
      const again = unwrap(await readCatalogue(path, new TextEncoder().encode(writeAndroidStrings(mutated))));
      all.push(...again.entries.filter(({ forms }) => forms.length > 0));
    }
  return all;
}

const check = (entries: CatalogueEntry[]) =>
  formatFindings(
    findingsIn(
      textFacts(entries).map((fact) => ({ ...fact, evidence: 'x' })),
      'localization',
      intent,
    ),
  );

/** What can befall one translation, and what must be said of it. */
const MUTATIONS: Record<
  string,
  { can: (text: string) => boolean; change: (text: string) => string; check: string }
> = {
  'a placeholder is lost': {
    can: (text) => /%1\$[sd]/.test(text),
    change: (text) => text.replace(/%1\$[sd]/, 'x'),
    check: 'placeholder-mismatch',
  },
  'a placeholder is retyped': {
    can: (text) => /%1\$d/.test(text),
    change: (text) => text.replace('%1$d', '%1$s'),
    check: 'placeholder-mismatch',
  },
  'a placeholder is added': {
    can: () => true,
    change: (text) => `${text} %9$s`,
    check: 'placeholder-mismatch',
  },
  'a placeholder never closes': {
    can: (text) => /%1\$s/.test(text),
    change: (text) => `${text} 5%1$`,
    check: 'message-syntax',
  },
  'it is emptied': { can: () => true, change: () => '', check: 'empty-translation' },
  'a blank comes before it': {
    can: (text) => !text.endsWith(' '),
    change: (text) => ` ${text}`,
    check: 'stray-space',
  },
  'a blank is doubled': {
    can: (text) => / \p{L}/u.test(text),
    change: (text) => text.replace(/ (?=\p{L})/u, '  '),
    check: 'stray-space',
  },
  'a letter is exchanged for its double': {
    can: (text) => /\p{sc=Latin}a\p{sc=Latin}/u.test(text),
    change: (text) => text.replace(/(?<=\p{sc=Latin})a(?=\p{sc=Latin})/u, 'а'),
    check: 'mixed-script',
  },
  'a zero width space gets in': {
    can: (text) => /\p{L}{3}/u.test(text),
    change: (text) => text.replace(/\p{L}(?=\p{L}{2})/u, '$&\u200b'),
    check: 'invisible-character',
  },
  'a tag is never closed': {
    can: (text) => !text.includes('<'),
    change: (text) => `<b>${text}`,
    check: 'markup-mismatch',
  },
  'an entity is escaped twice': {
    // a short text would be found too long as well
    can: (text) => text.length > 12,
    change: (text) => `${text} &amp; x`,
    check: 'swallowed-escape',
  },
};

test('one mutation, one finding', async () => {
  const sources = await readSources();
  const baseline = check(sources);
  const troubled = new Set(baseline.map((line) => line.split(' ')[1]!.replace(/^\w+\//, '')));
  const candidates = sources.filter(
    ({ key, kind, locale }) => kind === 'text' && locale !== 'default' && !troubled.has(key),
  );
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...candidates),
      fc.constantFrom(...Object.keys(MUTATIONS)),
      async (entry, name) => {
        const mutation = MUTATIONS[name]!;
        const { text } = entry.forms[0]!;
        fc.pre(mutation.can(text));
        const mutated = { ...entry, forms: [{ form: '', text: mutation.change(text) }] };
        // a file drops an entry without a text, and one with a blank in quotes keeps it
        const found = check(
          name === 'it is emptied'
            ? sources.map((of) => (of === entry ? mutated : of))
            : await readSources([mutated]),
        );
        expect([name, found.filter((line) => !baseline.includes(line))]).toEqual([
          name,
          [`${mutation.check} ${entry.key} ${entry.locale}`],
        ]);
      },
    ),
    { numRuns: 80 },
  );
});
