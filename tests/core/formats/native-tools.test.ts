/** The readers held against the platform's own tools: every value that these print, of the demo's APK and of the framework. */
import { execFileSync, spawnSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import type { OpenedAndroid } from '../../../src/core/formats/android/apk.ts';
import { readBinaryXml, type XmlElement } from '../../../src/core/formats/android/binary-xml.ts';
import { readDex } from '../../../src/core/formats/android/dex.ts';
import { findCodeUse } from '../../../src/core/formats/android/find-code-use.ts';
import type { OpenedPackage } from '../../../src/core/formats/package.ts';
import { watchedCalls } from '../../../src/core/platform/android/watched-calls.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { printTable, readDump } from '../../support/aapt2-dump.ts';
import { demoApk, demoFolder, describeWith, scratchFolder, smaliJars, tools } from '../../support/paths.ts';

const scratch = scratchFolder();
const run = (command: string, ...args: string[]) =>
  execFileSync(command, args, { encoding: 'utf8', maxBuffer: 2 ** 28 });
const packages = [
  ['the demo', demoApk],
  ['the framework', tools.framework],
] as const;

describeWith('aapt2', 'framework').each(packages)('held against aapt2: %s', (_, file) => {
  let app: OpenedPackage['app'];
  let table: Map<string, string>;
  let manifestXml: Uint8Array;
  // the framework takes a while to open
  beforeAll(() =>
    withPackage(file, async (opened) => {
      app = opened.app;
      table = printTable(opened.android!.table!);
      manifestXml = await opened.zip.read('AndroidManifest.xml');
    }),
  );

  test('every resource, its configurations and values', async () => {
    const printed = readDump(run(tools.aapt2, 'dump', 'resources', file));
    const departures = [...printed].filter(([key, value]) => table.get(key) !== value);
    expect(departures.map(([key, value]) => [key, value, table.get(key)])).toEqual([]);
    expect(table.size).toBe(printed.size);
  });

  test('every element and attribute of the manifest', async () => {
    const printed = run(tools.aapt2, 'dump', 'xmltree', '--file', 'AndroidManifest.xml', file).split('\n');
    const read = printXml(readBinaryXml(manifestXml, 'AndroidManifest.xml'));
    expect(read).toEqual(printed.map((line) => line.trim()).filter((line) => /^[EA]: /.test(line)));
  });

  test('identity, SDK levels and permissions', async () => {
    const badging = run(tools.aapt2, 'dump', 'badging', file);
    const { android, build, name, permissions } = app;
    const { minSdk, targetSdk } = android!.manifest;
    const [, appId, versionCode, versionName] =
      /package: name='([^']*)' versionCode='([^']*)' versionName='([^']*)'/.exec(badging)!;
    expect(build).toMatchObject({ appId, build: versionCode, version: versionName });
    expect([name, String(minSdk), String(targetSdk)]).toEqual([
      /application-label:'([^']*)'/.exec(badging)![1],
      /sdkVersion:'(\d+)'/.exec(badging)![1],
      /targetSdkVersion:'(\d+)'/.exec(badging)![1],
    ]);
    expect(permissions).toEqual(
      [...badging.matchAll(/uses-permission: name='([^']*)'/g)].map((match) => match[1]),
    );
  });

  test('components, in the words of the manifest', async () => {
    const printed = run(tools.aapt2, 'dump', 'xmltree', '--file', 'AndroidManifest.xml', file);
    const { manifest } = app.android!;
    const blocks = printed
      .split(/\n\s*E: (?=(?:activity|activity-alias|service|receiver|provider) )/)
      .slice(1);
    expect(manifest.components).toHaveLength(blocks.length);
    for (const [i, block] of blocks.entries()) {
      const component = manifest.components[i]!;
      const raw = (attribute: string) =>
        [...block.matchAll(new RegExp(`:${attribute}\\([^)]*\\)="([^"]*)"`, 'g'))].map((match) => match[1]!);
      expect(block.startsWith(`${component.type} `)).toBe(true);
      expect(component.name.endsWith(raw('name')[0]!.replace(/^.*\./, ''))).toBe(true);
      expect(component.exported).toBe(
        { true: true, false: false }[/:exported\([^)]*\)=(\w+)/.exec(block)?.[1] ?? ''] ?? 'unset',
      );
      expect(component.permission ?? '').toBe(raw('permission')[0] ?? '');
      expect(component.filters).toHaveLength(block.split('E: intent-filter').length - 1);
      const named = component.filters.flatMap(({ actions, categories }) => [...actions, ...categories]);
      expect(raw('name')).toEqual(expect.arrayContaining(named));
      expect(component.filters.flatMap(({ schemes }) => schemes)).toEqual(raw('scheme'));
    }
  });
});

/** As `aapt2 dump xmltree` prints it, without the indentation. */
function printXml(element: XmlElement): string[] {
  return [
    `E: ${element.name} (line=${element.line})`,
    ...element.attributes.map(({ name, namespace, raw, resourceId, value }) => {
      const id = resourceId ? `(0x${resourceId.toString(16).padStart(8, '0')})` : '';
      const said =
        value.kind === 'reference'
          ? value.id === 0
            ? '@null'
            : `@0x${value.id.toString(16).padStart(8, '0')}`
          : value.kind === 'string'
            ? `"${value.text}"`
            : value.kind === 'integer' && value.hex
              ? `0x${value.value.toString(16).padStart(8, '0')}`
              : 'value' in value
                ? String(value.value)
                : '';
      return `A: ${namespace && `${namespace}:`}${name}${id}=${said}${raw === undefined ? '' : ` (Raw: "${raw}")`}`;
    }),
    ...element.children.flatMap(printXml),
  ];
}

const signedFramework = () => {
  const file = join(scratch, 'framework.apk');
  const key = ['--ks', join(demoFolder, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  run(tools.apksigner, 'sign', ...key, '--min-sdk-version', '29', '--out', file, tools.framework);
  return file;
};

/** The same file, signed by the given schemes alone. */
function signAs(name: string, ...options: string[]): string {
  const file = join(scratch, name);
  copyFileSync(demoApk, file);
  const key = ['--ks', join(demoFolder, 'throwaway.keystore'), '--ks-pass', 'pass:throwaway'];
  run(tools.apksigner, 'sign', ...key, ...options, file);
  return file;
}
const off = (scheme: number) => [`--v${scheme}-signing-enabled`, 'false'];
const on = (scheme: number) => [`--v${scheme}-signing-enabled`, 'true'];

const signingOf = (file: string) => withPackage(file, ({ app }) => app.signing);
const outcomes = async (file: string) =>
  Object.fromEntries((await signingOf(file)).schemes.map(({ outcome, scheme }) => [scheme, outcome]));
const apksignerTakes = (file: string) => spawnSync(tools.apksigner, ['verify', file]).status === 0;

describeWith('aapt2', 'framework')('texts beyond the basic plane', () => {
  test('come back as they were written', async () => {
    const written = fc.sample(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 20 }), {
      seed: 20,
      numRuns: 300,
    });
    // what the packer takes for more than letters: quotes, escapes, references, blanks
    const plain = (text: string) => text.replace(/["'\\@?%<>&\s\p{C}\p{Z}]/gu, '') || '😀';
    const texts = [...written.map(plain), '😀', '👩‍👩‍👧 𝒳 🇵🇹', 'a😀b', '𐍈'];
    const folder = join(scratch, 'emoji');
    mkdirSync(join(folder, 'res/values'), { recursive: true });
    const body = texts.map((text, i) => `<string name="t${i}">"${text}"</string>`).join('\n');
    writeFileSync(join(folder, 'res/values/strings.xml'), `<resources>\n${body}\n</resources>`);
    writeFileSync(
      join(folder, 'AndroidManifest.xml'),
      '<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="example.emoji"><uses-sdk android:minSdkVersion="26"/><application android:label="😀 App"/></manifest>',
    );
    run(tools.aapt2, 'compile', '--dir', join(folder, 'res'), '-o', join(folder, 'res.zip'));
    const manifest = ['--manifest', join(folder, 'AndroidManifest.xml'), '-I', tools.framework];
    const apk = join(folder, 'emoji.apk');
    run(tools.aapt2, 'link', ...manifest, '-o', apk, join(folder, 'res.zip'));
    const read = await withPackage(apk, ({ app }) => app);
    expect(read.name).toBe('😀 App');
    const byKey = new Map(read.texts.map(({ key, text }) => [key, text]));
    expect(texts.map((_, i) => byKey.get(`t${i}`))).toEqual(texts);
  });
});

describeWith('apksigner', 'framework')('held against apksigner', () => {
  test.each<[string, () => string, Record<string, string>, string[]?]>([
    ['the demo', () => demoApk, { v3: 'verified', v2: 'verified', v1: 'unchecked' }],
    ['the framework, signed', signedFramework, { v3: 'verified', v2: 'unchecked', v1: 'unchecked' }],
    [
      'v1 alone',
      () => signAs('v1.apk', ...on(1), ...off(2), ...off(3), '--min-sdk-version', '21'),
      { v1: 'verified' },
      // later devices refuse an app for SDK 35 that is signed by v1 alone
      ['--min-sdk-version', '21', '--max-sdk-version', '23'],
    ],
    ['v2 alone', () => signAs('v2.apk', ...off(1), ...on(2), ...off(3)), { v2: 'verified' }],
    [
      'for file systems that verify by a hash tree',
      () => signAs('tree.apk', ...off(1), ...on(2), ...on(3), '--verity-enabled'),
      { v3: 'verified', v2: 'verified' },
    ],
  ])('certificates and schemes: %s', async (_, make, expected, verifying = [] as string[]) => {
    const file = make();
    const printed = run(tools.apksigner, 'verify', '--print-certs', ...verifying, file);
    const { certificates, schemes } = await signingOf(file);
    expect(schemes.flatMap(({ problems }) => problems)).toEqual([]);
    expect(await outcomes(file)).toEqual(expected);
    expect(certificates.map(({ sha256 }) => sha256)).toEqual(
      [...printed.matchAll(/certificate SHA-256 digest: (\w+)/g)].map((match) => match[1]),
    );
    expect(certificates.map(({ subject }) => subject)).toEqual(
      [...printed.matchAll(/certificate DN: (.*)/g)].map((match) => match[1]),
    );
  });

  test.each([
    ['an entry', 'v2+v3', 'res/drawable/ic_ferry.xml', []],
    [
      'an entry',
      'v1',
      'res/drawable/ic_ferry.xml',
      [...on(1), ...off(2), ...off(3), '--min-sdk-version', '21'],
    ],
  ])(
    'one bit of %s flipped after signing (%s): both refuse it, and we name the entry',
    async (_, scheme, entry, options) => {
      const file = options.length > 0 ? signAs('flip.apk', ...options) : demoApk;
      const bytes = readFileSync(file);
      const at = await withPackage(file, ({ zip }) => zip.dataOffset(entry));
      bytes[at + 20]! ^= 1;
      const flipped = join(scratch, `flipped-${scheme}.apk`);
      writeFileSync(flipped, bytes);
      expect(apksignerTakes(flipped)).toBe(false);
      const { schemes } = await signingOf(flipped);
      const broken = schemes.filter(({ outcome }) => outcome === 'broken');
      expect(broken.length).toBeGreaterThan(0);
      expect(broken[0]!.problems.map(({ place }) => place)).toContain(`entry ${entry}`);
    },
  );

  test('the signing block changed in any place: taken only where apksigner takes it too', async () => {
    const bytes = readFileSync(demoApk);
    const directory = await withPackage(demoApk, ({ zip }) => zip.centralDirectoryOffset);
    const size = Number(bytes.readBigUInt64LE(directory - 24)) + 8;
    const file = join(scratch, 'block.apk');
    let refused = 0;
    for (let at = directory - size; at < directory; at += 131) {
      const damaged = Buffer.from(bytes);
      damaged[at]! ^= 0x10;
      writeFileSync(file, damaged);
      const taken = await withPackage(file, ({ app }) => app.signing.schemes).then(
        (schemes) => schemes.length > 1 && schemes.every(({ outcome }) => outcome !== 'broken'),
        () => false,
      );
      // padding between the pairs is covered by no scheme
      if (taken) expect([at - directory, apksignerTakes(file)]).toEqual([at - directory, true]);
      else refused += 1;
    }
    expect(refused).toBeGreaterThan(15);
  });

  test('with the v3 signature taken out, v2 says that it is missing', async () => {
    const bytes = readFileSync(demoApk);
    const directory = await withPackage(demoApk, ({ zip }) => zip.centralDirectoryOffset);
    const id = Buffer.from([0xc0, 0x68, 0x53, 0xf0]);
    const at = bytes.lastIndexOf(id, directory);
    bytes[at] = 0x77;
    const stripped = join(scratch, 'stripped.apk');
    writeFileSync(stripped, bytes);
    expect(apksignerTakes(stripped)).toBe(false);
    expect((await signingOf(stripped)).schemes[0]).toMatchObject({
      scheme: 'v2',
      outcome: 'broken',
      problems: [{ code: 'signature.stripped' }],
    });
  });

  test('a rotated key: the lineage is read, oldest first', async () => {
    const lineage = join(scratch, 'lineage');
    const [old, fresh] = ['old', 'fresh'].map((name) => {
      const store = join(scratch, `${name}.keystore`);
      const dn = ['-dname', `CN=${name}`, '-keyalg', 'EC', '-groupname', 'secp256r1'];
      run('keytool', '-genkeypair', '-keystore', store, '-storepass', 'throwaway', '-alias', 'a', ...dn);
      return store;
    }) as [string, string];
    const pass = ['--ks-pass', 'pass:throwaway'];
    run(
      tools.apksigner,
      'rotate',
      '--out',
      lineage,
      '--old-signer',
      '--ks',
      old,
      ...pass,
      '--new-signer',
      '--ks',
      fresh,
      ...pass,
    );
    const file = join(scratch, 'rotated.apk');
    copyFileSync(demoApk, file);
    run(
      tools.apksigner,
      'sign',
      '--ks',
      old,
      ...pass,
      '--next-signer',
      '--ks',
      fresh,
      ...pass,
      '--lineage',
      lineage,
      file,
    );
    const { certificates, schemes } = await signingOf(file);
    expect(schemes[0]).toMatchObject({ scheme: 'v3', outcome: 'verified', problems: [] });
    expect(schemes[0]!.signers[0]!.lineage?.map(({ key, subject }) => `${subject} ${key}`)).toEqual([
      'CN=old EC P-256',
      'CN=fresh EC P-256',
    ]);
    expect(certificates[0]!.subject).toBe('CN=fresh');
  });
});

const SMALI = `.class public Lapp/Code;
.super Ljava/lang/Object;
.field static final KEPT:I = 0x7f0a0001
.method public static run(I)V
    .registers 4
    const v0, 0x7f010002
    const/high16 v1, 0x7f020000
    const-string v2, "a text with \\u00e6, \\u0000 and \\ud83d\\ude00"
    const-string/jumbo v2, "far away"
    sget v0, Lapp/R$layout;->main:I
    const-wide v0, 0x1122334455667788L
    packed-switch p0, :table
    sparse-switch p0, :sparse
    fill-array-data v2, :numbers
    invoke-static {v0}, Lapp/Other;->call(I)V
    return-void
    :table
    .packed-switch 0x0
        :end
    .end packed-switch
    :sparse
    .sparse-switch
        0x5 -> :end
    .end sparse-switch
    :numbers
    .array-data 4
        0x7f030004
        0x12
    .end array-data
    :end
    const v0, 0x7f040005
    return-void
.end method
`;
const R_CLASS = `.class public final Lapp/R$layout;
.super Ljava/lang/Object;
.field public static main:I = 0x7f050006
.field public static unused:I = 0x7f050007
`;

describeWith('smali', 'dexdump')('held against dexdump', () => {
  const assemble = (): Uint8Array => {
    writeFileSync(join(scratch, 'Code.smali'), SMALI);
    writeFileSync(join(scratch, 'R.smali'), R_CLASS);
    const sources = ['Code.smali', 'R.smali'].map((name) => join(scratch, name));
    run(
      'java',
      '-cp',
      smaliJars,
      'org.jf.smali.Main',
      'assemble',
      '-o',
      join(scratch, 'code.dex'),
      ...sources,
    );
    return new Uint8Array(readFileSync(join(scratch, 'code.dex')));
  };

  test.each([
    ['the demo', () => withPackage(demoApk, ({ zip }: OpenedPackage) => zip.read('classes.dex'))],
    ['every kind of instruction that is looked at', async () => assemble()],
  ])('classes, methods, constants and texts: %s', async (_, make) => {
    const bytes = await make();
    const file = join(scratch, 'held.dex');
    writeFileSync(file, bytes);
    const printed = run(tools.dexdump, '-d', '-f', file);
    const dex = readDex(bytes, 'classes.dex');
    const number = (field: string) => Number(new RegExp(`${field}\\s*: (\\d+)`).exec(printed)![1]);
    expect([dex.stringCount, dex.types().length, dex.methods().length]).toEqual([
      number('string_ids_size'),
      number('type_ids_size'),
      number('method_ids_size'),
    ]);
    expect(dex.classes()).toEqual(
      [...printed.matchAll(/Class descriptor {2}: '(.*)'/g)].map((match) => match[1]),
    );
    const called = [...printed.matchAll(/invoke-\w+ \{[^}]*\}, (\S+?);?\.([\w<>]+):/g)];
    const methods = dex.methods().map(({ className, name }) => `${className.replace(/;$/, '')}.${name}`);
    for (const [, className, name] of called) expect(methods).toContain(`${className}.${name}`);
    const named = [...printed.matchAll(/invoke-\w+ \{[^}]*\}, (\S+?;)\.([\w<>]+):/g)];
    const use = await findCodeUse({
      modules: [{ dexFiles: ['classes.dex'] }],
      zip: { read: async () => bytes },
    } as unknown as OpenedAndroid);
    for (const [, className, name] of named)
      for (const call of watchedCalls(className!, name!)) expect(use.calls).toContain(call);
    const references = dex.references();
    const constants = [...printed.matchAll(/const v\d+, #.* \/\/ #([0-9a-f]{8})/g)];
    for (const [, id] of constants) expect(references.resourceIds).toContain(Number.parseInt(id!, 16));
  });

  test('ids are found in constants, fields and arrays, but not where R only lists them; texts whole', () => {
    const { resourceIds, strings } = readDex(assemble(), 'code.dex').references();
    expect([...resourceIds].filter((id) => id >>> 24 === 0x7f).sort()).toEqual([
      0x7f010002, 0x7f020000, 0x7f030004, 0x7f040005, 0x7f050006, 0x7f0a0001,
    ]);
    expect([...strings]).toEqual(['a text with æ, \u0000 and 😀', 'far away']);
  });
});
