/** Catalogues and variants on the command line. */

import { cpSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Judgement } from '../../src/core/model/judgement.ts';
import { fenlok } from '../support/command.ts';
import { demoApk, demoFolder, demoIpa, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';

const scratch = scratchFolder();
const variant = (...args: string[]) => fenlok(['try', 'variant', ...args], scratch);

test('try variant says what is used, how far it is scaled, why each other one lost, and what would be better', async () => {
  const { code, out } = await variant(
    'sign_board',
    '--package',
    demoApk,
    '--locale',
    'de',
    '--density',
    'xxhdpi',
  );
  expect(code).toBe(0);
  expect(out).toMatch(/^drawable\/sign_board on de, 480 dpi \(xxhdpi\)/);
  expect(out).toMatch(
    /■ chosen +de-xhdpi +res\/drawable-de-xhdpi\S+\n +▲ scaled up × 1.50, so it is blurred/,
  );
  expect(out).toMatch(/· beaten +xxhdpi +language: de-xhdpi has de, this one names none/);
  expect(out).toMatch(/▲ xxhdpi has the density of this device.*Add\s+drawable-de-xxhdpi\./s);
});

test.each([
  [['deck_plan', '--land', '--density', '640'], '0 land-xxxhdpi'],
  [['deck_plan', '--density', '640'], ' none'],
  [['string/status_late', '--locale', 'de-AT'], '0 de'],
  [['string/status_late', '--locale', 'fr'], '0 '],
])('try variant %s as JSON', async (args, expected) => {
  const { out } = await variant(...args, '--package', demoApk, '--json');
  const { remedy, rows } = JSON.parse(out);
  const chosen = rows.findIndex(({ fate }: { fate: string }) => fate === 'chosen');
  expect(chosen < 0 ? ' none' : `${chosen} ${rows[chosen].variant}`).toBe(expected);
  if (chosen < 0) expect(remedy).toContain('crashes');
});

test('on iOS it says the localization and the text', async () => {
  expect((await variant('set_sign_out', '--package', demoIpa, '--locale', 'de-CH')).out).toMatch(
    /localization +de, of .*\n +text +Abmelden +\(de\)/,
  );
});

test.each([
  [['status_lat', '--package', demoApk], 3, /no resource status_lat among .* Did you mean "status_late"/],
  [['x', '--package', demoApk, '--density', 'huge'], 2, /--density: "huge" is neither dots per inch/],
  [['x', '--package', demoApk, '--locale', 'deutsch'], 2, /--locale: "deutsch" is no language tag/],
  [['x', '--package', demoApk, '--ui', 'fridge'], 2, /--ui: "fridge" is none of car/],
  [['x'], 2, /name the package with --package FILE/],
])('try variant %s', async (args, code, message) => {
  const run = await variant(...args);
  expect([run.code, run.err]).toEqual([code, expect.stringMatching(message)]);
});

test.each([
  ['accented', 'values-en-rXA', 'en-XA'],
  ['mirrored', 'values-ar-rXB', 'ar-XB'],
])(
  'try pseudo %s keeps placeholders and markup, and the file is one that the package tools take',
  async (kind, folder, tag) => {
    const source = join(demoFolder, 'android/res/values/help.xml');
    const { code, out } = await fenlok(['try', 'pseudo', source, '--as', kind, '--out', 'pseudo'], scratch);
    expect([code, out]).toEqual([0, `wrote pseudo/${folder}/help.xml  ${tag}, 12 keys\n`]);
    const xml = readFileSync(join(scratch, 'pseudo', folder, 'help.xml'), 'utf8');
    const marks = (text: string) => text.match(/%\d\$[sd]|%%|<\/?b>|&amp;/g);
    expect(marks(xml)).toEqual(marks(readFileSync(source, 'utf8').replace(/<!--.*?-->/g, '')));
    expect(xml).not.toContain('Life jackets are');
  },
);

test.each([
  [
    'Localizable.xcstrings',
    '{"sourceLanguage":"en","strings":{"a":{"localizations":{"en":{"stringUnit":{"value":"Hi %@"}}}}}}',
    'Localizable.xcstrings',
    /"en-XA"[\s\S]*Ĥî %@/,
  ],
  [
    'app_en.arb',
    '{"@@locale":"en","n":"{count, plural, one{# boat} other{# boats}}"}',
    'app_en_XA.arb',
    /\{count, plural, one\{\[\{count\} ƀöåţ/,
  ],
  ['en.po', 'msgid "Hi"\nmsgstr ""\n', 'en-XA.po', /Language: en_XA[\s\S]*msgstr "\[Ĥî/],
])('try pseudo writes %s in its own format', async (name, text, written, expected) => {
  writeFileSync(join(scratch, name), text);
  const run = await fenlok(['try', 'pseudo', name, '--out', 'pseudo'], scratch);
  expect([run.code, run.err]).toEqual([0, '']);
  expect(readFileSync(join(scratch, 'pseudo', written), 'utf8')).toMatch(expected);
});

test('catalogues are added from a folder; broken ones as far as they go, and the findings name file and line', async () => {
  const res = join(scratch, 'app/res');
  cpSync(join(demoFolder, 'android/res'), res, { recursive: true });
  writeFileSync(
    join(res, 'values-nb/more.xml'),
    '<resources>\n<string name="set_about">Om %1$s</string>\n<string name="x">half',
  );
  mkdirSync(join(scratch, 'app/huge'));
  writeFileSync(join(scratch, 'app/huge/de.po'), 'x'.repeat(33 * 2 ** 20));
  const added = await fenlok(['add', demoApk, 'app/res', '--dossier', 'd'], scratch);
  expect([added.code, added.out]).toEqual([0, expect.stringMatching(/^\d+ taken in, 0 already there\n$/)]);
  expect(added.err).toMatch(/taken in as far as it goes: .*more\.xml, line 3: XML that cannot be read/);
  const refused = await fenlok(['add', 'app/huge/de.po', '--dossier', 'd'], scratch);
  expect([refused.code, refused.err]).toEqual([
    3,
    expect.stringMatching(/33 MiB of texts in one file; expected at most 32 MiB/),
  ]);
  expect((await fenlok(['add', 'app/res', '--dossier', 'd'], scratch)).out).toMatch(
    /^0 taken in, \d+ already there/,
  );

  copyIntent(scratch);
  const { out } = await fenlok(['judge', '--dossier', 'd', '--json'], scratch);
  const { findings }: Judgement = JSON.parse(out);
  const of = (check: string, subject: string) =>
    findings.find(({ check: id, identity }) => id === check && identity.subject.startsWith(subject));
  // the package and the file say the same, so it is one finding
  expect(
    of('placeholder-mismatch', 'ticket_valid')!
      .occurrences.map(({ data }) => data.file ?? 'package')
      .sort(),
  ).toEqual(['package', 'values-de/strings.xml']);
  expect(of('placeholder-mismatch', 'set_about')!.occurrences[0]!.data).toMatchObject({
    file: 'values-nb/more.xml',
    line: 2,
  });
  expect(of('duplicate-key', 'set_about')).toBeUndefined();
  expect(of('unread-part', 'values-nb/more.xml')).toBeDefined();
});

test('the intent file names the syntax of a catalogue, also after the catalogue was judged without it', async () => {
  const folder = join(scratch, 'named');
  mkdirSync(join(folder, 'i18n'), { recursive: true });
  writeFileSync(join(folder, 'i18n/en.json'), '{"gate": "Gate {a}", "boats": "Boats"}');
  writeFileSync(join(folder, 'i18n/de.json'), '{"gate": "Tor", "boats": "Boote"}');
  copyIntent(folder);
  const intent = readFileSync(join(folder, 'fenlok.yaml'), 'utf8');
  expect((await fenlok(['add', demoApk, 'i18n', '--dossier', 'd'], folder)).code).toBe(0);
  const subjects = async (named: string) => {
    writeFileSync(join(folder, 'fenlok.yaml'), `${intent}\n${named}`);
    const { code, err, out } = await fenlok(['judge', '--dossier', 'd', '--json'], folder);
    if (code === 3) return err;
    const { findings }: Judgement = JSON.parse(out);
    return findings
      .filter(
        ({ check, occurrences }) =>
          check === 'placeholder-mismatch' && occurrences[0]!.data.file === 'i18n/de.json',
      )
      .map(({ identity }) => identity.subject);
  };
  expect(await subjects('')).toEqual([expect.stringContaining('gate')]);
  expect(await subjects('catalogues: [{ files: "i18n/*.json", syntax: plain }]\n')).toEqual([]);
  expect(await subjects('catalogues: [{ files: "po/*.po", syntax: plain }]\n')).toHaveLength(1);
  expect(await subjects('catalogues: [{ files: "*.json", syntax: curly }]\n')).toMatch(/catalogues.*syntax/s);

  const pseudo = (...args: string[]) =>
    fenlok(['try', 'pseudo', 'i18n/en.json', '--out', 'made', ...args], folder);
  await pseudo('--syntax', 'plain');
  expect(readFileSync(join(folder, 'made/en-XA.json'), 'utf8')).not.toContain('{a}"}');
  expect((await pseudo('--syntax', 'curly')).err).toMatch(/--syntax: "curly" is none of printf-java/);
});
