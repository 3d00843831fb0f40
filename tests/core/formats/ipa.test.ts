/** The demo's iOS package, held against what its build script was given, and what must not hold in it. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { readMachO } from '../../../src/core/formats/apple/mach-o.ts';
import { parsePlistDict } from '../../../src/core/formats/apple/plist.ts';
import { readPackage } from '../../../src/core/formats/package.ts';
import type { AppPackage } from '../../../src/core/model/app-package.ts';
import { bytesSource, sha256Hex } from '../../../src/core/model/ports.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { demoFolder, demoIpa } from '../../support/paths.ts';
import { type WrittenEntry, writeZip } from '../../support/zip-writer.ts';

const source = (name: string) => readFileSync(join(demoFolder, 'ios', name), 'utf8');
const build = JSON.parse(source('build.json'));
const app = 'Payload/Kelpline.app/';
let entries: Map<string, Uint8Array>;
let read: AppPackage;

beforeAll(async () => {
  await withPackage(demoIpa, async (opened) => {
    read = opened.app;
    entries = new Map();
    for (const name of opened.zip.entries.keys()) entries.set(name, await opened.zip.read(name));
  });
});

test('identity, entitlements, profile, libraries and classes', async () => {
  const { executable, privacyManifests, profile, ...ios } = read.ios!;
  expect(read).toMatchObject({
    platform: 'ios',
    container: 'ipa',
    name: 'Kelpline',
    build: { appId: 'example.kelpline', version: '2.4.0', build: '240' },
    permissions: ['NSCameraUsageDescription'],
    declaredLocales: ['en', 'de', 'nb', 'pl', 'ar'],
    unread: [],
  });
  expect(ios.info).toEqual(JSON.parse(source('Info.json')));
  expect(ios.entitlements).toEqual(build.entitlements);
  expect(profile).toMatchObject({
    kind: 'development',
    deviceCount: 2,
    signed: true,
    teamIds: ['K3LP1NE000'],
  });
  expect(profile!.entitlements).toEqual(build.profile.Entitlements);
  expect(profile!.certificateDigests).toEqual([read.signing.certificates[0]!.sha256]);
  expect(privacyManifests).toEqual([build.privacy]);
  const [slice] = executable.slices;
  expect(slice!.libraries).toEqual(build.libraries);
  expect(slice!.importedClasses.map((name) => `_OBJC_CLASS_$_${name}`)).toEqual(
    build.imports.filter((name: string) => name.startsWith('_OBJC')).sort(),
  );
  expect(ios.usageDescriptions[0]!.locales.sort()).toEqual(['ar', 'de', 'nb']);
});

test('texts of every language, whatever their encoding, and plural forms', () => {
  for (const locale of ['en', 'de', 'nb', 'pl', 'ar']) {
    const own = read.texts.filter((text) => text.locale === (locale === 'en' ? 'default' : locale));
    const written = [...source(`${locale}.lproj/Localizable.strings`).matchAll(/^"(.*?)" = "(.*)";$/gm)];
    const table = own.filter(({ form, key }) => !form && !key.startsWith('InfoPlist/'));
    expect(table.map(({ key, text }) => [key, text])).toEqual(written.map(([, key, text]) => [key, text]));
    const forms = [
      ...source(`${locale}.lproj/Localizable.stringsdict`).matchAll(
        /<key>(zero|one|two|few|many|other)<\/key>/g,
      ),
    ];
    expect(own.flatMap(({ form }) => form ?? [])).toEqual(forms.map(([, form]) => form));
  }
});

/** The package with some entries changed, packed again. */
async function changed(
  change: (name: string, bytes: Uint8Array) => Uint8Array | undefined,
): Promise<AppPackage> {
  const written: WrittenEntry[] = [];
  for (const [name, bytes] of entries) {
    const data = change(name, bytes.slice());
    if (data) written.push({ name, data });
  }
  const result = await readPackage('x.ipa', bytesSource(writeZip(written)), 'digest', nodePorts);
  if (!result.ok) throw new Error(result.problem.found);
  return result.value.app;
}
const flip = (wanted: string, at: (bytes: Uint8Array) => number) => (name: string, bytes: Uint8Array) => {
  if (name === app + wanted) bytes[at(bytes)]! ^= 1;
  return bytes;
};
const directoryAt = (bytes: Uint8Array) => Buffer.from(bytes).indexOf(Buffer.from([0xfa, 0xde, 0x0c, 0x02]));
const indexOf = (text: string) => (bytes: Uint8Array) => Buffer.from(bytes).indexOf(text);

test('packed again unchanged, everything still holds: the signature is of the contents, not of the archive', async () => {
  expect((await changed((_, bytes) => bytes)).signing).toEqual(read.signing);
});

test.each<[string, (name: string, bytes: Uint8Array) => Uint8Array | undefined, RegExp]>([
  ['a text', flip('de.lproj/Localizable.strings', () => 40), /entry .*de\.lproj.*changed after signing/],
  [
    'a file left out',
    (name, bytes) => (name.endsWith('Assets.car') ? undefined : bytes),
    /Assets\.car.*not there/,
  ],
  ['Info.plist', flip('Info.plist', indexOf('2.4.0')), /Info\.plist, which was changed/],
  ['the code', flip('Kelpline', indexOf('CLLocationManager')), /code that was changed.*page 0/],
  ['the entitlements', flip('Kelpline', indexOf('aps-environment')), /the entitlements, which was changed/],
  [
    'the number of sealed parts',
    flip('Kelpline', (bytes) => directoryAt(bytes) + 27),
    /the entitlements, which the signature does not cover/,
  ],
  ['the number of pages', flip('Kelpline', (bytes) => directoryAt(bytes) + 31), /covers \d+ bytes only/],
])('changed after signing: %s', async (_, change, message) => {
  const { signing } = await changed(change);
  expect(signing.schemes[0]!.outcome).toBe('broken');
  const said = signing.schemes[0]!.problems.map(({ found, place }) => `${place} ${found}`).join('\n');
  expect(said).toMatch(message);
});

test('a changed profile: its own signature no longer holds', async () => {
  const { ios, signing } = await changed(flip('embedded.mobileprovision', indexOf('K3LP1NE000')));
  expect(ios!.profile!.signed).toBe(false);
  expect(signing.schemes[0]!.outcome).toBe('broken');
});

describe('executables', () => {
  const executable = () => entries.get(`${app}Kelpline`)!;
  const fat = (slices: Uint8Array[]) => {
    const head = Buffer.alloc(4096);
    head.writeUInt32BE(0xcafebabe, 0);
    head.writeUInt32BE(slices.length, 4);
    let at = head.length;
    for (const [i, slice] of slices.entries()) {
      head.writeUInt32BE(at, 8 + 20 * i + 8);
      head.writeUInt32BE(slice.length, 8 + 20 * i + 12);
      at += slice.length;
    }
    return new Uint8Array(Buffer.concat([head, ...slices]));
  };
  /** The command that names the lowest system has the length of the one that says what is encrypted. */
  const encrypted = () => {
    const bytes = Buffer.from(executable());
    const at = bytes.indexOf(Buffer.from([0x32, 0, 0, 0, 24, 0, 0, 0]));
    bytes.writeUInt32LE(0x2c, at);
    return new Uint8Array(bytes);
  };

  test('several architectures in one file', () => {
    const [one, two] = readMachO(fat([executable(), encrypted()]), 'x');
    expect([one!.encrypted, two!.encrypted]).toEqual([false, true]);
    expect(two!.libraries).toEqual(build.libraries);
  });

  test('an encrypted one is said to be so, and the rest is read', async () => {
    const { ios, unread } = await changed((name, bytes) => (name === `${app}Kelpline` ? encrypted() : bytes));
    expect(ios!.executable.slices[0]!.encrypted).toBe(true);
    expect(unread).toMatchObject([
      { code: 'macho.encrypted', found: expect.stringMatching(/store has encrypted/) },
    ]);
  });

  test('imports by chained fixups', () => {
    const names = Buffer.from('\0_OBJC_CLASS_$_LAContext\0_other\0');
    const fixups = Buffer.alloc(28 + 8);
    fixups.writeUInt32LE(28, 8);
    fixups.writeUInt32LE(36, 12);
    fixups.writeUInt32LE(2, 16);
    fixups.writeUInt32LE(1, 20);
    fixups.writeUInt32LE((1 << 9) | 1, 28);
    fixups.writeUInt32LE((names.indexOf('_other') << 9) | 1, 32);
    const header = Buffer.alloc(32 + 16);
    header.writeUInt32LE(0xfeedfacf, 0);
    header.writeUInt32LE(1, 16);
    header.writeUInt32LE(0x80000034, 32);
    header.writeUInt32LE(16, 36);
    header.writeUInt32LE(48, 40);
    const [slice] = readMachO(new Uint8Array(Buffer.concat([header, fixups, names])), 'x');
    expect(slice!.imports).toEqual(['_OBJC_CLASS_$_LAContext', '_other']);
  });
});

test('the build key is of the code: another text changes nothing, another executable does', async () => {
  const otherText = await changed(flip('de.lproj/Localizable.strings', () => 40));
  expect(otherText.build).toEqual(read.build);
  const uuid = Buffer.from(read.ios!.executable.slices[0]!.uuid.replaceAll('-', ''), 'hex');
  const otherCode = await changed(flip('Kelpline', (bytes) => Buffer.from(bytes).indexOf(uuid)));
  expect(otherCode.build.code).not.toBe(read.build.code);
  expect(await sha256Hex(nodePorts, new Uint8Array())).toMatch(/^e3b0c442/);
  expect(parsePlistDict(entries.get(`${app}Info.plist`)!, 'Info.plist').CFBundleVersion).toBe('240');
});
