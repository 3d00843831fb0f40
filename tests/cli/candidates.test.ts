/** One candidate after another, as people work: from an unknown package to what became of it in the next one. */
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { fenlok } from '../support/command.ts';
import { packApp } from '../support/packed-app.ts';
import { demoApk, describeWith, root, scratchFolder } from '../support/paths.ts';
import { openTerminal, testInTerminal } from '../support/terminal.ts';

const scratch = scratchFolder();

const manifest = (build: number, extra: string) =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.knot" android:versionCode="${build}" android:versionName="1.${build}"><uses-sdk android:minSdkVersion="26" android:targetSdkVersion="35" /><application android:label="@string/app">${extra}</application></manifest>`;
const strings = (texts: Record<string, string>) =>
  `<resources>${Object.entries(texts)
    .map(([key, text]) => `<string name="${key}">${text}</string>`)
    .join('')}</resources>`;
const SERVICE =
  '<service android:name="example.knot.Tide" android:exported="true"/><receiver android:name="example.knot.Bell" android:exported="true"/>';

/** Knot, a made-up app that nobody wrote an intent file for. */
const first = {
  'AndroidManifest.xml': manifest(1, SERVICE),
  'res/values/strings.xml': strings({
    app: 'Knot',
    count: '%1$d knots',
    bye: 'Good bye',
    hail: 'Hail, %1$s',
  }),
  'res/values-de/strings.xml': strings({
    app: 'Knoten',
    count: 'viele Knoten',
    bye: '\u200bTschüs',
    hail: 'Heda, %1$s',
  }),
};
const second = {
  'AndroidManifest.xml': manifest(2, SERVICE),
  'res/values/strings.xml': strings({
    app: 'Knot',
    count: '%1$d knots',
    farewell: 'Good bye',
    hail: 'Hail, %1$s',
  }),
  'res/values-de/strings.xml': strings({
    app: 'Knoten',
    count: '%1$d Knoten',
    farewell: '\u200bTschüs',
    hail: 'Heda',
  }),
};

describeWith('aapt2', 'framework')(
  'from an unknown package to the comparison of the second candidate',
  () => {
    const folder = join(scratch, 'knot');
    const run = (...args: string[]) => fenlok(args, folder);
    let compared: Awaited<ReturnType<typeof run>>;

    beforeAll(async () => {
      mkdirSync(folder);
      cpSync(packApp(join(scratch, 'one'), first), join(folder, 'knot-1.apk'));
      cpSync(packApp(join(scratch, 'two'), second), join(folder, 'knot-2.apk'));
      // the seven that README names, with this app's files
      const readme = readFileSync(join(root, 'README.md'), 'utf8');
      const block = /## Candidate after candidate[\s\S]*?```sh\n([\s\S]*?)```/.exec(readme)![1]!;
      const calls = block
        .split('\n')
        .filter((line) => line.startsWith('npx fenlok '))
        .map((line) =>
          line
            .replace(/ +#.*$/, '')
            .replace('app-rc1.apk', 'knot-1.apk')
            .replace('app-rc2.apk', 'knot-2.apk')
            .split(' ')
            .slice(2),
        );
      expect(calls).toHaveLength(7);
      for (const call of calls) {
        compared = await run(...call);
        expect([call, compared.code]).toEqual([call, expect.any(Number)]);
        expect([call, [0, 1, 4].includes(compared.code!), compared.err]).toEqual([
          call,
          true,
          expect.any(String),
        ]);
      }
    });

    const named = async () =>
      JSON.parse((await run('compare', '--with', 'rc1', 'dossier-rc2', '--json')).out) as {
        findings: { change: string; check: string; where: string }[];
      };

    test('what is new, fixed and called otherwise is told', async () => {
      expect(compared.code).toBe(1);
      const { findings } = await named();
      const of = (change: string) =>
        findings.filter((one) => one.change === change).map(({ check, where }) => `${check} ${where}`);
      expect(of('new')).toEqual(['placeholder-mismatch hail']);
      expect(of('fixed')).toEqual(['placeholder-mismatch count']);
      expect(of('moved')).toEqual(['invisible-character farewell']);
      expect(of('first-look').concat(of('not-looked-again'))).toEqual([]);
      expect(
        findings.some(({ change, check }) => change === 'unchanged' && check === 'needless-export'),
      ).toBe(true);
    });

    test('the intent file that it began with names its schema, for editors', () => {
      const [line] = readFileSync(join(folder, 'fenlok.yaml'), 'utf8').split('\n');
      const [, schema] = /^# yaml-language-server: \$schema=node_modules\/fenlok\/(.*)$/.exec(line!)!;
      expect(JSON.parse(readFileSync(join(root, schema!), 'utf8')).properties.screens).toBeDefined();
    });

    test('the trend tells of both, draws them, and what was kept is small and kept once', async () => {
      await run('keep', '--name', 'rc2', '--dossier', 'dossier-rc2');
      const again = await run('keep', '--name', 'rc2', '--dossier', 'dossier-rc2');
      expect(again.out).toContain('is kept already');
      const { candidates, oldest } = JSON.parse((await run('trend', '--json', '--svg', 'trend.svg')).out);
      expect(candidates.map(({ name }: { name: string }) => name)).toEqual(['rc1', 'rc2']);
      expect(oldest.map(({ candidates: count }: { candidates: number }) => count)).toContain(2);
      expect(readFileSync(join(folder, 'trend.svg'), 'utf8')).toMatch(
        /^<svg[^>]*viewBox[\s\S]*rc1[\s\S]*<\/svg>\n$/,
      );
      const shown = await run('trend');
      expect(shown.out).toMatch(/rc1 +1 /);
      expect(shown.out).toMatch(/Open the longest\n.*since rc1, 2 candidates/);
      const objects = readdirSync(join(folder, 'releases/objects'), { recursive: true, withFileTypes: true });
      expect(objects.filter((entry) => entry.isFile()).length).toBeLessThan(10);
    });

    test('a missing or damaged object, a name that is taken or unknown, and another app are each said', async () => {
      const broken = join(folder, 'broken');
      cpSync(join(folder, 'releases'), broken, { recursive: true });
      const kept = JSON.parse(readFileSync(join(broken, 'kept/rc1.json'), 'utf8'));
      const { digest } = kept.files['judgement.json'];
      const object = join(broken, 'objects', digest.slice(0, 2), digest.slice(2));
      const bytes = readFileSync(object);
      const against = () => run('compare', '--with', 'rc1', '--in', 'broken', 'dossier-rc2');
      writeFileSync(object, bytes.subarray(0, bytes.length - 9));
      expect(await against()).toMatchObject({
        code: 3,
        err: expect.stringMatching(/objects.*judgement\.json of rc1.*damaged/s),
      });
      rmSync(object);
      expect(await against()).toMatchObject({
        code: 3,
        err: expect.stringContaining('the object is missing'),
      });
      // another memory, where none of its files are: a refused candidate leaves nothing there
      await run('keep', '--name', 'rc1', '--in', 'strict');
      const filesIn = () => readdirSync(join(folder, 'strict'), { recursive: true }).sort();
      const keptFiles = filesIn();
      expect((await run('keep', '--name', 'rc1', '--in', 'strict', '--dossier', 'dossier-rc2')).code).toBe(3);
      expect(filesIn()).toEqual(keptFiles);
      expect(await run('trend', '--platform', 'ios')).toMatchObject({ code: 2 });
      expect(await run('keep', '--name', 'rc1', '--dossier', 'dossier-rc2')).toMatchObject({
        code: 3,
        err: expect.stringContaining('build 1 under this name'),
      });
      expect(await run('keep', '--name', '../x')).toMatchObject({ code: 2 });
      expect(await run('compare', '--with', 'rc9', 'dossier-rc2')).toMatchObject({
        code: 3,
        err: expect.stringContaining('expected one of rc1, rc2'),
      });
      await run('add', demoApk, '--dossier', 'other');
      await fenlok(['judge', '--dossier', join(folder, 'other')], scratch);
      expect(await run('compare', 'dossier', 'other')).toMatchObject({
        code: 2,
        err: expect.stringContaining('different apps'),
      });
      expect(await run('compare', 'dossier')).toMatchObject({ code: 2 });
    });

    test('a variant with a suffix is judged by the same intent file, once it is named there', async () => {
      const manifestOfBeta = first['AndroidManifest.xml'].replace('"example.knot"', '"example.knot.beta"');
      const beta = packApp(join(scratch, 'beta'), { ...first, 'AndroidManifest.xml': manifestOfBeta });
      await run('add', beta, '--dossier', 'dossier-beta');
      expect(await run('judge', '--dossier', 'dossier-beta')).toMatchObject({
        code: 3,
        err: expect.stringMatching(/app\.id.*example\.knot.*write "\.beta" under app\.suffixes/s),
      });
      const intent = readFileSync(join(folder, 'fenlok.yaml'), 'utf8');
      expect(intent).toContain('id: example.knot');
      const other = join(folder, 'with-suffix.yaml');
      writeFileSync(other, intent.replace(/( +)id: example\.knot\n/, '$&$1suffixes: [.beta]\n'));
      const judged = await run(
        'judge',
        '--dossier',
        'dossier-beta',
        '--intent',
        'with-suffix.yaml',
        '--json',
      );
      expect(JSON.parse(judged.out).candidate.build.appId).toBe('example.knot.beta');
      expect((await run('judge', '--dossier', 'dossier', '--intent', 'with-suffix.yaml')).code).not.toBe(3);
    });

    test('a judgement that does not say what it looked at is not compared by guessing', async () => {
      const file = join(folder, 'old.json');
      const { looked: _, ...old } = JSON.parse(readFileSync(join(folder, 'dossier/judgement.json'), 'utf8'));
      writeFileSync(file, JSON.stringify(old));
      expect(await run('compare', 'old.json', 'dossier-rc2')).toMatchObject({
        code: 3,
        err: expect.stringContaining('fenlok judge'),
      });
    });

    test('in bulk, a count confirms how many are meant', async () => {
      const args = [
        'rule',
        '--check',
        'needless-export',
        '--as',
        'accepted',
        '--why',
        'Partners do',
        '--by',
        'Ada',
      ];
      expect(await run(...args)).toMatchObject({
        code: 2,
        err: expect.stringMatching(/--count 2:\n {2}\w{4}-\w{4} /),
      });
      expect(await run(...args, '--count', '3')).toMatchObject({
        code: 2,
        err: expect.stringContaining('2 findings, not 3'),
      });
      expect(existsSync(join(folder, 'rulings.yaml'))).toBe(false);
      expect(await run(...args, '--element', '*.bell', '--count', '1')).toMatchObject({ code: 0 });
      const { rulings } = parse(readFileSync(join(folder, 'rulings.yaml'), 'utf8'));
      expect(rulings.map(({ about }: { about: string }) => about)).toEqual([
        expect.stringContaining('example.knot.Bell'),
      ]);
      // what was decided is not decided again, though nothing was judged meanwhile
      expect(await run(...args, '--count', '2')).toMatchObject({
        code: 2,
        err: expect.stringContaining('means 1 finding, not 2'),
      });
      expect(await run(...args, '--screen', 'home')).toMatchObject({
        code: 2,
        err: expect.stringContaining('no open finding'),
      });
    });

    testInTerminal('one by one, each decision is written at once, and the last is taken back', async () => {
      rmSync(join(folder, 'rulings.yaml'), { force: true });
      const terminal = openTerminal(['rule'], folder, { FENLOK_NAME: 'Ada' });
      const ruled = () =>
        existsSync(join(folder, 'rulings.yaml'))
          ? parse(readFileSync(join(folder, 'rulings.yaml'), 'utf8')).rulings.map(
              ({ by, ruling, why }: Record<string, string>) => `${ruling}, ${by}: ${why}`,
            )
          : [];
      await terminal.says('1/');
      terminal.press('f');
      await terminal.says('why');
      terminal.press('seem\u007fn it\r');
      await terminal.says('2/');
      expect(ruled()).toEqual(['false-alarm, Ada: seen it']);
      terminal.press('a');
      await terminal.says('Enter: seen it');
      terminal.press('\r');
      await terminal.says('3/');
      expect(ruled()).toHaveLength(2);
      terminal.press('u');
      await terminal.says('is taken back');
      expect(ruled()).toEqual(['false-alarm, Ada: seen it']);
      terminal.press('q');
      expect(await terminal.ended).toBe(0);
      expect(terminal.said()).toContain('1 decision in');
    });

    test('without a terminal it says what to name', async () => {
      expect(await run('rule')).toMatchObject({ code: 2, err: expect.stringContaining('--check') });
    });

    test('a merge that git left open is named by its line, and settled', async () => {
      const entry = (finding: string, by: string) =>
        `  - finding: ${finding}\n    digest: d\n    ruling: accepted\n    why: w\n    by: ${by}\n    at: 2026-11-20\n`;
      writeFileSync(
        join(folder, 'rulings.yaml'),
        `fenlok: rulings/1\nrulings:\n<<<<<<< HEAD\n${entry('aaaa-0000', 'Ada')}=======\n${entry('bbbb-0000', 'Bo')}>>>>>>> theirs\n`,
      );
      expect(await run('judge')).toMatchObject({
        code: 3,
        err: expect.stringMatching(/rulings\.yaml.*line 3.*--settle/s),
      });
      expect(await run('rule', '--settle')).toMatchObject({
        code: 0,
        out: expect.stringContaining('2 decisions are kept'),
      });
      expect((await run('judge')).code).not.toBe(3);
    });
  },
);
