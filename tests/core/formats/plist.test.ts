/** Property lists and text tables of iOS, written by another library and by hand. */
import toBinaryPlist from 'bplist-creator';
import fc from 'fast-check';
import { parsePlist } from '../../../src/core/formats/apple/plist.ts';
import { parseStrings } from '../../../src/core/formats/apple/strings.ts';
import { readStringsdict } from '../../../src/core/formats/apple/stringsdict.ts';
import type { PlistDict } from '../../../src/core/model/app-package.ts';
import { formatProblem } from '../../../src/core/model/problem.ts';

const bytes = (text: string) => new TextEncoder().encode(text);
const parse = (of: Uint8Array) => parsePlist(of, 'x.plist');

test('binary property lists come back as they went in', () => {
  const leaf = fc.oneof(
    fc.string({ unit: 'grapheme' }),
    fc.boolean(),
    fc.integer(),
    fc.double({ noNaN: true, noDefaultInfinity: true }).filter((value) => !Number.isInteger(value)),
  );
  const { tree } = fc.letrec<{ tree: unknown }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small' },
      leaf,
      fc.array(tie('tree'), { maxLength: 20 }),
      fc.dictionary(fc.string({ unit: 'grapheme-ascii', minLength: 1, maxLength: 8 }), tie('tree'), {
        maxKeys: 20,
        noNullPrototype: true,
      }),
    ),
  }));
  fc.assert(
    fc.property(fc.array(tree, { maxLength: 5 }), (value) => {
      expect(parse(new Uint8Array(toBinaryPlist({ value })))).toEqual({ value });
    }),
    { numRuns: 150 },
  );
});

test('XML property lists, with every type', () => {
  const xml = `<?xml version="1.0"?><!DOCTYPE plist PUBLIC "-//Apple//DTD PLIST 1.0//EN" "x"><plist version="1.0">
    <dict><key>s</key><string>a &amp; <![CDATA[<b>]]></string><key>n</key><integer>-7</integer><key>r</key><real>1.5</real>
    <key>t</key><true/><key>d</key><date>2026-06-01T08:00:00Z</date><key>b</key><data> AAEC
    </data><key>list</key><array><false/><dict/></array><key>__proto__</key><string>x</string></dict></plist>`;
  const value = parse(bytes(xml)) as PlistDict;
  expect({ ...value }).toEqual({
    s: 'a & <b>',
    n: -7,
    r: 1.5,
    t: true,
    d: '2026-06-01T08:00:00Z',
    b: 'AAEC',
    list: [false, {}],
    ['__proto__']: 'x',
  });
  expect(Object.getPrototypeOf(value)).toBe(Object.prototype);
});

/** A binary list by hand: objects as bytes, references and offsets of one byte. */
function handMade(objects: number[][], top = 0): Uint8Array {
  const head = [...bytes('bplist00')];
  const offsets: number[] = [];
  const body: number[] = [...head];
  for (const object of objects) {
    offsets.push(body.length);
    body.push(...object);
  }
  const table = body.length;
  const u64 = (value: number) => [0, 0, 0, 0, 0, 0, value >> 8, value & 0xff];
  return Uint8Array.from([
    ...body,
    ...offsets,
    0,
    0,
    0,
    0,
    0,
    0,
    1,
    1,
    ...u64(objects.length),
    ...u64(top),
    ...u64(table),
  ]);
}
const wide = Array.from({ length: 14 }, (_, i) => [0xae, ...new Array(14).fill(i + 1)]);

test.each<[string, Uint8Array, RegExp]>([
  ['a list that holds itself', handMade([[0xa1, 0]]), /holds itself/],
  [
    'two that hold each other',
    handMade([
      [0xa1, 1],
      [0xa1, 0],
    ]),
    /holds itself/,
  ],
  ['lists that share lists, 14^14 values', handMade([...wide, [0x09]]), /more than 1000000 values/],
  ['a reference beyond the table', handMade([[0xa1, 9]]), /object 9 of 1/],
  ['a string longer than the file', handMade([[0x5f, 0x11, 0x7f, 0xff]]), /the data ends/],
  ['an object of no type', handMade([[0xf0]]), /type 15/],
  ['too short', bytes('bplist00'), /8 bytes/],
  ['XML that is cut off', bytes('<plist><dict><key>a</key>'), /cannot be read/],
  ['a value without a key', bytes('<plist><dict><true/></dict></plist>'), /without a key/],
  ['an element that no list has', bytes('<plist><set/></plist>'), /a <set>/],
  ['nested without end', bytes(`<plist>${'<array>'.repeat(500)}`), /nested 128 deep/],
  ['something else', bytes('Dear Sir'), /cannot be read/],
])('%s is refused', (_, of, message) => {
  expect(() => parse(of)).toThrow(message);
});

const TABLE = `// a comment
/* "commented" = "out"; */
"title" = "Tides \\"today\\"\\n\\U00e6";
bare.key = "semi;colon /* no comment */";
"alone";`;
const utf16 = (text: string, swap: boolean) => {
  const buffer = Buffer.from(`\ufeff${text}`, 'utf16le');
  return new Uint8Array(swap ? buffer.swap16() : buffer);
};

test.each([
  ['UTF-8', bytes(TABLE)],
  ['UTF-8 with a mark', bytes(`\ufeff${TABLE}`)],
  ['UTF-16, little end first', utf16(TABLE, false)],
  ['UTF-16, big end first', utf16(TABLE, true)],
  ['UTF-16 without a mark', utf16(TABLE, false).subarray(2)],
  [
    'binary',
    new Uint8Array(
      toBinaryPlist({ title: 'Tides "today"\næ', 'bare.key': 'semi;colon /* no comment */', alone: 'alone' }),
    ),
  ],
])('texts in %s', (_, of) => {
  expect(parseStrings(of, 'x.strings').pairs.map(({ key, text }) => [key, text])).toEqual([
    ['title', 'Tides "today"\næ'],
    ['bare.key', 'semi;colon /* no comment */'],
    ['alone', 'alone'],
  ]);
});

test.each([
  ['"a" = "b"', /line 1, a: the end of the file; expected a semicolon/],
  ['"a" = "b";\n"c" "d";', /line 2, c: .*d.*; expected a semicolon/],
  ['"a" = ;', /expected a value in quotes/],
  ['"a', /expected a key in quotes/],
])('a table with a mistake names its line: %s', (text, message) => {
  const { problems } = parseStrings(bytes(text), 'x.strings');
  expect(problems.map(formatProblem).join()).toMatch(message);
});

test('plural forms, with one variable and with two', () => {
  const rules = { one: '%d seat', other: '%d seats' };
  expect(readStringsdict({ seats: { NSStringLocalizedFormatKey: '%#@n@', n: rules } })).toEqual([
    { key: 'seats', form: 'one', text: '%d seat' },
    { key: 'seats', form: 'other', text: '%d seats' },
  ]);
  expect(readStringsdict({ trip: { a: { other: 'x' }, b: { other: 'y' } } }).map(({ form }) => form)).toEqual(
    ['a/other', 'b/other'],
  );
});
