/** The demo's bundle and its APK come from the same sources: where they hold the same facts, the model is the same. */
import { execFileSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { PbfWriter } from 'pbf';
import { readProtoTable } from '../../../src/core/formats/android/proto/proto-table.ts';
import { readProtoXml } from '../../../src/core/formats/android/proto/proto-xml.ts';
import { findUnusedResources } from '../../../src/core/formats/android/unused-resources.ts';
import { type OpenedPackage, readPackage } from '../../../src/core/formats/package.ts';
import { openZip } from '../../../src/core/formats/zip.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { unwrap } from '../../../src/core/model/problem.ts';
import { formatConfig } from '../../../src/core/platform/android/resource-config.ts';
import { factsOfPackageFile } from '../../../src/node/observe.ts';
import { nodePorts, withFile } from '../../../src/node/ports.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { printTable } from '../../support/aapt2-dump.ts';
import { packApp } from '../../support/packed-app.ts';
import { demoApk, demoBundle, describeWith, scratchFolder, tools } from '../../support/paths.ts';
import { type WrittenEntry, writeZip } from '../../support/zip-writer.ts';

const both = <T>(use: (opened: OpenedPackage) => T | Promise<T>) =>
  Promise.all([demoApk, demoBundle].map((file) => withPackage(file, use, { parts: 'declared' }))) as Promise<
    [T, T]
  >;

test('identity, manifest, rules, texts and traces', async () => {
  const [apk, bundle] = await both(({ app }) => {
    const { container, digest, files, pictures, signing, ...same } = app;
    delete same.android!.splitsByLanguage;
    for (const library of same.android!.nativeLibraries) library.file = library.file.replace(/^base\//, '');
    return same;
  });
  expect(bundle).toEqual(apk);
  expect(apk.texts.length).toBeGreaterThan(300);
});

test('every resource, configuration and value', async () => {
  const [apk, bundle] = await both(({ android }) => printTable(android!.table!));
  expect(bundle).toEqual(apk);
});

test('pictures and unused resources, but for the folder of the module', async () => {
  const [apk, bundle] = await both(async ({ android, app }) => ({
    // the two forms list the variants of a resource in another order
    pictures: app.pictures
      .map(({ density, file, name }) => [file.replace(/^base\//, ''), name, density])
      .sort(),
    unused: (await findUnusedResources(android!)).map(({ name }) => name),
  }));
  expect(bundle).toEqual(apk);
  expect(apk.unused).toEqual(['drawable/poster_winter']);
});

test('a bundle is signed by v1 alone, as stores take it', async () => {
  const { schemes } = await withPackage(demoBundle, ({ app }) => app.signing);
  expect(schemes.map(({ outcome, scheme }) => `${scheme} ${outcome}`)).toEqual(['v1 verified']);
});

test('a feature module adds what it declares, and the base keeps its levels', async () => {
  const entries: WrittenEntry[] = [];
  await withPackage(demoBundle, async ({ zip }) => {
    for (const name of zip.entries.keys()) {
      const data = await zip.read(name);
      entries.push({ name, data });
      // the same module again, under another class name
      if (name === 'base/manifest/AndroidManifest.xml')
        entries.push({
          name: 'map/manifest/AndroidManifest.xml',
          data: new Uint8Array(
            Buffer.from(
              Buffer.from(data).toString('latin1').replaceAll('PassActivity', 'MapsActivity'),
              'latin1',
            ),
          ),
        });
      if (name === 'base/dex/classes.dex') entries.push({ name: 'map/dex/classes.dex', data });
    }
  });
  const read = await readPackage('x.aab', bytesSource(writeZip(entries)), 'digest', nodePorts);
  if (!read.ok) throw new Error(read.problem.found);
  const { android, build } = read.value.app;
  const base = await withPackage(demoBundle, ({ app }) => app);
  expect(android!.modules.map(({ name }) => name)).toEqual(['base', 'map']);
  const added = android!.manifest.components.slice(base.android!.manifest.components.length);
  expect(added.map(({ name }) => name)).toEqual(['example.kelpline.MapsActivity']);
  expect(android!.manifest.permissions).toEqual(base.android!.manifest.permissions);
  expect(android!.code.dexFiles).toBe(2);
  expect(build.code).not.toBe(base.build.code);
});

describe('protobuf forms that the packer of the demo does not write', () => {
  /** Package 0x7f, type 1 `string`, entry 0 with one value under the configuration. */
  const tableWith = (writeConfig: (pbf: PbfWriter) => void) => {
    const pbf = new PbfWriter();
    const message = (field: number, write: (inner: PbfWriter) => void) => (to: PbfWriter) =>
      to.writeMessage(field, (_: unknown, inner?: PbfWriter) => write(inner!), undefined);
    const id = (field: number, number: number) =>
      message(field, (inner) => inner.writeVarintField(1, number));
    message(2, (pack) => {
      id(1, 0x7f)(pack);
      pack.writeStringField(2, 'app');
      message(3, (type) => {
        id(1, 1)(type);
        type.writeStringField(2, 'string');
        message(3, (entry) => {
          id(1, 0)(entry);
          entry.writeStringField(2, 'title');
          message(6, (value) => {
            message(1, writeConfig)(value);
            message(
              2,
              message(
                4,
                message(2, (text) => text.writeStringField(1, 'hello')),
              ),
            )(value);
          })(entry);
        })(type);
      })(pack);
    })(pbf);
    return pbf.finish();
  };

  test.each<[string, (pbf: PbfWriter) => void]>([
    [
      'mcc310-mnc4-b+sr+Latn+RS',
      (pbf) => {
        pbf.writeVarintField(1, 310);
        pbf.writeVarintField(2, 4);
        pbf.writeStringField(3, 'sr-Latn-RS');
      },
    ],
    [
      'de-rAT-masculine',
      (pbf) => {
        pbf.writeStringField(3, 'de-AT');
        pbf.writeVarintField(26, 3);
      },
    ],
    [
      'ldrtl-sw600dp-w720dp-h480dp',
      (pbf) => {
        for (const [field, value] of [
          [4, 2],
          [7, 720],
          [8, 480],
          [9, 600],
        ] as const)
          pbf.writeVarintField(field, value);
      },
    ],
    [
      'large-long-round-widecg-highdr',
      (pbf) => {
        for (const [field, value] of [
          [10, 3],
          [11, 1],
          [12, 1],
          [13, 1],
          [14, 1],
        ] as const)
          pbf.writeVarintField(field, value);
      },
    ],
    [
      'normal-notlong-notround-nowidecg-lowdr',
      (pbf) => {
        for (const [field, value] of [
          [10, 2],
          [11, 2],
          [12, 2],
          [13, 2],
          [14, 2],
        ] as const)
          pbf.writeVarintField(field, value);
      },
    ],
    [
      'land-car-night-420dpi',
      (pbf) => {
        for (const [field, value] of [
          [15, 2],
          [16, 3],
          [17, 1],
          [18, 420],
        ] as const)
          pbf.writeVarintField(field, value);
      },
    ],
    [
      'notnight-anydpi-finger-keyshidden-qwerty-navhidden-dpad-1920x1080-v33',
      (pbf) => {
        for (const [field, value] of [
          [17, 2],
          [18, 0xfffe],
          [19, 3],
          [20, 2],
          [21, 2],
          [22, 2],
          [23, 2],
          [5, 1920],
          [6, 1080],
          [24, 33],
        ] as const)
          pbf.writeVarintField(field, value);
      },
    ],
  ])('configuration %s', (qualifiers, write) => {
    const table = readProtoTable(tableWith(write), 'resources.pb');
    const [variant] = table.find('string', 'title')!.variants();
    expect(formatConfig(variant!.config)).toBe(qualifiers);
    expect(variant!.content).toEqual({ kind: 'value', value: { kind: 'string', text: 'hello' } });
  });

  test('elements that nest without end are refused', () => {
    let bytes = new Uint8Array();
    for (let depth = 0; depth < 400; depth++) {
      const pbf = new PbfWriter();
      const inner = bytes;
      pbf.writeMessage(
        1,
        (_: unknown, element?: PbfWriter) => {
          element!.writeStringField(3, 'a');
          if (inner.length > 0) element!.writeBytesField(5, inner);
        },
        undefined,
      );
      bytes = pbf.finish().slice();
    }
    expect(() => readProtoXml(bytes, 'x.xml')).toThrow(/nested \d+ deep/);
  });
});

describeWith('aapt2', 'framework')('texts of a manifest, packed in both forms', () => {
  const scratch = scratchFolder();
  const aapt2 = (...args: string[]) => execFileSync(tools.aapt2, args, { stdio: 'pipe' });

  test('come out alike, whatever escapes they hold', async () => {
    const piece = fc.constantFrom(
      '\\\\',
      "\\'",
      '\\"',
      '\\n',
      '\\t',
      '\\u0041',
      '\\@',
      '\\?',
      '\\#',
      '\\.',
      'a',
      ' ',
      '*',
      'é',
      '😀',
    );
    const texts = fc
      .sample(fc.array(piece, { minLength: 1, maxLength: 8 }), { seed: 3, numRuns: 200 })
      .map((pieces) => `x${pieces.join('')}x`);
    const file = join(scratch, 'AndroidManifest.xml');
    const inXml = (text: string) =>
      text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('"', '&quot;');
    const data = texts.map((text, i) => `<meta-data android:name="k${i}" android:value="${inXml(text)}"/>`);
    writeFileSync(
      file,
      `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.escapes"><uses-sdk android:minSdkVersion="26"/><application android:label="It\\'s">${data.join('\n')}</application></manifest>`,
    );
    const link = (to: string, ...more: string[]) =>
      aapt2('link', ...more, '--manifest', file, '-I', tools.framework, '-o', join(scratch, to));
    link('compiled.apk');
    link('proto.apk', '--proto-format');
    const entries = await readEntries(join(scratch, 'proto.apk'));
    writeFileSync(
      join(scratch, 'made.aab'),
      writeZip(
        [...entries].map(([name, bytes]) => ({
          name: name === 'AndroidManifest.xml' ? `base/manifest/${name}` : `base/${name}`,
          data: bytes,
        })),
      ),
    );
    const [compiled, proto] = await Promise.all(
      ['compiled.apk', 'made.aab'].map((name) =>
        withPackage(join(scratch, name), ({ app }) => [app.name, app.android!.manifest.metaData]),
      ),
    );
    expect(proto).toEqual(compiled);
  });
});

describeWith('aapt2')('the bundle that the packer makes of an APK', () => {
  const scratch = scratchFolder();

  test('gives the facts of the APK, but for the order of forms and the folder of the module', async () => {
    const proto = join(scratch, 'proto.apk');
    execFileSync(tools.aapt2, ['convert', '--output-format', 'proto', '-o', proto, demoApk], {
      stdio: 'pipe',
    });
    const placed = (name: string) =>
      name === 'AndroidManifest.xml'
        ? `manifest/${name}`
        : /^classes\d*\.dex$/.test(name)
          ? `dex/${name}`
          : name;
    const entries = [...(await readEntries(proto))].filter(([name]) => !name.startsWith('META-INF/'));
    const bundle = join(scratch, 'made.aab');
    writeFileSync(bundle, writeZip(entries.map(([name, data]) => ({ name: `base/${placed(name)}`, data }))));
    const [ofBundle, ofApk] = await Promise.all([bundle, demoApk].map(formatFacts));
    expect(ofBundle).toEqual(ofApk);
    expect(ofApk!.length).toBeGreaterThan(500);
  });
});

// What a bundle cannot have, or has in another form.
const OF_THE_FILE = new Set(['evidence', 'container', 'compressedBytes', 'offsetAlignBytes']);

async function formatFacts(file: string): Promise<string[]> {
  const facts = (await factsOfPackageFile(file)).filter(({ kind }) => kind !== 'signing');
  const plain = (key: string, value: unknown) =>
    OF_THE_FILE.has(key)
      ? undefined
      : typeof value === 'string'
        ? value.replace(/^base\/(dex\/)?/, '')
        : Array.isArray(value)
          ? value.map((one) => JSON.stringify(one, plain)).sort()
          : value;
  return facts.map((fact) => JSON.stringify(fact, plain)).sort();
}

async function readEntries(file: string): Promise<Map<string, Uint8Array>> {
  const read = new Map<string, Uint8Array>();
  await withFile(file, async (source) => {
    const zip = unwrap(await openZip(file, source, nodePorts));
    for (const name of zip.entries.keys()) read.set(name, await zip.read(name));
  });
  return read;
}

describeWith('aapt2', 'framework')('modules and how the store cuts a bundle up', () => {
  const folder = scratchFolder();
  const NS = 'xmlns:android="http://schemas.android.com/apk/res/android"';
  const DIST = 'xmlns:dist="http://schemas.android.com/apk/distribution"';
  /** A manifest in the form that bundles have, with a module's delivery and an activity. */
  function protoManifest(name: string, delivery: string, activity: string): Uint8Array {
    const manifest = `<manifest ${NS} ${DIST} package="a.b" android:versionCode="1" split="${name}">${delivery}
      <uses-sdk android:minSdkVersion="26" android:targetSdkVersion="35"/><application>${activity}</application></manifest>`;
    const place = join(folder, name);
    packApp(place, { 'AndroidManifest.xml': manifest.replace(/ split="base"/, '') }, ['--proto-format']);
    return execFileSync('unzip', ['-p', join(place, 'app.apk'), 'AndroidManifest.xml']);
  }
  const bundleOf = async (manifests: Record<string, Uint8Array>, config?: Uint8Array) => {
    const entries = Object.entries(manifests).map(([name, data]) => ({
      name: `${name}/manifest/AndroidManifest.xml`,
      data,
    }));
    const all = [...entries, ...(config ? [{ name: 'BundleConfig.pb', data: config }] : [])];
    const read = await readPackage('x.aab', bytesSource(writeZip(all)), 'digest', nodePorts);
    return unwrap(read).app.android!;
  };

  test('when each module comes, in every way to say it', async () => {
    const DELIVERIES = {
      plain: '',
      late: '<dist:module><dist:delivery><dist:on-demand/></dist:delivery></dist:module>',
      both: '<dist:module><dist:delivery><dist:install-time/><dist:on-demand/></dist:delivery></dist:module>',
      soon: '<dist:module><dist:delivery><dist:fast-follow/></dist:delivery></dist:module>',
      some: '<dist:module><dist:delivery><dist:install-time><dist:conditions><dist:min-sdk dist:value="30"/></dist:conditions></dist:install-time></dist:delivery></dist:module>',
      old: '<dist:module dist:onDemand="true"/>',
      now: '<dist:module dist:onDemand="false"/>',
    };
    const manifests = Object.fromEntries(
      Object.entries(DELIVERIES).map(([name, delivery]) => [
        name,
        protoManifest(name, delivery, `<activity android:name="a.b.Of_${name}"/>`),
      ]),
    );
    const split = '<activity android:name="a.b.Named" android:splitName="late"/>';
    const { manifest, modules } = await bundleOf({ base: protoManifest('base', '', split), ...manifests });
    expect(Object.fromEntries(modules.map(({ delivery, name }) => [name, delivery]))).toEqual({
      ...{ base: 'base', plain: 'install-time', late: 'on-demand', both: 'install-time' },
      ...{ soon: 'fast-follow', some: 'conditional', old: 'on-demand', now: 'install-time' },
    });
    const of = (name: string) => manifest.components.find((one) => one.name === `a.b.${name}`)!.module;
    expect([of('Named'), of('Of_late'), of('Of_plain')]).toEqual(['late', 'late', 'plain']);
  });

  test.each<
    [what: string, splits: [dimension: number, negate?: boolean][] | undefined, expected: boolean | undefined]
  >([
    ['no configuration', undefined, undefined],
    ['nothing said', [], true],
    ['other dimensions', [[1], [2, true]], true],
    ['by language', [[3]], true],
    ['not by language', [[1], [3, true]], false],
  ])('languages, with %s', async (_, splits, expected) => {
    const pbf = new PbfWriter();
    // field 1 says which tool wrote it
    pbf.writeMessage(1, (_of, out) => out.writeStringField(2, '1.15.6'), {});
    pbf.writeMessage(
      2,
      (_of, optimizations) =>
        optimizations.writeMessage(
          1,
          (_config, config) => {
            for (const [dimension, negate] of splits ?? [])
              config.writeMessage(
                1,
                (_split, split) => {
                  split.writeVarintField(1, dimension);
                  if (negate) split.writeBooleanField(2, true);
                },
                {},
              );
          },
          {},
        ),
      {},
    );
    const base = protoManifest('base', '', '');
    const { splitsByLanguage } = await bundleOf({ base }, splits && pbf.finish());
    expect(splitsByLanguage).toBe(expected);
  });
});
