/** PO files beside gettext's own compiler: real ones of three corpora, and translations changed at random. */
import { spawnSync } from 'node:child_process';
import { readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join } from 'node:path';
import { sourceFolder } from '../../../../scripts/corpora.mjs';
import { messageSyntax } from '../../../../src/core/areas/localization/checks/message-syntax.ts';
import { placeholderMismatch } from '../../../../src/core/areas/localization/checks/placeholder-mismatch.ts';
import { pluralForms } from '../../../../src/core/areas/localization/checks/plural-forms.ts';
import { observeCatalogueFile } from '../../../../src/core/areas/localization/observers/observe-catalogue-file.ts';
import { readCatalogue } from '../../../../src/core/formats/catalogues/read-catalogue.ts';
import type { Catalogue } from '../../../../src/core/model/catalogue.ts';
import type { Fact } from '../../../../src/core/model/fact.ts';
import { unwrap } from '../../../../src/core/model/problem.ts';
import { anIntent, observeApp, run } from '../../../support/facts.ts';
import { describeWith, scratchFolder, tools } from '../../../support/paths.ts';

const corpora = ['texts-python', 'texts-c', 'texts-names'].map((name) => sourceFolder(name));
const describeOnCorpora = corpora.includes(undefined)
  ? (describe.skip as unknown as typeof describeWith)
  : describeWith;
const scratch = scratchFolder();

// names of countries and languages come in hundreds of files that are much alike
const SHARE = [1, 1, 8];
// of the others every third, unless all are wanted: CORPUS_EVERY=1
const EVERY = Number(process.env.CORPUS_EVERY ?? 3);
const all = corpora.flatMap((folder, i) =>
  folder === undefined
    ? []
    : readdirSync(folder, { recursive: true, encoding: 'utf8' })
        .filter((name) => name.endsWith('.po'))
        .sort()
        .filter((_, at) => at % SHARE[i]! === 0)
        .map((name) => join(folder, name)),
);
const files = all.filter((_, at) => at % EVERY === 0);

const msgfmt = (...args: string[]) =>
  spawnSync(tools.msgfmt, args, { encoding: 'utf8', env: { LC_ALL: 'C' } });
const read = async (file: string, bytes: Uint8Array): Promise<Catalogue> =>
  unwrap(await readCatalogue(file, bytes));
const factsOf = (catalogue: Catalogue): Fact[] => [
  ...observeApp({}),
  ...observeCatalogueFile.observe({ digest: 'd', platform: 'android', name: 'x', file: 'x.po', catalogue }),
];

/** The compiled form (GNU gettext manual, *The Format of GNU MO Files*): texts by context and source text. */
function readMo(bytes: Buffer, charset: string): Map<string, string[]> {
  const decoder = new TextDecoder(charset);
  const at = (table: number, i: number) => {
    const [length, from] = [bytes.readUInt32LE(table + 8 * i), bytes.readUInt32LE(table + 8 * i + 4)];
    return decoder.decode(bytes.subarray(from, from + length)).split('\0');
  };
  const [sources, targets] = [bytes.readUInt32LE(12), bytes.readUInt32LE(16)];
  return new Map(
    Array.from({ length: bytes.readUInt32LE(8) }, (_, i) => [at(sources, i)[0]!, at(targets, i)]),
  );
}

describeOnCorpora('msgfmt')('real catalogues', () => {
  test('texts and plural forms are those of the compiled file', async () => {
    expect(files.length).toBeGreaterThan(150 / EVERY);
    let count = 0;
    for (const file of files) {
      const compiled = join(scratch, 'x.mo');
      expect([file, msgfmt('-o', compiled, file).status]).toEqual([file, 0]);
      const bytes = readFileSync(file);
      const charset = /charset=([\w-]+)/.exec(bytes.toString('latin1'))?.[1] ?? 'utf-8';
      const theirs = readMo(readFileSync(compiled), charset);
      theirs.delete('');
      const { entries } = await read(file, bytes);
      const translated = entries.filter(({ locale }) => locale !== 'default');
      const own = translated.map(({ forms }) => forms.map(({ text }) => text).join('\0')).sort();
      const expected = [...theirs.values()].map((texts) => texts.filter(Boolean).join('\0')).sort();
      expect([file, own]).toEqual([file, expected]);
      count += own.length;
    }
    expect(count).toBeGreaterThan(20_000 / EVERY);
  });

  test('no plural that the compiler accepts lacks a form', async () => {
    let plurals = 0;
    for (const file of files) {
      const catalogue = await read(file, readFileSync(file));
      const target = catalogue.entries.find(({ locale }) => locale !== 'default')?.locale;
      if (target === undefined || msgfmt('--check', '-o', '/dev/null', file).status !== 0) continue;
      const found = run(pluralForms, factsOf(catalogue), anIntent({ locales: ['en', target] }));
      const missing = found.filter((one) => 'draft' in one && one.draft.occurrence.data.fault === 'missing');
      expect([file, missing]).toEqual([file, []]);
      plurals += catalogue.entries.filter(
        ({ kind, locale }) => kind === 'plural' && locale === target,
      ).length;
    }
    expect(plurals).toBeGreaterThan(150 / EVERY);
  });
});

describeOnCorpora('msgfmt')('translations changed at random, a number of each flag', () => {
  interface Made {
    flag: string;
    id: string;
    text: string;
  }
  let seed = 7;
  const random = (below: number) => {
    seed = (seed * 48271) % 2147483647;
    return seed % below;
  };
  const PLACEHOLDER = /%(?:\(\w+\))?[-#0 +]*[\d.*]*l*[a-zA-Z]|\{\w*\}/g;
  function change(text: string): string {
    const found = [...text.matchAll(PLACEHOLDER)];
    const one = found[random(found.length)]!;
    const [before, after] = [text.slice(0, one.index), text.slice(one.index + one[0].length)];
    const changed = [
      one[0],
      '',
      `${one[0]} ${one[0]}`,
      one[0].replace(/[a-z](\}?)$/i, 'd$1'),
      one[0].replace(/[a-z](\}?)$/i, 's$1'),
      one[0].slice(0, -1),
      one[0].replace(/\w+/, 'other'),
      '%d',
    ];
    return before + changed[random(changed.length)] + after;
  }
  const quote = (text: string) => JSON.stringify(text).replace(/\\u[0-9a-f]{4}/g, '?');

  test.each(['c-format', 'python-format', 'python-brace-format'])('%s', async (flag) => {
    const made: Made[] = [];
    for (const file of all.filter((path) => !path.includes('texts-names'))) {
      const blocks = readFileSync(file, 'utf8').split(/\n\n+/);
      for (const block of blocks) {
        const match = /^msgid ("[^\n]*")\nmsgstr ("[^\n]+")$/m.exec(block);
        if (!match || !new RegExp(`#,.*(?<![\\w-])${flag}\\b`).test(block) || /fuzzy|#~/.test(block))
          continue;
        const [id, text] = [match[1]!, match[2]!].map(
          (part) => JSON.parse(part.replace(/\\a/g, '')) as string,
        );
        if (id && text && PLACEHOLDER.test(text) && made.length < 4000) made.push({ flag, id, text });
        PLACEHOLDER.lastIndex = 0;
      }
    }
    const chosen = made.filter((_, i) => i % Math.ceil(made.length / 600) === 0);
    const messages = chosen.map(({ id, text }, i) => ({ key: `k${i}`, id, text: change(text) }));
    const head = 'msgid ""\nmsgstr "Language: de\\nContent-Type: text/plain; charset=UTF-8\\n"\n';
    const lines = messages.map(
      ({ id, key, text }) => `\n#, ${flag}\nmsgctxt "${key}"\nmsgid ${quote(id)}\nmsgstr ${quote(text)}\n`,
    );
    const file = join(scratch, `${flag}.po`);
    writeFileSync(file, head + lines.join(''));
    const { stderr } = msgfmt('--check-format', '-o', '/dev/null', file);
    const refused = new Set(
      [...stderr.matchAll(new RegExp(`${basename(file)}:(\\d+):`, 'g'))].map(
        ([, line]) => `k${Math.floor((Number(line) - 3) / 5)}`,
      ),
    );
    const facts = factsOf(await read(file, readFileSync(file)));
    const intent = anIntent({ locales: ['en', 'de'] });
    const own = new Set(
      [...run(placeholderMismatch, facts, intent), ...run(messageSyntax, facts, intent)].flatMap((one) =>
        'draft' in one ? [one.draft.identity.subject.split(' ')[0]!] : [],
      ),
    );
    const disagree = messages.filter(({ key }) => own.has(key) !== refused.has(key));
    expect(disagree.map(({ id, text }) => [id, text])).toEqual([]);
    expect(refused.size).toBeGreaterThan(40);
    expect(refused.size).toBeLessThan(messages.length);
  });
});

test('a file that is narrower than its header says goes by its name', async () => {
  const po =
    'msgid ""\nmsgstr "Language: en\\nContent-Type: text/plain; charset=UTF-8\\n"\n\nmsgid "a"\nmsgstr "b"\n';
  const localesOf = async (file: string) => {
    const { entries } = await read(file, new TextEncoder().encode(po));
    return [...new Set(entries.map(({ locale }) => locale))].sort();
  };
  expect(await localesOf('en@quot.po')).toEqual(['default', 'en-x-quot']);
  expect(await localesOf('en.po')).toEqual(['default', 'en']);
});
