/** Forms that Debian's packer does not write, put together byte by byte from `ResourceTypes.h`. */

import {
  readBinaryXml,
  type XmlAttribute,
  type XmlElement,
} from '../../../src/core/formats/android/binary-xml.ts';
import { readSegmentAlignment } from '../../../src/core/formats/android/elf.ts';
import { readManifest } from '../../../src/core/formats/android/manifest.ts';
import { readResourceConfig } from '../../../src/core/formats/android/read-config.ts';
import { resValueOf } from '../../../src/core/formats/android/res-value.ts';
import { readResourceTable } from '../../../src/core/formats/android/resource-table.ts';
import type { StringPool } from '../../../src/core/formats/android/string-pool.ts';
import { ByteReader } from '../../../src/core/formats/byte-reader.ts';
import { formatConfig } from '../../../src/core/platform/android/resource-config.ts';

const u16 = (...values: number[]) => values.flatMap((value) => [value & 0xff, (value >> 8) & 0xff]);
const u32 = (...values: number[]) =>
  values.flatMap((value) => [
    value & 0xff,
    (value >>> 8) & 0xff,
    (value >>> 16) & 0xff,
    (value >>> 24) & 0xff,
  ]);
const reader = (bytes: number[]) => new ByteReader(Uint8Array.from(bytes), 'test');

function config(fields: {
  language?: number[];
  region?: number[];
  script?: string;
  variant?: string;
  scriptComputed?: boolean;
  uiMode?: number;
  density?: number;
}): number[] {
  const bytes = new Array(64).fill(0);
  const put = (at: number, values: number[]) => bytes.splice(at, values.length, ...values);
  put(0, u32(64));
  put(8, fields.language ?? []);
  put(10, fields.region ?? []);
  put(14, u16(fields.density ?? 0));
  bytes[29] = fields.uiMode ?? 0;
  put(
    36,
    [...(fields.script ?? '')].map((c) => c.charCodeAt(0)),
  );
  put(
    40,
    [...(fields.variant ?? '')].map((c) => c.charCodeAt(0)),
  );
  bytes[52] = fields.scriptComputed ? 1 : 0;
  return bytes;
}
const ascii = (text: string) => [...text].map((c) => c.charCodeAt(0));
/** Three letters in 15 bits: `1 ttttt ss | sss fffff`, counted from `base`. */
const packed = (text: string, base: number) => {
  const [first, second, third] = ascii(text).map((code) => code - base) as [number, number, number];
  return [0x80 | (third << 2) | (second >> 3), ((second & 7) << 5) | first];
};

test.each([
  ['de', { language: ascii('de') }],
  ['de-AT', { language: ascii('de'), region: ascii('AT') }],
  ['fil', { language: packed('fil', 0x61) }],
  ['es-419', { language: ascii('es'), region: packed('419', 0x30) }],
  ['sr-Latn', { language: ascii('sr'), script: 'Latn' }],
  ['zh-TW', { language: ascii('zh'), region: ascii('TW'), script: 'Hant', scriptComputed: true }],
  ['ca-ES-valencia', { language: ascii('ca'), region: ascii('ES'), variant: 'valencia' }],
  ['he', { language: ascii('iw') }],
  ['id', { language: ascii('in') }],
  ['', {}],
])('locale %s', (locale, fields) => {
  expect(readResourceConfig(reader(config(fields)), 0).locale).toBe(locale);
});

test('night, density, and a short configuration of an old packer', () => {
  expect(readResourceConfig(reader(config({ uiMode: 0x20, density: 480 })), 0)).toMatchObject({
    night: 'yes',
    density: 480,
  });
  expect(readResourceConfig(reader(config({ uiMode: 0x10 })), 0).night).toBe('no');
  expect(readResourceConfig(reader([...u32(28), ...new Array(24).fill(0)]), 0)).toMatchObject({
    night: 'any',
    locale: '',
  });
});

const noPool: StringPool = { count: 0, string: () => '', spans: () => [] };
test.each([
  [0x05, 0x00001001, { kind: 'dimension', value: 16, unit: 'dp' }],
  [0x05, 0x00000e02, { kind: 'dimension', value: 14, unit: 'sp' }],
  [0x05, 0x00c00020, { kind: 'dimension', value: 1.5, unit: 'px' }],
  [0x06, 0x40000030, { kind: 'fraction', value: 0.5, ofParent: false }],
  [0x10, 0xffffffff, { kind: 'integer', value: -1, hex: false }],
  [0x12, 0xffffffff, { kind: 'boolean', value: true }],
  [0x1d, 0xff0b5563, { kind: 'colour', argb: 0xff0b5563 }],
  [0x00, 1, { kind: 'empty' }],
])('value type %i of %i', (type, data, expected) => {
  expect(resValueOf(type, data, reader(u32(data)), 0, noPool)).toEqual(expected);
});

/** A string pool of single-byte UTF-8 strings. */
function pool(...strings: string[]): number[] {
  const bodies = strings.map((text) => [text.length, text.length, ...ascii(text), 0]);
  const offsets = bodies.map((_, i) => bodies.slice(0, i).reduce((sum, body) => sum + body.length, 0));
  const data = bodies.flat();
  while (data.length % 4) data.push(0);
  const start = 28 + 4 * strings.length;
  return [
    ...u16(1, 28),
    ...u32(start + data.length, strings.length, 0, 1 << 8, start, 0),
    ...u32(...offsets),
    ...data,
  ];
}

function table(flags: number, entryCount: number, offsets: number[], entries: number[]): Uint8Array {
  const entriesStart = 20 + 64 + offsets.length;
  const type = [
    ...u16(0x0201, 84),
    ...u32(entriesStart + entries.length),
    1,
    flags,
    ...u16(0),
    ...u32(entryCount, entriesStart),
    ...config({}),
    ...offsets,
    ...entries,
  ];
  const types = pool('string');
  const keys = pool('first', 'second');
  const name = [...ascii('app').flatMap((c) => [c, 0]), ...new Array(250).fill(0)];
  const body = [...types, ...keys, ...type];
  const chunk = [
    ...u16(0x0200, 288),
    ...u32(288 + body.length, 0x7f),
    ...name,
    ...u32(288, 0, 288 + types.length, 0, 0),
    ...body,
  ];
  const values = pool('hello', 'there');
  return Uint8Array.from([...u16(2, 12), ...u32(12 + values.length + chunk.length, 1), ...values, ...chunk]);
}

const value = (key: number, string: number) => [...u16(8, 0), ...u32(key), ...u16(8), 0, 3, ...u32(string)];
const compact = (key: number, string: number) => [...u16(key, 0x0308), ...u32(string)];
const namesAndTexts = (bytes: Uint8Array) =>
  [...readResourceTable(bytes).resources].map(([id, resource]) => {
    const { name, type } = resource;
    const { content } = resource.variants()[0]!;
    return [
      id.toString(16),
      `${type}/${name}`,
      content.kind === 'value' && content.value.kind === 'string' ? content.value.text : '?',
    ];
  });
const both = [
  ['7f010000', 'string/first', 'hello'],
  ['7f010002', 'string/second', 'there'],
];

test.each([
  ['offsets of 32 bits', table(0, 3, u32(0, 0xffffffff, 16), [...value(0, 0), ...value(1, 1)])],
  ['offsets of 16 bits', table(2, 3, [...u16(0, 0xffff, 4), 0, 0], [...value(0, 0), ...value(1, 1)])],
  ['sparse entries', table(1, 2, u16(0, 0, 2, 4), [...value(0, 0), ...value(1, 1)])],
  ['compact entries', table(0, 3, u32(0, 0xffffffff, 8), [...compact(0, 0), ...compact(1, 1)])],
])('a table with %s', (_, bytes) => {
  expect(namesAndTexts(bytes)).toEqual(both);
});

test('a chunk that does not move forward is refused, not walked for ever', () => {
  const bytes = table(0, 1, u32(0), value(0, 0));
  // the size of the chunk after the value pool
  const at = 12 + new DataView(bytes.buffer).getUint32(16, true);
  new DataView(bytes.buffer).setUint32(at + 4, 0, true);
  expect(() => readResourceTable(bytes)).toThrow(/chunk of 0 bytes/);
});

describe('chunks of newer packers and of shared libraries', () => {
  const fixedName = (text: string, units: number) => [
    ...ascii(text).flatMap((c) => [c, 0]),
    ...new Array(2 * (units - text.length)).fill(0),
  ];
  const chunk = (type: number, head: number[], body: number[]) => [
    ...u16(type, 8 + head.length),
    ...u32(8 + head.length + body.length),
    ...head,
    ...body,
  ];
  /** The table above with more chunks at the end of its package. */
  const withChunks = (...chunks: number[][]) => {
    const bytes = [...table(0, 3, u32(0, 0xffffffff, 16), [...value(0, 0), ...value(1, 1)])];
    const whole = [...bytes, ...chunks.flat()];
    const view = new DataView(Uint8Array.from(whole).buffer);
    const packageAt = 12 + view.getUint32(16, true);
    view.setUint32(packageAt + 4, view.getUint32(packageAt + 4, true) + chunks.flat().length, true);
    view.setUint32(4, whole.length, true);
    return new Uint8Array(view.buffer);
  };

  test('libraries, overlayables with their policies, aliases of staged ids', () => {
    const library = chunk(0x0203, u32(1), [...u32(2), ...fixedName('com.example.shared', 128)]);
    const policy = chunk(0x0205, u32(1, 2), u32(0x7f010000, 0x7f010002));
    const overlayable = chunk(
      0x0204,
      [...fixedName('Theme', 256), ...fixedName('overlay://theme', 256)],
      policy,
    );
    const staged = chunk(0x0206, u32(1), u32(0x01ff0001, 0x01010700));
    const read = readResourceTable(withChunks(library, overlayable, staged));
    expect(read).toMatchObject({
      libraries: [{ id: 2, name: 'com.example.shared' }],
      overlayables: [{ name: 'Theme', actor: 'overlay://theme', resources: [0x7f010000, 0x7f010002] }],
      stagedAliases: [{ stagedId: 0x01ff0001, finalId: 0x01010700 }],
    });
    expect(read.resources.size).toBe(2);
  });

  test('types of a feature split, which are numbered from where the base ends', () => {
    const bytes = table(0, 1, u32(0), value(0, 0));
    const view = new DataView(bytes.buffer);
    const packageAt = 12 + view.getUint32(16, true);
    view.setUint32(packageAt + 284, 4, true);
    const typeAt = bytes.length - 84 - 4 - 16;
    view.setUint8(typeAt + 8, 5);
    expect([...readResourceTable(bytes).resources.keys()].map((id) => id.toString(16))).toEqual(['7f050000']);
  });

  test('every qualifier at once, in the order of precedence', () => {
    const bytes = new Array(64).fill(0);
    const put = (at: number, values: number[]) => bytes.splice(at, values.length, ...values);
    put(0, u32(64));
    put(4, u16(310, 0xffff));
    put(8, [...ascii('fr'), ...ascii('CA')]);
    put(12, [2, 3, ...u16(320)]);
    put(16, [2, 2, 0b0110, 2]);
    put(20, u16(1080, 1920));
    put(24, u16(34, 0));
    put(28, [0b10_10_0011, 0b10_0110, ...u16(600), ...u16(720), ...u16(480)]);
    put(48, [2, 0b1010]);
    expect(formatConfig(readResourceConfig(reader(bytes), 0))).toBe(
      'mcc310-mnc00-fr-rCA-feminine-ldrtl-sw600dp-w720dp-h480dp-large-long-round-widecg-highdr-land-watch-night-xhdpi-finger-keyshidden-qwerty-navexposed-dpad-1080x1920-v34',
    );
  });

  test.each<[string, () => Uint8Array, RegExp]>([
    [
      'bags that all claim the same items',
      () => {
        const bag = [...u16(16, 1), ...u32(0, 0, 90), ...new Array(90 * 12).fill(0)];
        return table(0, 60, u32(...new Array(60).fill(0)), bag);
      },
      /more items of bags/,
    ],
    [
      'a library list that is longer than the file',
      () => withChunks(chunk(0x0203, u32(9999), [])),
      /the data ends/,
    ],
  ])('%s: refused', (_, bytes, message) => {
    expect(() => [...readResourceTable(bytes()).resources.values()].map((of) => of.variants())).toThrow(
      message,
    );
  });
});

test('attributes that all lie in the same place are refused', () => {
  const strings = pool('a');
  const start = [
    ...u16(0x0102, 16),
    ...u32(36, 1, 0xffffffff),
    ...u32(0xffffffff, 0),
    ...u16(20, 0, 0xffff, 0, 0, 0),
  ];
  const bytes = Uint8Array.from([
    ...u16(3, 8),
    ...u32(8 + strings.length + start.length),
    ...strings,
    ...start,
  ]);
  expect(() => readBinaryXml(bytes, 'x.xml')).toThrow(/65535 attributes of 0 bytes/);
});

test('attributes by name where the platform that the reader was written for does not know their ids', () => {
  const attribute = (name: string, text: string, resourceId = 0): XmlAttribute => ({
    namespace: 'android',
    name,
    resourceId,
    value: { kind: 'string', text },
  });
  const element = (name: string, attributes: XmlAttribute[], ...children: XmlElement[]): XmlElement => ({
    name,
    line: 1,
    attributes,
    children,
  });
  const data = element('data', [
    attribute('pathSuffix', '.pdf', 0x0101ff07),
    attribute('pathAdvancedPattern', '/[0-9]+'),
  ]);
  const activity = element('activity', [attribute('name', '.Read')], element('intent-filter', [], data));
  const root = element(
    'manifest',
    [attribute('package', 'app')],
    element(
      'application',
      [
        attribute('localeConfig', 'res/xml/l.xml', 0x0101ff02),
        // stripped of its name, as some packers do
        attribute('', 'res/xml/n.xml', 0x01010527),
      ],
      activity,
    ),
  );
  const { manifest } = readManifest(root, undefined);
  expect(manifest.application).toMatchObject({
    localeConfig: 'res/xml/l.xml',
    networkSecurityConfig: 'res/xml/n.xml',
  });
  expect(manifest.components[0]!.filters[0]!.paths).toEqual([
    'pathSuffix=.pdf',
    'pathAdvancedPattern=/[0-9]+',
  ]);
});

test('the alignment of native libraries, of 32 and of 64 bits', () => {
  const elf = (wide: boolean, ...aligns: number[]) => {
    const bytes = Buffer.alloc(64 + 56 * aligns.length);
    bytes.write('\x7fELF', 'latin1');
    bytes[4] = wide ? 2 : 1;
    bytes[5] = 1;
    bytes.writeUInt32LE(64, wide ? 32 : 28);
    bytes.writeUInt16LE(56, wide ? 54 : 42);
    bytes.writeUInt16LE(aligns.length, wide ? 56 : 44);
    for (const [i, align] of aligns.entries()) {
      bytes.writeUInt32LE(1, 64 + 56 * i);
      bytes.writeUInt32LE(align, 64 + 56 * i + (wide ? 48 : 28));
    }
    return new Uint8Array(bytes);
  };
  expect(readSegmentAlignment(elf(true, 16384, 65536), 'x')).toBe(16384);
  expect(readSegmentAlignment(elf(false, 4096, 16384), 'x')).toBe(4096);
  expect(() => readSegmentAlignment(new Uint8Array(64), 'x')).toThrow(/not a little-endian ELF/);
});
