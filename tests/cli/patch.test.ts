/** `fenlok patch`: the diff of a colour, applied by git, and the app packed again by the platform's own packer. */
import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fenlok } from '../support/command.ts';
import { packApp } from '../support/packed-app.ts';
import { describeWith, scratchFolder } from '../support/paths.ts';

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

  async function project(layouts: Record<string, string>, day = DAY, night = NIGHT) {
    const home = join(folder, `app-${count++}`);
    const files = {
      'AndroidManifest.xml': MANIFEST,
      'res/values/colors.xml': day,
      'res/values-night/colors.xml': night,
      ...Object.fromEntries(
        Object.entries(layouts).map(([name, content]) => [`res/layout/${name}.xml`, content]),
      ),
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

  test('what has no mechanical remedy, and what is no source, is told', async () => {
    const { findings, patch } = await project({ main: layout(text('faint')) });
    const other = (await findings()).find((one) => !faint(one))!;
    expect(await patch(other.id, '--dossier', 'dossier-1')).toMatchObject({
      code: 4,
      out: '',
      err: expect.stringContaining(`what ${other.check} finds has no mechanical remedy`),
    });
    expect(await patch(other.id, '--dossier', 'dossier-1', '--source', 'no-such')).toMatchObject({ code: 2 });
  });
});
