/** The table of URLs in `tests/fixtures/links`, and packages that declare what it says. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { SaxesParser } from 'saxes';
import { parse } from 'yaml';
import type { XmlElement } from '../../src/core/formats/android/binary-xml.ts';
import { readManifest } from '../../src/core/formats/android/manifest.ts';
import { type LinkCandidate, linkFiltersOf } from '../../src/core/platform/links/link-decision.ts';
import { root } from './paths.ts';

interface Group {
  about: string;
  opens?: string[];
  not?: Record<string, string>;
}
export interface AndroidGroup extends Group {
  filter: string;
  action?: string;
  categories?: string[];
  component?: { exported?: string; enabled?: string };
}
export interface AppleGroup extends Group {
  domains: string[];
  schemes?: string[];
  appIDs?: string[];
  components?: unknown[];
  paths?: string[];
  defaults?: unknown;
  substitutionVariables?: unknown;
}

export const linkCases = parse(readFileSync(join(root, 'tests/fixtures/links/cases.yaml'), 'utf8')) as {
  android: AndroidGroup[];
  ios: AppleGroup[];
};

/** URL, and the test that fails first; empty where it opens. */
export const casesOf = ({ not = {}, opens = [] }: Group): [url: string, test: string][] => [
  ...opens.map((url): [string, string] => [url, '']),
  ...Object.entries(not),
];

export function activityXml(
  {
    action = 'android.intent.action.VIEW',
    categories = ['DEFAULT', 'BROWSABLE'],
    component = {},
    filter,
  }: AndroidGroup,
  name: string,
): string {
  const { enabled = 'true', exported = 'true' } = component;
  return `<activity android:name="${name}" android:exported="${exported}" android:enabled="${enabled}"><intent-filter>
    <action android:name="${action}" />
    ${categories.map((one) => `<category android:name="android.intent.category.${one}" />`).join('')}
    ${filter}</intent-filter></activity>`;
}

export const manifestXml = (activities: readonly string[], appId = 'example.links'): string =>
  `<manifest xmlns:android="http://schemas.android.com/apk/res/android" package="${appId}">
  <uses-sdk android:minSdkVersion="26" android:targetSdkVersion="34" />
  <application android:label="Links">${activities.join('\n')}</application></manifest>`;

export function androidCandidate(xml: string): LinkCandidate {
  const { identity, manifest } = readManifest(parseXml(xml), undefined);
  return {
    appId: identity.appId,
    android: { filters: linkFiltersOf(manifest.components), targetSdk: 34, certificates: [], deviceSdk: 34 },
  };
}

/** Source XML as the packer would compile it: with backslashes taken for escapes. */
function parseXml(xml: string): XmlElement {
  const top: XmlElement = { name: '', line: 0, attributes: [], children: [] };
  const open = [top];
  const parser = new SaxesParser();
  parser.on('opentag', ({ attributes, name }) => {
    const element: XmlElement = {
      name,
      line: parser.line,
      children: [],
      attributes: Object.entries(attributes).map(([key, value]) => ({
        namespace: '',
        name: key.replace(/^android:/, ''),
        resourceId: 0,
        value: { kind: 'string', text: String(value).replace(/\\(.)/g, '$1') },
      })),
    };
    open.at(-1)!.children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => open.pop());
  parser.write(xml).close();
  return top.children[0]!;
}
