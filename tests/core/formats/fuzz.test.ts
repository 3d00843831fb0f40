/**
 * Damage of every sort: files cut off and changed at random, and parts changed inside an archive whose checksums hold.
 * Readers may refuse with an `UnreadableError`, and may read; nothing else is thrown, and nothing runs on for ever
 * (Jest ends a test that does).
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import fc from 'fast-check';
import { readBinaryXml } from '../../../src/core/formats/android/binary-xml.ts';
import { catalogueTexts } from '../../../src/core/formats/android/catalogue.ts';
import { readDex } from '../../../src/core/formats/android/dex.ts';
import { readProtoTable } from '../../../src/core/formats/android/proto/proto-table.ts';
import { readProtoXml } from '../../../src/core/formats/android/proto/proto-xml.ts';
import { type ResourceTable, readResourceTable } from '../../../src/core/formats/android/resource-table.ts';
import { namedColoursOf, readAssetCatalogue } from '../../../src/core/formats/apple/asset-catalogue.ts';
import { readCodeSignature } from '../../../src/core/formats/apple/code-signature.ts';
import { viewsOf } from '../../../src/core/formats/apple/interface-views.ts';
import { readMachO } from '../../../src/core/formats/apple/mach-o.ts';
import { readNibArchive } from '../../../src/core/formats/apple/nib-archive.ts';
import { parsePlist } from '../../../src/core/formats/apple/plist.ts';
import { readProvisioningProfile } from '../../../src/core/formats/apple/provisioning-profile.ts';
import { parseStrings } from '../../../src/core/formats/apple/strings.ts';
import { readCatalogue } from '../../../src/core/formats/catalogues/read-catalogue.ts';
import { readPackage } from '../../../src/core/formats/package.ts';
import { readBlockSigners, readLineage } from '../../../src/core/formats/signing/signing-block.ts';
import { bytesSource } from '../../../src/core/model/ports.ts';
import { UnreadableError, unwrap } from '../../../src/core/model/problem.ts';
import { formatConfig } from '../../../src/core/platform/android/resource-config.ts';
import { parseText } from '../../../src/core/platform/text/parse-text.ts';
import { nodePorts } from '../../../src/node/ports.ts';
import { withPackage } from '../../../src/node/read-package.ts';
import { demoApk, demoBundle, demoFolder, demoIpa } from '../../support/paths.ts';
import {
  BLOCK,
  PROOF_OF_ROTATION,
  proofOfRotation,
  signers,
  writeSignedApk,
} from '../../support/signing-block-writer.ts';
import { writeZip } from '../../support/zip-writer.ts';

const files = new Map<string, Map<string, Uint8Array>>();
beforeAll(async () => {
  for (const file of [demoApk, demoBundle, demoIpa])
    files.set(
      file,
      await withPackage(file, async ({ zip }) => {
        const entries = new Map<string, Uint8Array>();
        for (const name of zip.entries.keys()) entries.set(name, await zip.read(name));
        return entries;
      }),
    );
});
const part = (file: string, name: string) => files.get(file)!.get(name)!;

/** Where, as a share of the length, and what is written there; numbers that readers trip over come often. */
const damage = fc.record({
  changes: fc.array(
    fc.tuple(
      fc.double({ min: 0, max: 0.999999, noNaN: true }),
      fc.oneof(fc.constantFrom(0, 1, 0x7f, 0x80, 0xff), fc.nat(255)),
      fc.integer({ min: 1, max: 4 }),
    ),
    { maxLength: 6 },
  ),
  keep: fc.oneof({ weight: 3, arbitrary: fc.constant(1) }, fc.double({ min: 0, max: 1, noNaN: true })),
});
type Damage = typeof damage extends fc.Arbitrary<infer T> ? T : never;

function apply(bytes: Uint8Array, { changes, keep }: Damage): Uint8Array {
  const damaged = new Uint8Array(bytes);
  for (const [where, value, length] of changes) {
    const at = Math.floor(where * damaged.length);
    damaged.fill(value, at, at + length);
  }
  return damaged.subarray(0, Math.ceil(keep * damaged.length));
}

async function onlyRefuses(read: () => unknown): Promise<void> {
  try {
    await read();
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    expect(error.problem.found).not.toBe('');
  }
}

const walkTable = (table: ResourceTable) => {
  for (const resource of table.resources.values())
    for (const { config, content } of resource.variants())
      expect([formatConfig(config), content]).toBeDefined();
  catalogueTexts(table);
};
const walkDex = (bytes: Uint8Array) => {
  const dex = readDex(bytes, 'classes.dex');
  return [dex.types(), dex.classes(), dex.methods(), dex.references()];
};

const ipaPart = (name: string) => part(demoIpa, `Payload/Kelpline.app/${name}`);
const source = (name: string) => new Uint8Array(readFileSync(join(demoFolder, 'android/res', name)));
const text = (of: string) => new TextEncoder().encode(of);
const XCSTRINGS =
  '{"sourceLanguage":"en","strings":{"a %@":{"localizations":{"de":{"variations":{"plural":{"one":{"stringUnit":{"value":"%d Boot"}}}}}}}}}';
const JSON_TEXTS =
  '{"a": {"b": "Say \\"hi\\", {{name, upper}} {{- raw}} $t(boats, {\\"count\\": 2})"}, "boats_one": "{{count}} boat", "boats_other": "x", "l": ["y"]}';
const ARB =
  '{"@@locale":"en","n":"{count, plural, =0{no} one{{who} # boat} other{# boats}}","t":"it\'\'s \'{x}\' {d, date}"}';
const XLIFF =
  '<xliff version="2.1" srcLang="en" trgLang="de"><file id="f"><group name="g"><unit name="one"><originalData><data id="d">%1$s</data></originalData><segment><source>Hi <ph id="1" dataRef="d"/> <pc id="2" equivStart="&lt;b>">x</pc></source><target>Hallo</target></segment></unit></group></file></xliff>';
const PO =
  'msgid ""\nmsgstr "Language: pl\\nPlural-Forms: nplurals=3; plural=n==1 ? 0 : n%10>=2 ? 1 : 2;\\n"\n\nmsgctxt "k"\nmsgid "%d"\nmsgid_plural "%d"\nmsgstr[0] "a\\x41"\nmsgstr[1] "b"\n';

/** What can be read of it is measured too, as judging would. */
async function readWholeCatalogue(path: string, bytes: Uint8Array): Promise<void> {
  const { entries, syntax } = unwrap(await readCatalogue(path, bytes));
  for (const { forms } of entries)
    for (const form of forms) {
      const { parts } = parseText(form.text, syntax);
      expect(parts.map(({ written }) => written).join('')).toBe(form.text);
    }
}

const readers: [string, () => Uint8Array, (bytes: Uint8Array) => unknown][] = [
  ['compiled XML', () => part(demoApk, 'AndroidManifest.xml'), (bytes) => readBinaryXml(bytes, 'x')],
  ['a resource table', () => part(demoApk, 'resources.arsc'), (bytes) => walkTable(readResourceTable(bytes))],
  ['a dex file', () => part(demoApk, 'classes.dex'), walkDex],
  [
    'protobuf XML',
    () => part(demoBundle, 'base/manifest/AndroidManifest.xml'),
    (bytes) => readProtoXml(bytes, 'x'),
  ],
  [
    'a protobuf table',
    () => part(demoBundle, 'base/resources.pb'),
    (bytes) => walkTable(readProtoTable(bytes, 'x')),
  ],
  ['a binary property list', () => ipaPart('Info.plist'), (bytes) => parsePlist(bytes, 'x')],
  ['an XML property list', () => ipaPart('PrivacyInfo.xcprivacy'), (bytes) => parsePlist(bytes, 'x')],
  ['texts in UTF-16', () => ipaPart('ar.lproj/Localizable.strings'), (bytes) => parseStrings(bytes, 'x')],
  [
    'strings.xml',
    () => source('values-pl/help.xml'),
    (bytes) => readWholeCatalogue('values-pl/help.xml', bytes),
  ],
  ['a string catalogue', () => text(XCSTRINGS), (bytes) => readWholeCatalogue('x.xcstrings', bytes)],
  ['a JSON catalogue', () => text(JSON_TEXTS), (bytes) => readWholeCatalogue('de/x.json', bytes)],
  ['an ARB', () => text(ARB), (bytes) => readWholeCatalogue('x.arb', bytes)],
  ['an XLIFF', () => text(XLIFF), (bytes) => readWholeCatalogue('x.xliff', bytes)],
  ['a PO file', () => text(PO), (bytes) => readWholeCatalogue('x.po', bytes)],
  [
    'an asset catalogue',
    () => ipaPart('Assets.car'),
    (bytes) => namedColoursOf([readAssetCatalogue(bytes, 'x')]),
  ],
  ['an interface file', () => ipaPart('Ticket.nib'), (bytes) => viewsOf(readNibArchive(bytes, 'x'), 'x')],
  [
    'a provisioning profile',
    () => ipaPart('embedded.mobileprovision'),
    (bytes) => readProvisioningProfile(bytes, 'x', nodePorts),
  ],
  [
    'an executable and its signature',
    () => ipaPart('Kelpline'),
    (bytes) =>
      Promise.all(readMachO(bytes, 'x').map((slice) => readCodeSignature(slice, 'x', {}, nodePorts))),
  ],
];

// so many times what a run of all tests does: FUZZ_TIMES=10
const TIMES = Number(process.env.FUZZ_TIMES ?? 1);

test.each(readers)('%s, many times', async (_, whole, read) => {
  await fc.assert(
    fc.asyncProperty(damage, (of) => onlyRefuses(() => read(apply(whole(), of)))),
    { numRuns: 500 * TIMES },
  );
});

test('signing blocks, many times', async () => {
  const lineage: [number, Buffer] = [PROOF_OF_ROTATION, proofOfRotation([signers.old, signers.fresh])];
  const bytes = writeSignedApk(
    [{ name: 'AndroidManifest.xml', data: part(demoApk, 'AndroidManifest.xml') }],
    [{ id: BLOCK.v31, by: signers.fresh, sdkRange: [33, 99], attributes: [lineage] }],
  );
  const at = Buffer.from(bytes).indexOf(Buffer.from([0x61, 0xad, 0x93, 0x1b]));
  const value = bytes.subarray(at + 4, Buffer.from(bytes).lastIndexOf('APK Sig Block 42') - 8);
  await fc.assert(
    fc.asyncProperty(damage, (of) =>
      onlyRefuses(() => readBlockSigners(apply(value, of), 'v3.1').map(readLineage)),
    ),
    { numRuns: 500 * TIMES },
  );
});

const readWhole = async (bytes: Uint8Array) => {
  const result = await readPackage('x', bytesSource(bytes), 'digest', nodePorts);
  if (!result.ok) expect(result.problem.found).not.toBe('');
};

test.each([
  ['APK', demoApk],
  ['AAB', demoBundle],
  ['IPA', demoIpa],
])('a whole %s, changed anywhere or with a part changed inside, many times each', async (_, file) => {
  const entries = files.get(file)!;
  const whole = writeZip([...entries].map(([name, data]) => ({ name, data })));
  await fc.assert(
    fc.asyncProperty(damage, async (of) => readWhole(apply(whole, of))),
    { numRuns: 80 * TIMES },
  );
  const names = [...entries.keys()].filter((name) => !/\/(drawable|values)/.test(name));
  await fc.assert(
    fc.asyncProperty(fc.constantFrom(...names), damage, async (changed, of) => {
      const written = [...entries].map(([name, data]) => ({
        name,
        data: name === changed ? apply(data, of) : data,
      }));
      await readWhole(writeZip(written));
    }),
    { numRuns: 80 * TIMES },
  );
});
