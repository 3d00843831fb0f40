/** What a user can get wrong: each time one clear message, the right exit code, and nothing half-written. */

import {
  copyFileSync,
  cpSync,
  mkdirSync,
  readdirSync,
  readFileSync,
  truncateSync,
  writeFileSync,
} from 'node:fs';
import { join } from 'node:path';
import sharp from 'sharp';
import { fenlok } from '../support/command.ts';
import { demoApk, demoFolder, scratchFolder } from '../support/paths.ts';
import { copyIntent } from '../support/project.ts';
import { writeZip } from '../support/zip-writer.ts';

const scratch = scratchFolder();
const file = (name: string, content: string | Uint8Array) => {
  writeFileSync(join(scratch, name), content);
  return name;
};
const xml = (width: number, height: number) =>
  `<hierarchy rotation="0"><node class="a.Frame" bounds="[0,0][${width},${height}]"><node text="Hi" class="a.Text" bounds="[10,10][60,40]"/></node></hierarchy>`;
const captureJson = (of: object = {}) =>
  JSON.stringify({
    fenlok: 'capture/1',
    platform: 'android',
    cell: { screen: 'home', locale: 'en', theme: 'light' },
    densityDpi: 160,
    picture: 'home.png',
    hierarchy: 'home.xml',
    ...of,
  });

// each line stands for ten of the one before
const aliasBomb = [
  'app: &a0 [x]',
  ...[1, 2, 3, 4].map((n) => `a${n}: &a${n} [${`*a${n - 1}, `.repeat(10)}]`),
].join('\n');

beforeAll(async () => {
  copyFileSync(demoApk, join(scratch, 'app.apk'));
  const png = await sharp({ create: { width: 100, height: 200, channels: 3, background: '#ffffff' } })
    .png()
    .toBuffer();
  file('home.png', png);
  file('home.xml', xml(100, 200));
  file('broken.png', png.subarray(0, png.length / 2));
  file('home.json', captureJson());
  file('home2.xml', xml(400, 900));
  file('cut.xml', xml(100, 200).slice(0, -30));
  mkdirSync(join(scratch, 'hollow'));
  expect((await fenlok(['add', 'app.apk', 'home.json'], scratch)).code).toBe(0);
});

/** Everything in the dossier, with sizes: what a refused input must not change. */
const inventory = () => readdirSync(join(scratch, 'dossier'), { recursive: true }).map(String).sort();

const apk = () => readFileSync(demoApk);
test.each<[string, () => string[], number, RegExp]>([
  [
    'an alias without an anchor',
    () => ['judge', '--intent', file('alias.yaml', 'fenlok: intent/1\napp: *nobody\n')],
    3,
    /alias\.yaml, line 2: an alias \(\*name\) whose anchor/,
  ],
  [
    'aliases that fill the memory',
    () => ['judge', '--intent', file('bomb.yaml', aliasBomb)],
    3,
    /bomb\.yaml: aliases that stand for more than 100 nodes/,
  ],
  [
    'a tree that is too deep',
    () => ['judge', '--intent', file('deep.yaml', `app: ${'['.repeat(6000)}${']'.repeat(6000)}\n`)],
    3,
    /deep\.yaml, line 1: YAML that is nested too deeply/,
  ],
  [
    'a picture of 600 MB, which is not read',
    () => {
      truncateSync(join(scratch, file('huge.png', '')), 600 * 2 ** 20);
      return ['try', 'contrast', '--picture', 'huge.png', '--box', '1,1,9,9'];
    },
    3,
    /huge\.png: 629145600 bytes; expected a screenshot of at most/,
  ],
  [
    'a place that cannot be written',
    () => ['add', 'app.apk', '--dossier', 'home.json/dossier'],
    3,
    /home\.json\/dossier: a file, where a folder is expected \(ENOTDIR\)/,
  ],
  ['no such file', () => ['read', 'gone.apk'], 3, /gone\.apk: no such file/],
  ['a folder for a package', () => ['read', '.'], 3, /a folder; expected an app package/],
  ['not a zip', () => ['read', file('letter.apk', 'Dear Sir')], 3, /letter\.apk: not a zip archive/],
  ['an empty package', () => ['read', file('empty.apk', '')], 3, /an empty file/],
  [
    'a truncated package',
    () => ['read', file('cut.apk', apk().subarray(0, 30000))],
    3,
    /cut\.apk: a damaged zip archive.*copy or build it again/,
  ],
  [
    'no manifest',
    () => ['read', file('no-manifest.apk', writeZip([{ name: 'x', data: new Uint8Array(3) }]))],
    3,
    /without AndroidManifest\.xml/,
  ],
  [
    'a damaged manifest',
    () => [
      'read',
      file('bad-manifest.apk', writeZip([{ name: 'AndroidManifest.xml', data: new Uint8Array(50) }])),
    ],
    3,
    /compiled XML/,
  ],
  [
    'evidence before a package',
    () => ['add', 'home.json', '--dossier', 'elsewhere'],
    3,
    /no dossier here.*fenlok add app-release\.apk/,
  ],
  [
    'a folder of evidence before a package: one message for all',
    () => {
      for (let i = 0; i < 40; i++) file(`many-${i}.json`, '{}');
      return ['add', '.', '--dossier', 'elsewhere'];
    },
    3,
    /^fenlok: [^\n]*no dossier here[^\n]*\n$/,
  ],
  [
    'picture and XML of different sizes',
    () => ['add', file('sizes.json', captureJson({ hierarchy: 'home2.xml' }))],
    3,
    /100 × 200 px beside a tree that reaches to 400 × 900 px/,
  ],
  [
    'a picture from before the device was turned',
    () => [
      'add',
      file(
        'turned.json',
        captureJson({ cell: { screen: 'home', locale: 'en', theme: 'light', orientation: 'landscape' } }),
      ),
    ],
    3,
    /turned\.json.*landscape, beside a picture of 100 × 200 px/,
  ],
  [
    'XML cut off',
    () => ['add', file('cut.json', captureJson({ hierarchy: 'cut.xml' }))],
    3,
    /cut\.xml, line 1, column \d+: XML that cannot be read/,
  ],
  [
    'a broken picture',
    () => ['add', file('pic.json', captureJson({ picture: 'broken.png' }))],
    3,
    /broken\.png: a picture that cannot be decoded/,
  ],
  [
    'a picture that is missing',
    () => ['add', file('nopic.json', captureJson({ picture: 'gone.png' }))],
    3,
    /gone\.png: no such file/,
  ],
  [
    'a picture from another folder',
    () => ['add', file('path.json', captureJson({ picture: '../../etc/passwd' }))],
    3,
    /expected a file beside the capture/,
  ],
  [
    'an unknown locale',
    () => [
      'add',
      file('loc.json', captureJson({ cell: { screen: 'home', locale: 'klingon!', theme: 'light' } })),
    ],
    3,
    /unknown locale "klingon!".*BCP 47/,
  ],
  [
    'a capture with a typo',
    () => ['add', file('typo.json', captureJson({ densty: 3 }))],
    3,
    /typo\.json: .*densty/,
  ],
  [
    'a capture that is no JSON',
    () => ['add', file('nojson.json', '{"fenlok": ')],
    3,
    /JSON that cannot be read/,
  ],
  [
    'evidence of another build',
    () => [
      'add',
      file(
        'old.json',
        captureJson({ build: { appId: 'example.kelpline', version: '2.3.9', build: '239', code: 'x' } }),
      ),
    ],
    3,
    /another build: example\.kelpline 2\.3\.9 \(239\).*begin a new dossier/,
  ],
  [
    'a trace line that is none',
    () => [
      'add',
      file('t.jsonl', '{"at":"2026-11-23T10:00:00Z","kind":"link.opened"}\n{"at":"yesterday","kind":"x"}\n'),
    ],
    3,
    /t\.jsonl, line 2, at: /,
  ],
  ['a PNG without its screen', () => ['add', 'home.png'], 2, /--screen ID/],
  ['an XML by itself', () => ['add', 'home.xml'], 2, /give the picture/],
  ['an empty folder', () => ['add', 'hollow'], 3, /a folder without captures/],
  ['an unknown command', () => ['jugde'], 2, /unknown command 'jugde'/],
  ['an option that is missing', () => ['rule', 'abcd-ef01'], 2, /--as/],
  [
    'a ruling before a judgement',
    () => ['rule', 'abcd-ef01', '--as', 'real', '--why', 'x', '--by', 'Ada'],
    3,
    /no judgement here.*fenlok judge/s,
  ],
  [
    'a sign-off of no item',
    () => ['sign', 'a11y.reader-wlk', '--as', 'passed', '--why', 'x', '--by', 'Ada'],
    2,
    /did you mean a11y\.reader-walk/,
  ],
  [
    'a sign-off by nobody',
    () => ['sign', 'a11y.reader-walk', '--as', 'passed', '--why', 'x'],
    2,
    /--by NAME/,
  ],
  ['a colour that is none', () => ['try', 'contrast', 'red', '#fff'], 2, /"red" is not a colour/],
  ['half a question', () => ['try', 'contrast', '#fff'], 2, /give two colours/],
  [
    'a box outside of the picture',
    () => ['try', 'contrast', '--picture', 'home.png', '--box', '50,50,100,20'],
    2,
    /ends at 150, 70, but the picture is 100 × 200/,
  ],
  [
    'a box without text',
    () => ['try', 'contrast', '--picture', 'home.png', '--box', '5,5,50,50'],
    3,
    /only one colour/,
  ],
])('%s', async (_, args, code, message) => {
  const before = inventory();
  const run = await fenlok(args(), scratch);
  expect(run.err).toMatch(message);
  expect(run.code).toBe(code);
  expect(run.err).not.toMatch(/\n\s+at /);
  expect(run.err.split('\n').filter((line) => line.startsWith('fenlok:')).length).toBeLessThanOrEqual(1);
  expect(inventory()).toEqual(before);
});

describe('files that people write', () => {
  const project = (name: string, intent: (text: string) => string, rulings = (text: string) => text) => {
    const folder = join(scratch, name);
    cpSync(join(scratch, 'dossier'), join(folder, 'dossier'), { recursive: true });
    copyIntent(folder, intent);
    writeFileSync(
      join(folder, 'rulings.yaml'),
      rulings(readFileSync(join(demoFolder, 'rulings.yaml'), 'utf8')),
    );
    return folder;
  };

  test.each<[string, (text: string) => string, RegExp]>([
    [
      'a typo in a key',
      (text) => text.replace('sourceLocale:', 'sourceLocal:'),
      /fenlok\.yaml, line 7: unknown key "sourceLocal".*Did you mean "sourceLocale"\?/,
    ],
    [
      'a typo further in',
      (text) => text.replace('  schemes:', '  schems:'),
      /line 60: unknown key "schems" under links.*Did you mean "schemes"/,
    ],
    [
      'a typo in a list',
      (text) => text.replace('- id: sailing', '- idd: sailing'),
      /line 18: unknown key "idd" under screens\.1.*"id"/,
    ],
    [
      'a locale that is none',
      (text) => text.replace('[en, de, nb, pl, ar]', '[en, ed]'),
      /line 8, locales\.1: a BCP 47 language tag/,
    ],
    [
      'a screen that is not listed',
      (text) => text.replace('{ locales: [en, de, ar],', '{ screens: [timetabel], locales: [en, de, ar],'),
      /line 50, coverage\.0\.screens\.0: "timetabel" is not among the screens/,
    ],
    [
      'YAML that does not close',
      (text) => `${text}\nlimits: {textContrast: 4.5`,
      /line \d+: YAML that cannot be read/,
    ],
    [
      'another app',
      (text) => text.replace('id: example.kelpline', 'id: example.other'),
      /example\.other; expected example\.kelpline/,
    ],
    [
      'a theme that is none',
      (text) => text.replace('themes: [light, dark]', 'themes: [light, dusk]'),
      /line 11, themes\.1: /,
    ],
  ])('an intent file with %s', async (name, change, message) => {
    const run = await fenlok(['judge'], project(name.replaceAll(' ', '-'), change));
    expect([run.code, run.err]).toEqual([3, expect.stringMatching(message)]);
    expect(run.err).not.toMatch(/\n\s+at /);
  });

  test('a ruling for a finding that no longer exists is reported as lapsed, and kept', async () => {
    const stale =
      'rulings:\n  # Ada looked twice\n  - { finding: zzzz-zzzz, digest: x, ruling: false-alarm, why: gone by now, by: Ada, at: 2026-01-01 }';
    const folder = project(
      'lapsed',
      (text) => text,
      (text) => text.replace('rulings: []', stale),
    );
    const run = await fenlok(['judge'], folder);
    expect(run.out).toMatch(/Ruling on zzzz-zzzz has lapsed: there is no such finding any more\. It is kept/);
    const [finding] = JSON.parse(readFileSync(join(folder, 'dossier/judgement.json'), 'utf8')).findings;
    expect(
      (
        await fenlok(
          [
            'rule',
            finding.id,
            '--as',
            'false-alarm',
            '--why',
            'the "brand" text: same everywhere',
            '--by',
            'Ada',
          ],
          folder,
        )
      ).code,
    ).toBe(0);
    expect(
      (await fenlok(['sign', 'a11y.reader-walk', '--as', 'passed', '--why', 'walked', '--by', 'Ada'], folder))
        .code,
    ).toBe(0);
    const text = readFileSync(join(folder, 'rulings.yaml'), 'utf8');
    for (const kept of [
      '# Ada looked twice',
      'zzzz-zzzz',
      '# What the Kelpline team decided',
      finding.id,
      'the \\"brand\\" text',
      'a11y.reader-walk',
    ])
      expect(text.replaceAll('"brand"', '\\"brand\\"')).toContain(kept);
    const again = await fenlok(['judge', '--json'], folder);
    expect(JSON.parse(again.out)).toMatchObject({ lapsed: [{ ruling: { finding: 'zzzz-zzzz' } }] });
    expect(JSON.parse(again.out).findings.find(({ id }: { id: string }) => id === finding.id).ruling.by).toBe(
      'Ada',
    );
  });

  test('a rulings file with a typo is reported and not rewritten', async () => {
    const folder = project(
      'rulings-typo',
      (text) => text,
      (text) => text.replace('signOffs:', 'signOfs:'),
    );
    const before = readFileSync(join(folder, 'rulings.yaml'), 'utf8');
    const run = await fenlok(
      ['sign', 'a11y.reader-walk', '--as', 'passed', '--why', 'x', '--by', 'Ada'],
      folder,
    );
    expect([run.code, run.err]).toEqual([
      3,
      expect.stringMatching(/rulings\.yaml, line 4: unknown key "signOfs".*signOffs/),
    ]);
    expect(readFileSync(join(folder, 'rulings.yaml'), 'utf8')).toBe(before);
  });
});

test('one bad file among good ones: the good ones are taken in, the bad one is named', async () => {
  const run = await fenlok(
    ['add', 'home.json', file('bad.json', '{}'), file('note.txt', 'from the walk')],
    scratch,
  );
  expect(run.code).toBe(3);
  expect(run.out).toMatch(/already there {2}capture home\.json/);
  expect(run.out).toMatch(/taken in {2}file note\.txt/);
  expect(run.err).toMatch(/bad\.json/);
});

test('--debug adds the stack, and only then', async () => {
  expect((await fenlok(['--debug', 'read', 'gone.apk'], scratch)).err).toMatch(/\n\s+at /);
});
