/** The package reader held against the platform's own packer, aapt2, on the demo's APK. */
import { execFileSync } from 'node:child_process';
import { readApk } from '../../../src/core/formats/android/apk.ts';
import type { Resource } from '../../../src/core/formats/android/resource-table.ts';
import { readResourceTable } from '../../../src/core/formats/android/resource-table.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { withApk } from '../../../src/node/read-package.ts';
import { demoApk, describeWith, tools } from '../../support/paths.ts';
import { writeZip } from '../../support/zip-writer.ts';

const aapt2 = (...args: string[]) =>
  execFileSync(tools.aapt2, args, { encoding: 'utf8', maxBuffer: 2 ** 28 });

describeWith('aapt2')('held against aapt2', () => {
  test('identity, SDK levels and permissions', async () => {
    const badging = aapt2('dump', 'badging', demoApk);
    const { build, manifest, name } = await withApk(demoApk, ({ app }) => app);
    const [, appId, versionCode, versionName] =
      /package: name='([^']*)' versionCode='([^']*)' versionName='([^']*)'/.exec(badging)!;
    expect(build).toMatchObject({ appId, build: versionCode, version: versionName });
    expect(name).toBe(/application-label:'([^']*)'/.exec(badging)![1]);
    expect([manifest.minSdk, manifest.targetSdk].map(String)).toEqual([
      /sdkVersion:'(\d+)'/.exec(badging)![1],
      /targetSdkVersion:'(\d+)'/.exec(badging)![1],
    ]);
    expect(manifest.permissions).toEqual(
      [...badging.matchAll(/uses-permission: name='([^']*)'/g)].map((match) => match[1]),
    );
  });

  test('components and their filters', async () => {
    const dump = aapt2('dump', 'xmltree', '--file', 'AndroidManifest.xml', demoApk);
    const { manifest } = await withApk(demoApk, ({ app }) => app);
    const activities = dump.split(/\n\s*E: activity /).slice(1);
    expect(manifest.components).toHaveLength(activities.length);
    for (const [i, text] of activities.entries()) {
      const component = manifest.components[i]!;
      const raw = (attribute: string) =>
        [...text.matchAll(new RegExp(`:${attribute}\\([^)]*\\)="([^"]*)"`, 'g'))].map((match) => match[1]);
      expect(component.name).toBe(raw('name')[0]!.replace(/^\./, 'example.kelpline.'));
      expect(component.exported).toBe(/:exported\([^)]*\)=true/.test(text));
      expect(component.filters).toHaveLength(text.split('E: intent-filter').length - 1);
      expect(component.filters.flatMap((filter) => [...filter.actions, ...filter.categories])).toEqual(
        raw('name').slice(1),
      );
      expect(component.filters.flatMap((filter) => filter.schemes)).toEqual(raw('scheme'));
      expect(component.filters.flatMap((filter) => filter.hosts)).toEqual(raw('host'));
    }
  });

  test('every string of every language, and every plural form', async () => {
    const printed = textsPrinted(aapt2('dump', 'resources', demoApk));
    const { texts } = await withApk(demoApk, ({ app }) => app);
    const read = texts.map(({ key, locale, form, text }) => `${key}|${locale}|${form ?? ''}|${text}`);
    expect(read.sort()).toEqual(printed.sort());
    expect(printed.length).toBeGreaterThan(400);
  });
});

describeWith('aapt2', 'framework')('the framework resource package', () => {
  test('has every resource name and configuration count that aapt2 prints', async () => {
    // after an empty array aapt2 forgets the line break
    const dump = aapt2('dump', 'resources', tools.framework)
      .replace(/^ {8}\[(?=resource)/gm, '    ')
      .replace(/^ {8}\[ *(?=\()/gm, '      ');
    const printed = new Map<string, number>();
    let current = '';
    for (const line of dump.split('\n')) {
      const name = /^ {4}resource 0x[0-9a-f]+ (\S+)/.exec(line)?.[1];
      if (name) {
        current = name;
        printed.set(current, 0);
      } else if (/^ {6}\(/.test(line)) printed.set(current, printed.get(current)! + 1);
    }
    const table = await withApk(tools.framework, (apk) => apk.table!);
    const read = new Map(
      [...table.resources.values()].map((resource: Resource) => [
        `${resource.type}/${resource.name}`,
        resource.variants.length,
      ]),
    );
    expect(read.size).toBe(printed.size);
    expect([...printed].filter(([name, count]) => read.get(name) !== count)).toEqual([]);
  });
});

/** `string/x` entries of `aapt2 dump resources` in the form `key|locale|form|text`. */
function textsPrinted(dump: string): string[] {
  const texts: string[] = [];
  let type = '';
  let key = '';
  let locale = '';
  for (const line of dump.split('\n')) {
    const resource = /^ {4}resource 0x[0-9a-f]+ (\w+)\/(\S+)/.exec(line);
    if (resource) [, type, key] = resource as unknown as [string, string, string];
    if (type !== 'string' && type !== 'plurals') continue;
    const value = /^ {6}\(([^)]*)\) (.*)$/.exec(line);
    if (value) locale = value[1] || 'default';
    const single = value && /^"(.*)"$/.exec(value[2]!);
    if (single) texts.push(`${key}|${locale}||${single[1]}`);
    for (const [, form, text] of line.matchAll(/(zero|one|two|few|many|other)="([^"]*)"/g))
      if (type === 'plurals') texts.push(`plurals/${key}|${locale}|${form}|${text}`);
  }
  return texts;
}

describe('what is no APK', () => {
  const manifestOf = async (bytes: Uint8Array) => readApk('x.apk', bytesSource(bytes), 'digest', nodePorts);

  test.each([
    ['an iOS package', ['Payload/App.app/Info.plist'], /an iOS package/],
    ['an app bundle', ['BundleConfig.pb'], /App Bundle/],
    ['some archive', ['readme.txt'], /without AndroidManifest/],
  ])('%s is named as such', async (_, names, found) => {
    const result = await manifestOf(writeZip(names.map((name) => ({ name, data: new Uint8Array([1]) }))));
    expect(result).toMatchObject({
      ok: false,
      problem: { code: 'apk.no-manifest', found: expect.stringMatching(found) },
    });
  });

  test('a manifest in plain text is told from a compiled one', async () => {
    const result = await manifestOf(
      writeZip([{ name: 'AndroidManifest.xml', data: new TextEncoder().encode('<manifest/>') }]),
    );
    expect(result).toMatchObject({ ok: false, problem: { code: 'xml.not-binary', file: 'x.apk' } });
  });

  test('a manifest or table that is cut off is refused, wherever it is cut', async () => {
    const whole = await withApk(demoApk, async ({ zip }) => ({
      manifest: await zip.read('AndroidManifest.xml'),
      table: await zip.read('resources.arsc'),
    }));
    for (let cut = 0; cut < whole.manifest.length; cut += 97) {
      const result = await manifestOf(
        writeZip([{ name: 'AndroidManifest.xml', data: whole.manifest.subarray(0, cut) }]),
      );
      expect(result.ok).toBe(false);
    }
    for (let cut = 0; cut < whole.table.length - 1000; cut += 1777) {
      const act = () => readResourceTable(whole.table.subarray(0, cut));
      try {
        act();
      } catch (error) {
        expect((error as Error).name).toBe('UnreadableError');
      }
    }
  });

  test('the code digest is that of the dex files, so that signing anew changes nothing', async () => {
    const original = await withApk(demoApk, ({ app }) => app.build);
    const entries = await withApk(demoApk, async ({ zip }) =>
      Promise.all(
        [...zip.entries.keys()]
          .filter((name) => !name.startsWith('META-INF/'))
          .map(async (name) => ({ name, data: await zip.read(name) })),
      ),
    );
    const unsigned = await manifestOf(writeZip(entries));
    expect(unsigned).toMatchObject({ ok: true, value: { app: { build: original } } });
    const changed = entries.map((entry) =>
      entry.name === 'classes.dex' ? { ...entry, data: new Uint8Array([...entry.data, 0]) } : entry,
    );
    const other = await manifestOf(writeZip(changed));
    expect(other.ok && other.value.app.build.code).not.toBe(original.code);
  });
});
