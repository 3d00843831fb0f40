/**
 * The lookout's Swift file, which nobody here can compile: parsed, and walked. What it calls on types of the UI test framework is held
 * against a table of public declarations, and what it serves against docs/ios.md and the requests that Fenlok makes.
 */
import { readFileSync } from 'node:fs';
import { beforeAll, expect, test } from '@jest/globals';
import type Parser from 'web-tree-sitter';
import { parseSwift, type SwiftSource } from '../support/swift-source.ts';

/** Members of the UI test framework that are public, and the first iOS that has them (Apple, *XCUIAutomation*). */
const PUBLIC: Readonly<Record<string, number>> = {
  'XCUIApplication.init': 9,
  'XCUIApplication.launchArguments': 9,
  'XCUIApplication.launchEnvironment': 9,
  'XCUIApplication.launch': 9,
  'XCUIApplication.activate': 9,
  'XCUIApplication.terminate': 9,
  'XCUIApplication.state': 9,
  'XCUIApplication.State': 9,
  'XCUIApplication.wait': 9,
  'XCUIApplication.typeText': 9,
  'XCUIApplication.alerts': 9,
  'XCUIApplication.coordinate': 9,
  'XCUIApplication.snapshot': 9,
  'XCUIApplication.resetAuthorizationStatus': 13.4,
  'XCUIApplication.open': 16.4,
  'XCUIDevice.shared': 9,
  'XCUIDevice.press': 9,
  'XCUIDevice.orientation': 9,
  'XCUIDevice.appearance': 15,
  'XCUIDevice.system': 16.4,
  'XCUIScreen.main': 9,
  'XCUIScreen.screenshot': 9,
  'XCUIElement.ElementType': 9,
  'XCUIElement.exists': 9,
  'XCUIElement.buttons': 9,
  'XCUIElement.waitForExistence': 9,
  'XCUIElementQuery.firstMatch': 9,
  'XCUIElementQuery.count': 9,
  'XCUIElementQuery.element': 9,
  'XCUICoordinate.press': 9,
  'XCUICoordinate.tap': 9,
  'XCUICoordinate.withOffset': 9,
  'XCUIElementSnapshot.children': 9,
  'XCUIElementSnapshot.elementType': 9,
  'XCUIElementSnapshot.frame': 9,
  'XCUIElementSnapshot.hasFocus': 9,
  'XCUIElementSnapshot.identifier': 9,
  'XCUIElementSnapshot.isEnabled': 9,
  'XCUIElementSnapshot.isSelected': 9,
  'XCUIElementSnapshot.label': 9,
  'XCUIElementSnapshot.placeholderValue': 9,
  'XCUIElementSnapshot.value': 9,
};

let swift: SwiftSource;
beforeAll(async () => {
  swift = await parseSwift('src/device/ios/lookout/FenlokLookout.swift');
});

test('it is Swift, and no longer than it has to be', () => {
  expect(swift.errors()).toEqual([]);
  expect(swift.text.trimEnd().split('\n').length).toBeLessThan(400);
});

/** What the file's own names hold. */
const HOLDS: Readonly<Record<string, string>> = {
  app: 'XCUIApplication',
  screen: 'XCUIApplication',
  system: 'XCUIApplication',
  alert: 'XCUIElement',
  buttons: 'XCUIElementQuery',
  alerts: 'XCUIElementQuery',
  element: 'XCUIElementSnapshot',
  bottom: 'XCUICoordinate',
  middle: 'XCUICoordinate',
  top: 'XCUICoordinate',
  origin: 'XCUICoordinate',
};

/** `XCUIDevice.shared.appearance` is `XCUIDevice.appearance`; what `application(…)` gives is an XCUIApplication. */
function memberOf({ text }: Parser.SyntaxNode): string | undefined {
  const flat = text.replace(/\s+/g, '').replace(/^(?:try|\?)/, '');
  const shared = /^(XCUI\w+)\.(?:shared|main)\.(\w+)/.exec(flat);
  if (shared) return `${shared[1]}.${shared[2]}`;
  const own = /^(XCUI\w+)\.(\w+)/.exec(flat);
  if (own) return `${own[1]}.${own[2]}`;
  const made = /^(application|point)\((?:[^()]|\([^()]*\))*\)\.(\w+)$/.exec(flat);
  if (made) return `${made[1] === 'point' ? 'XCUICoordinate' : 'XCUIApplication'}.${made[2]}`;
  const [, name = '', member = ''] = /(?:^|\.)(\w+)\.(\w+)$/.exec(flat) ?? [];
  return HOLDS[name] && `${HOLDS[name]}.${member}`;
}

const availableAt = (node: Parser.SyntaxNode): number => {
  let version = 9;
  for (let at = node.parent; at; at = at.parent) {
    if (at.type === 'function_body' || at.type === 'statements') {
      const before = at.text.slice(0, Math.max(0, node.startIndex - at.startIndex));
      for (const [, found] of before.matchAll(/guard #available\(iOS ([\d.]+)/g))
        version = Math.max(version, Number(found));
    }
    if (at.type === 'if_statement')
      version = Math.max(version, Number(/^if #available\(iOS ([\d.]+)/.exec(at.text)?.[1] ?? 0));
  }
  return version;
};

test('every member that it calls is public, and newer ones stand behind their version', () => {
  const used = swift.nodesOf('navigation_expression').flatMap((node) => {
    const member = memberOf(node);
    return member ? [{ member, node }] : [];
  });
  expect(used.length).toBeGreaterThan(15);
  const unknown = [...new Set(used.map(({ member }) => member))].filter((member) => !(member in PUBLIC));
  expect(unknown).toEqual([]);
  const early = used.filter(({ member, node }) => PUBLIC[member]! > availableAt(node));
  expect(early.map(({ member }) => member)).toEqual([]);
  // a velocity and a hold at the end came later than a drag
  const { text } = swift;
  const held = text.indexOf('withVelocity');
  expect(text.lastIndexOf('#available(iOS 15.0', held)).toBeGreaterThan(text.lastIndexOf('func ', held));
});

test('it serves what docs/ios.md says, and what Fenlok asks', () => {
  const documented = [
    ...readFileSync('docs/ios.md', 'utf8').matchAll(/^\| `([a-z-]+)` \| [^|]*\| [^|]*\|$/gm),
  ]
    .map(([, ask]) => ask!)
    .filter((ask) => ask !== 'ask')
    .sort();
  const served = swift
    .nodesOf('switch_entry')
    .filter((node) => !/XCUI|^case \.running/.test(node.text.split('\n')[0]!))
    .flatMap(({ text }) => /^case "([a-z-]+)":/.exec(text)?.[1] ?? []);
  expect([...new Set([...served, 'bye'])].sort()).toEqual(documented);
  const device =
    readFileSync('src/device/ios/ios-device.ts', 'utf8') +
    readFileSync('src/device/ios/lookout-line.ts', 'utf8');
  const asked = [...device.matchAll(/(?:ask: |#ask\(|#order\(|#readable\()'([a-z-]+)'/g)].map(
    ([, ask]) => ask!,
  );
  expect(asked.length).toBeGreaterThan(15);
  expect([...new Set(asked)].filter((ask) => !documented.includes(ask))).toEqual([]);
});
