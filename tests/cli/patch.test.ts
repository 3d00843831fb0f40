/** `fenlok patch`: the diff of a colour, applied by git, and the app packed again by the platform's own packer. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fenlok } from '../support/command.ts';
import { packApp } from '../support/packed-app.ts';
import { demoApk, demoFolder, describeWith, scratchFolder } from '../support/paths.ts';

const MANIFEST =
  '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.knot" android:versionCode="1" android:versionName="1"><uses-sdk android:minSdkVersion="26" android:targetSdkVersion="34" /><application android:label="Knot" /></manifest>';

const layout = (...texts: string[]) =>
  `<LinearLayout xmlns:android="http://schemas.android.com/apk/res/android" android:layout_width="match_parent" android:layout_height="match_parent" android:background="@color/paper">${texts.join('')}</LinearLayout>`;
const text = (colour: string, behind?: string) =>
  `<TextView android:layout_width="wrap_content" android:layout_height="wrap_content" android:textSize="14sp" android:text="Knots" android:textColor="@color/${colour}"${behind ? ` android:background="@color/${behind}"` : ''} />`;

// a mark at the start, CR LF, a comment that holds the same words, capitals
const DAY =
  '\uFEFF<resources>\r\n  <!-- <color name="faint">#B0B0B0</color> -->\r\n  <color name="paper">#FFFFFF</color>\r\n\t<color name="faint" >#B0B0B0</color> <!-- as in the old app -->\r\n  <color name="ink">#202020</color>\r\n</resources>\r\n';
const NIGHT =
  '<resources>\n    <color name="paper">#101010</color>\n    <color name="ink">#f0f0f0</color>\n    <color name="faint">#a0a0a0</color>\n</resources>\n';

interface Told {
  id: string;
  check: string;
  subject: string;
  aspect: string;
}

describeWith('aapt2')('a patch', () => {
  const folder = scratchFolder();
  let count = 0;

  async function project(
    layouts: Record<string, string>,
    day = DAY,
    night = NIGHT,
    more: Record<string, string> = {},
  ) {
    const home = join(folder, `app-${count++}`);
    const files = {
      'AndroidManifest.xml': MANIFEST,
      'res/values/colors.xml': day,
      'res/values-night/colors.xml': night,
      ...Object.fromEntries(
        Object.entries(layouts).map(([name, content]) => [`res/layout/${name}.xml`, content]),
      ),
      ...more,
    };
    for (const [file, content] of Object.entries(files)) {
      mkdirSync(dirname(join(home, 'src', file)), { recursive: true });
      writeFileSync(join(home, 'src', file), content);
    }
    execFileSync('git', ['init', '-q'], { cwd: home });
    let built = 0;
    return {
      home,
      read: (file: string) => readFileSync(join(home, 'src', file), 'utf8'),
      patch: (...args: string[]) => fenlok(['patch', '--source', 'src', ...args], home),
      /** Packed from the sources as they are now, and judged in a dossier of its own. */
      findings: async (): Promise<Told[]> => {
        const out = join(home, `built-${built++}`);
        const now = Object.keys(files).map((file): [string, string] => [
          file,
          readFileSync(join(home, 'src', file), 'utf8'),
        ]);
        const apk = packApp(out, Object.fromEntries(now));
        await fenlok(['add', apk, '--dossier', `dossier-${built}`], home);
        await fenlok(['judge', '--dossier', `dossier-${built}`], home);
        const judgement = JSON.parse(readFileSync(join(home, `dossier-${built}`, 'judgement.json'), 'utf8'));
        return judgement.findings.map(
          ({ check, id, identity }: { check: string; id: string; identity: Told }) => ({
            id,
            check,
            subject: identity.subject,
            aspect: identity.aspect,
          }),
        );
      },
    };
  }
  const faint = ({ check }: Told) => check === 'theme-contrast';

  test('applied by git, it changes the value and nothing else; that finding is gone and no other came', async () => {
    const { findings, home, patch, read } = await project({ main: layout(text('faint'), text('ink')) });
    const before = await findings();
    const [found, ...more] = before.filter(faint);
    expect([found, more]).toEqual([
      expect.objectContaining({ subject: 'color/faint on color/paper', aspect: 'light' }),
      [],
    ]);
    const { code, err, out } = await patch(found!.id, '--dossier', 'dossier-1');
    expect({ code, err }).toEqual({ code: 0, err: expect.stringContaining('one pair of the layouts') });
    writeFileSync(join(home, 'fix.diff'), out);
    execFileSync('git', ['apply', '--whitespace=nowarn', 'fix.diff'], { cwd: home });
    const [, value] = /faint" >(#[0-9A-F]{6})</.exec(read('res/values/colors.xml'))!;
    expect(read('res/values/colors.xml')).toBe(DAY.replace('" >#B0B0B0', `" >${value}`));
    expect(read('res/values-night/colors.xml')).toBe(NIGHT);
    const after = await findings();
    expect(after).toEqual(before.filter(({ id }) => id !== found!.id));
  });

  test('one colour on two grounds: what the first patch fixes too is told, what it does not gets one on top of it', async () => {
    const day = DAY.replace('</resources>', '  <color name="panel">#E4E4E4</color>\r\n</resources>');
    const app = await project({ main: layout(text('faint'), text('faint', 'panel')) }, day, NIGHT);
    const found = (await app.findings()).filter(faint).filter(({ aspect }) => aspect === 'light');
    expect(found.map(({ subject }) => subject).sort()).toEqual([
      'color/faint on color/panel',
      'color/faint on color/paper',
    ]);
    // the worse one needs more, so that it fixes the other with it
    const idOf = (ground: string) => found.find(({ subject }) => subject.endsWith(ground))!.id;
    const both = [idOf('panel'), idOf('paper')];
    const { code, err } = await app.patch(...both, '--dossier', 'dossier-1');
    expect([code, err]).toEqual([0, expect.stringContaining(`the patch of ${both[0]} fixes it too`)]);
    const chain = await app.patch(...both.toReversed(), '--dossier', 'dossier-1', '--write');
    expect([chain.code, chain.err.match(/becomes/g)?.length]).toEqual([0, 2]);
    const left = (await app.findings()).filter(({ id }) => both.includes(id));
    expect(left).toEqual([]);
  });

  test('by night alone, it goes to the file of the night, and --write writes it', async () => {
    const night = NIGHT.replace('#a0a0a0', '#303030');
    const { findings, patch, read } = await project(
      { main: layout(text('faint')) },
      DAY.replace('" >#B0B0B0', '" >#404040'),
      night,
    );
    const [found] = (await findings()).filter(faint);
    expect(found).toMatchObject({ aspect: 'dark' });
    expect(await patch(found!.id, '--dossier', 'dossier-1', '--write')).toMatchObject({
      code: 0,
      out: 'src/res/values-night/colors.xml is written\n',
    });
    expect(read('res/values-night/colors.xml')).not.toBe(night);
    expect((await findings()).filter(faint)).toEqual([]);
  });

  test('a value that would break another pair is not proposed', async () => {
    // too light for paper, and as light as it has to be for ink on it; by night it is right for both
    const grey = DAY.replace('" >#B0B0B0', '" >#8A8A8A');
    const night = NIGHT.replace('#101010', '#000000')
      .replace('#f0f0f0', '#ffffff')
      .replace('#a0a0a0', '#767676');
    const { findings, patch, read } = await project(
      { main: layout(text('faint'), text('ink', 'faint')) },
      grey,
      night,
    );
    const [found] = (await findings()).filter(faint);
    const { code, err, out } = await patch(found!.id, '--dossier', 'dossier-1');
    expect({ code, out }).toEqual({ code: 4, out: '' });
    expect(err).toMatch(
      /color\/faint #\w+ would make color\/ink on color\/faint in the light theme too faint/,
    );
    expect(read('res/values/colors.xml')).toBe(grey);
  });

  test('where the night has no value of its own, the one of the day is not changed to harm the day', async () => {
    const night = NIGHT.replace(/.*faint.*\n/, '');
    const dark = DAY.replace('" >#B0B0B0', '" >#404040');
    const { findings, patch } = await project({ main: layout(text('faint')) }, dark, night);
    const [found] = (await findings()).filter(faint);
    expect(found).toMatchObject({ aspect: 'dark' });
    const { code, err } = await patch(found!.id, '--dossier', 'dossier-1');
    expect([code, err]).toEqual([
      4,
      expect.stringMatching(/color\/faint on color\/paper in the light theme too faint/),
    ]);
  });

  test('texts: each fault is put right where it is written, and every other byte is as it was', async () => {
    const { findings, home, patch, read } = await project({ main: layout(text('ink')) });
    const source =
      '<resources>\n  <string name="pier">Pier \\n 4</string>\n  <string name="food">Food &amp; drink</string>\n  <string name="quiet">Quiet room</string>\n  <string name="dogs">Dogs</string>\n  <string name="till">Open till late</string>\n</resources>\n';
    const german = [
      '<resources>\r\n  <!-- <string name="food">Essen &amp;amp; Trinken</string> -->',
      '  <string name="pier">Steg \\\\n 4</string>',
      '  <string name="food">Essen &amp;amp; Trinken</string>',
      '  <string name="quiet">Ruhe\u200Braum</string>',
      '  <string name="dogs">"Hunde "</string>',
      '  <string name="till">Auf, bis\'s dunkel ist</string>',
      '</resources>',
    ].join('\r\n');
    for (const [folder, content] of [
      ['values', source],
      ['values-de', german],
    ] as const) {
      mkdirSync(join(home, 'texts', folder), { recursive: true });
      writeFileSync(join(home, 'texts', folder, 'strings.xml'), content);
    }
    const judged = async (dossier: string) => {
      await fenlok(['add', 'texts', '--dossier', dossier], home);
      await fenlok(['judge', '--dossier', dossier], home);
      const { findings: all } = JSON.parse(readFileSync(join(home, dossier, 'judgement.json'), 'utf8'));
      return (all as (Told & { identity: Told })[]).filter(({ check }) =>
        ['swallowed-escape', 'invisible-character', 'stray-space'].includes(check),
      );
    };
    await findings();
    const before = await judged('dossier-1');
    expect(before.map(({ check, identity }) => `${check} ${identity.subject}`).sort()).toEqual([
      'invisible-character quiet',
      'stray-space dogs',
      'swallowed-escape food',
      'swallowed-escape pier',
      'swallowed-escape till',
    ]);
    const ids = before.map(({ id }) => id);
    const call = await patch(...ids, '--dossier', 'dossier-1', '--source', 'texts', '--write');
    expect(call).toMatchObject({
      code: 0,
      err: expect.stringContaining('every other text of the file is as it was'),
    });
    const expected = german
      .replace('Steg \\\\n', 'Steg \\n')
      .replace('>Essen &amp;amp; Trinken</string>\r', '>Essen &amp; Trinken</string>\r')
      .replace('\u200B', '')
      .replace('Hunde "', 'Hunde"')
      .replace("bis's", "bis\\'s");
    expect(read('../texts/values-de/strings.xml')).toBe(expected);
    expect(read('../texts/values/strings.xml')).toBe(source);
    await findings();
    expect(await judged('dossier-2')).toEqual([]);
  });

  /** Each patched, applied by git, and judged again: what is left of the findings. */
  async function applied({ findings, home, patch }: Awaited<ReturnType<typeof project>>, checks: string[]) {
    const before = await findings();
    const ids = before.filter(({ check }) => checks.includes(check)).map(({ id }) => id);
    const { code, err, out } = await patch(...ids, '--dossier', 'dossier-1');
    expect([err, out]).toEqual([expect.anything(), expect.stringContaining('+++ b/src')]);
    writeFileSync(join(home, 'fix.diff'), out);
    execFileSync('git', ['apply', '--whitespace=nowarn', 'fix.diff'], { cwd: home });
    return { code, err, ids, before, after: await findings() };
  }

  const component = (name: string, more: string, data = '<data android:scheme="knot" android:host="x" />') =>
    `<activity\r\n        android:name="${name}"${more}>\r\n        <!-- a link -->\r\n        <intent-filter>\r\n            <action android:name="android.intent.action.VIEW" />\r\n            <category android:name="android.intent.category.DEFAULT" />\r\n            ${data}\r\n        </intent-filter>\r\n    </activity>\r\n`;
  const web = '<data android:scheme="https" android:host="knot.example" />';
  const manifest = (...components: string[]) =>
    MANIFEST.replace(
      '<application android:label="Knot" />',
      `<application android:label="Knot">\r\n    ${components.join('    ')}</application>`,
    );

  test('the manifest: categories and exports, each where it stands, and nothing else', async () => {
    const opened = component('.LinkActivity', '\r\n        android:exported="false"', web);
    const service = '<service android:name="example.knot.Sync" android:exported=\'true\' />\r\n';
    const app = await project({}, DAY, NIGHT, { 'AndroidManifest.xml': manifest(opened, service) });
    const { after, before, code, ids } = await applied(app, ['closed-link-filter', 'needless-export']);
    expect([code, ids.length]).toEqual([0, 2]);
    expect(app.read('AndroidManifest.xml')).toBe(
      manifest(
        opened
          .replace('exported="false"', 'exported="true"')
          .replace(
            /( +)(<category [^>]*DEFAULT" \/>)\r\n/,
            '$1$2\r\n$1<category android:name="android.intent.category.BROWSABLE" />\r\n',
          ),
        service.replace("'true'", '"false"'),
      ),
    );
    expect(after).toEqual(before.filter(({ id }) => !ids.includes(id)));
  });

  test('what the manifest leaves to a person is told, and so is a component that is nowhere or twice', async () => {
    const off = component('.LinkActivity', ' android:exported="true" android:enabled="false"', web);
    const app = await project({}, DAY, NIGHT, { 'AndroidManifest.xml': manifest(off) });
    const [closed] = (await app.findings()).filter(({ check }) => check === 'closed-link-filter');
    const tell = async () => {
      const { code, err } = await app.patch(closed!.id, '--dossier', 'dossier-1');
      expect(code).toBe(4);
      return err;
    };
    expect(await tell()).toMatch(/switched off: whether it is to be on is for you to say/);
    mkdirSync(join(app.home, 'src/debug'));
    writeFileSync(join(app.home, 'src/debug/AndroidManifest.xml'), manifest(off));
    expect(await tell()).toMatch(
      /is declared in src\/AndroidManifest\.xml and src\/debug|src\/debug.* and src\/A/,
    );
    for (const folder of ['src', 'src/debug'])
      writeFileSync(join(app.home, folder, 'AndroidManifest.xml'), manifest());
    expect(await tell()).toMatch(/no manifest under the source declares example\.knot\.LinkActivity/);
    // one of the same name in another package is another
    writeFileSync(
      join(app.home, 'src/AndroidManifest.xml'),
      manifest(off).replace('package="example.knot"', 'package="example.rope"'),
    );
    expect(await tell()).toMatch(/no manifest under the source declares example\.knot\.LinkActivity/);
  });

  test('a change that would bring another finding is not proposed', async () => {
    const open = component('.LinkActivity', ' android:exported="true"', web);
    const app = await project({}, DAY, NIGHT, { 'AndroidManifest.xml': manifest(open) });
    writeFileSync(
      join(app.home, 'fenlok.yaml'),
      'fenlok: intent/1\napp: { id: example.knot }\nscreens: [{ id: main, activity: LinkActivity }]\nlinks: { hosts: [knot.example], routes: [{ id: all, url: /all, screen: main }] }\n',
    );
    const [closed] = (await app.findings()).filter(({ check }) => check === 'closed-link-filter');
    const { code, err, out } = await app.patch(closed!.id, '--dossier', 'dossier-1');
    expect([code, out]).toEqual([4, '']);
    expect(err).toMatch(/unverified-domain would find: knot\.example is in a link filter, and nobody asks/);
  });

  test('plurals get the forms that they lack, in their order', async () => {
    const forms = (...items: [string, string][]) =>
      `<resources>\n    <plurals name="knots">\n${items.map(([quantity, words]) => `        <item quantity="${quantity}">${words}</item>\n`).join('')}    </plurals>\n</resources>\n`;
    const app = await project({}, DAY, NIGHT, {
      'res/values/strings.xml': forms(['one', '%d knot'], ['other', '%d knots']),
      'res/values-pl/strings.xml': forms(['one', '%d węzeł'], ['other', '%d węzła &amp; liny']),
    });
    const { after, before, err, ids } = await applied(app, ['plural-forms']);
    expect(ids.length).toBe(1);
    expect(err).toMatch(/plurals\/knots in pl gets few and many; .* word it/);
    expect(app.read('res/values-pl/strings.xml')).toBe(
      forms(
        ['one', '%d węzeł'],
        ['few', '%d węzła &amp; liny'],
        ['many', '%d węzła &amp; liny'],
        ['other', '%d węzła &amp; liny'],
      ),
    );
    expect(after).toEqual(before.filter(({ id }) => !ids.includes(id)));
  });

  test.each([
    ['another certificate', (json: object[]) => json],
    [
      'another app',
      (json: object[]) =>
        json.map((one) => JSON.parse(JSON.stringify(one).replace('example.kelpline', 'example.gull'))),
    ],
  ])('a site that agrees to %s', async (_, change) => {
    const home = join(folder, `site-${count++}`);
    const file = join(home, 'www/www.kelpline.example/.well-known/assetlinks.json');
    mkdirSync(dirname(file), { recursive: true });
    const served = readFileSync(
      join(demoFolder, 'site/www.kelpline.example/.well-known/assetlinks.json'),
      'utf8',
    );
    writeFileSync(
      file,
      `${JSON.stringify(change(JSON.parse(served.slice(served.indexOf('[')))), null, 4)}\n`,
    );
    writeFileSync(
      join(home, 'fenlok.yaml'),
      'fenlok: intent/1\napp: { id: example.kelpline }\nlinks: { hosts: [www.kelpline.example] }\n',
    );
    execFileSync('git', ['init', '-q'], { cwd: home });
    const unverified = async (dossier: string) => {
      await fenlok(['add', demoApk, 'www', '--dossier', dossier], home);
      await fenlok(['judge', '--dossier', dossier], home);
      const { findings } = JSON.parse(readFileSync(join(home, dossier, 'judgement.json'), 'utf8'));
      return (findings as (Told & { identity: Told })[]).map(({ check, id, identity }) => ({
        id,
        of: `${check} ${identity.subject}`,
      }));
    };
    const before = await unverified('dossier-1');
    const found = before.find(({ of }) => of === 'unverified-domain www.kelpline.example')!;
    const { code, out } = await fenlok(
      ['patch', found.id, '--dossier', 'dossier-1', '--source', 'www'],
      home,
    );
    expect(code).toBe(0);
    writeFileSync(join(home, 'fix.diff'), out);
    execFileSync('git', ['apply', 'fix.diff'], { cwd: home });
    expect(out.split('\n').filter((line) => /^-[^-]/.test(line)).length).toBeLessThan(3);
    expect(await unverified('dossier-2')).toEqual(before.filter(({ id }) => id !== found.id));
  });

  test('what has no mechanical remedy, and what is no source, is told', async () => {
    const { findings, patch } = await project({ main: layout(text('faint')) });
    const other = (await findings()).find((one) => !faint(one))!;
    expect(await patch(other.id, '--dossier', 'dossier-1')).toMatchObject({
      code: 4,
      out: '',
      err: expect.stringContaining(`what ${other.check} finds has no mechanical remedy`),
    });
    expect(await patch(other.id, '--dossier', 'dossier-1', '--source', 'no-such')).toMatchObject({ code: 3 });
  });
});
