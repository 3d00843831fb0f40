/**
 * The exporter for debug builds on iOS, which nobody here can compile: parsed, each of its calls held against UIKit's own declarations
 * and the system version that has them, and each key that it writes against the schema.
 */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { beforeAll, expect, test } from '@jest/globals';
import { sourceFolder } from '../../scripts/corpora.mjs';
import { parseSwift, type SwiftSource } from '../support/swift-source.ts';

/** Members of UIKit: the class that has them, and what Objective-C calls them where Swift has another name. */
const UIKIT: Readonly<Record<string, readonly [of: string, called?: string]>> = {
  shared: ['UIApplication', 'sharedApplication'],
  connectedScenes: ['UIApplication'],
  windows: ['UIWindowScene'],
  isKeyWindow: ['UIWindow', 'keyWindow'],
  screen: ['UIWindow'],
  scale: ['UIScreen'],
  bounds: ['UIView'],
  image: ['UIGraphicsImageRenderer', 'imageWithActions'],
  drawHierarchy: ['UIView', 'drawViewHierarchyInRectAfterScreenUpdates'],
  traitCollection: ['UITraitEnvironment'],
  userInterfaceStyle: ['UITraitCollection'],
  preferredFont: ['UIFont', 'preferredFontForTextStyle'],
  pointSize: ['UIFont'],
  fontDescriptor: ['UIFont'],
  symbolicTraits: ['UIFontDescriptor'],
  model: ['UIDevice'],
  current: ['UIDevice', 'currentDevice'],
  text: ['UILabel'],
  font: ['UILabel'],
  placeholder: ['UITextField'],
  isSecureTextEntry: ['UITextInputTraits', 'secureTextEntry'],
  isOn: ['UISwitch', 'on'],
  gestureRecognizers: ['UIView'],
  canBecomeFocused: ['UIFocusItem'],
  isFirstResponder: ['UIResponder'],
  isScrollEnabled: ['UIScrollView', 'scrollEnabled'],
  subviews: ['UIView'],
  isHidden: ['UIView', 'hidden'],
  alpha: ['UIView'],
  window: ['UIView'],
  convert: ['UIView', 'convertRectToView'],
  accessibilityIdentifier: ['UIAccessibilityIdentification'],
  name: ['UIAccessibilityCustomAction'],
};

/** What every object tells readers (UIKit, *UIAccessibility*): declared on no class of its own. */
const TOLD_TO_READERS = new Set([
  ...['Label', 'Hint', 'Value', 'Traits', 'CustomActions', 'Elements', 'ElementsHidden', 'Frame'].map(
    (name) => `accessibility${name}`,
  ),
  'isAccessibilityElement',
]);
/** `UIAccessibilityTraitButton` and so on, and other constants of enumerations. */
const TRAITS = [
  ...[
    'button',
    'link',
    'header',
    'image',
    'staticText',
    'searchField',
    'adjustable',
    'selected',
    'notEnabled',
  ],
];
const CONSTANTS = new Set([...TRAITS, 'body', 'dark', 'traitBold']);

let swift: SwiftSource;
beforeAll(async () => {
  swift = await parseSwift('src/device/ios/exporter/FenlokExporter.swift');
});

/** Those of Swift itself and Foundation. */
const FOUNDATION = new Set([
  ...[
    'append',
    'appendingPathComponent',
    'closeFile',
    'compactMap',
    'contains',
    'createDirectory',
    'data',
    'default',
  ],
  ...[
    'filter',
    'first',
    'flatMap',
    'formatOptions',
    'height',
    'isEmpty',
    'joined',
    'main',
    'map',
    'minX',
    'minY',
  ],
  ...[
    'mostNodes',
    'node',
    'now',
    'pngData',
    'preferredLocalizations',
    'regularExpression',
    'replacingOccurrences',
  ],
  ...[
    'rounded',
    'seekToEndOfFile',
    'string',
    'utf8',
    'width',
    'withFractionalSeconds',
    'withInternetDateTime',
    'write',
  ],
  ...['cell', 'folder', 'self', 'count'],
]);

const withoutNotes = (text: string) =>
  text.replaceAll(/^\s*\/\/.*$/gm, '').replaceAll(/"(?:[^"\\]|\\.)*"/g, '""');

test('it is Swift, and calls what is public alone', () => {
  expect(swift.errors()).toEqual([]);
  const members = [...withoutNotes(swift.text).matchAll(/\.([a-z]\w*)/g)].map(([, name]) => name!);
  const known = (name: string) =>
    name in UIKIT || TOLD_TO_READERS.has(name) || CONSTANTS.has(name) || FOUNDATION.has(name);
  expect([...new Set(members)].filter((name) => !known(name))).toEqual([]);
  expect(members.length).toBeGreaterThan(80);
});

const types = sourceFolder('ios-types');

(types ? test : test.skip)('UIKit declares each of them, since the iOS that the file asks for', () => {
  const declared = readFileSync(join(types!, 'lib/ios/objc-x86_64/objc!UIKit.d.ts'), 'utf8');
  const [, from = ''] = /@available\(iOS ([\d.]+), \*\)\s*public final class/.exec(swift.text) ?? [];
  expect(Number(from)).toBe(13);
  for (const [name, [of, called = name]] of Object.entries(UIKIT)) {
    const begin = declared.search(new RegExp(`^(?:declare class|interface) ${of}\\b`, 'm'));
    const body = declared.slice(begin, declared.indexOf('\n}', begin));
    const found = new RegExp(`(?:@since ([\\d.]+)\\s*\\*/\\s*)?(?:static |readonly )*\\b${called}\\b`).exec(
      body,
    );
    expect([name, begin >= 0, found !== null, Number(found?.[1] ?? 2) <= Number(from)]).toEqual([
      name,
      true,
      true,
      true,
    ]);
  }
  for (const trait of TRAITS)
    expect(declared).toContain(`UIAccessibilityTrait${trait[0]!.toUpperCase()}${trait.slice(1)}: number`);
});

test('what it writes is in the schema of captures, keys, traits and what they carry', () => {
  const schema = JSON.parse(readFileSync('docs/schemas/capture.json', 'utf8'));
  const text = JSON.stringify(schema);
  const node = schema.$defs.UiNode.properties;
  const inFunction = (name: string) => {
    const begin = swift.text.indexOf(`func ${name}(`);
    return swift.text.slice(begin, swift.text.indexOf('\n  }\n', begin));
  };
  const keysIn = (body: string) => [...body.matchAll(/"(\w+)"(?::|\] =)/g)].map(([, key]) => key!);
  const own = [...keysIn(inFunction('node')), ...keysIn(inFunction('put'))];
  expect(own.length).toBeGreaterThan(20);
  expect(own.filter((key) => !(key in node))).toEqual([]);
  expect(keysIn(inFunction('bounds')).sort()).toEqual(['height', 'width', 'x', 'y']);
  const { properties } = schema;
  expect(keysIn(inFunction('capture')).filter((key) => !(key in properties))).toEqual([]);
  expect(keysIn(inFunction('cell')).filter((key) => !(key in properties.cell.properties))).toEqual([]);
  for (const required of schema.required) expect(keysIn(inFunction('capture'))).toContain(required);
  const words = [
    ...[...inFunction('traits').matchAll(/append\((.*)\)/g)].flatMap(([, of]) => of!.match(/"\w+"/g) ?? []),
    ...((/"carries": \[(.*)\]/.exec(swift.text) ?? [])[1]?.match(/"\w+"/g) ?? []),
  ];
  expect(words.length).toBeGreaterThan(12);
  for (const word of words) expect(text).toContain(word);
});
