/** The manifest model from compiled XML (Android developers, *App manifest overview*). */
import type { Component, IntentFilter, Manifest } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import { attributeOf, type XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { ResourceTable } from './resource-table.ts';

// Resource ids of the platform's attributes (`android.R.attr`); packers may strip the names.
const ATTR = {
  label: 0x01010001,
  name: 0x01010003,
  permission: 0x01010006,
  enabled: 0x0101000e,
  debuggable: 0x0101000f,
  exported: 0x01010010,
  mimeType: 0x01010026,
  scheme: 0x01010027,
  host: 0x01010028,
  path: 0x0101002a,
  pathPrefix: 0x0101002b,
  pathPattern: 0x0101002c,
  minSdkVersion: 0x0101020c,
  versionCode: 0x0101021b,
  versionName: 0x0101021c,
  targetSdkVersion: 0x01010270,
  autoVerify: 0x010104ee,
} as const;

const PATH_ATTRIBUTES = ['path', 'pathPrefix', 'pathSuffix', 'pathPattern', 'pathAdvancedPattern'] as const;
const COMPONENT_TYPES = ['activity', 'activity-alias', 'service', 'receiver', 'provider'] as const;

export interface ManifestIdentity {
  appId: string;
  versionName: string;
  versionCode: string;
  label: string;
}

export function readManifest(
  root: XmlElement,
  table: ResourceTable | undefined,
): { identity: ManifestIdentity; manifest: Manifest } {
  const text = (element: XmlElement, name: string) => textOf(element, name, table);
  const appId = text(root, 'package');
  if (root.name !== 'manifest' || !appId)
    throw new UnreadableError({
      code: 'manifest.none',
      place: 'AndroidManifest.xml',
      found: `a <${root.name}> without a package name`,
      expected: '<manifest package="…">',
    });
  const application = root.children.find((child) => child.name === 'application');
  const usesSdk = root.children.find((child) => child.name === 'uses-sdk');
  return {
    identity: {
      appId,
      versionName: text(root, 'versionName'),
      versionCode: text(root, 'versionCode'),
      label: (application && text(application, 'label')) || appId,
    },
    manifest: {
      minSdk: numberOf(usesSdk && text(usesSdk, 'minSdkVersion')),
      targetSdk: numberOf(usesSdk && text(usesSdk, 'targetSdkVersion')),
      debuggable: application !== undefined && text(application, 'debuggable') === 'true',
      permissions: root.children
        .filter((child) => /^uses-permission(-sdk-23)?$/.test(child.name))
        .map((child) => text(child, 'name')),
      components: (application?.children ?? []).flatMap((child) => readComponent(child, appId, text)),
    },
  };
}

type TextOf = (element: XmlElement, name: string) => string;

function readComponent(element: XmlElement, appId: string, text: TextOf): Component[] {
  const type = COMPONENT_TYPES.find((known) => known === element.name);
  if (!type) return [];
  const exported = text(element, 'exported');
  return [
    {
      type,
      name: fullClassName(text(element, 'name'), appId),
      exported: exported === '' ? 'unset' : exported === 'true',
      enabled: text(element, 'enabled') !== 'false',
      permission: text(element, 'permission') || undefined,
      filters: element.children
        .filter((child) => child.name === 'intent-filter')
        .map((filter) => readFilter(filter, text)),
    },
  ];
}

function readFilter(filter: XmlElement, text: TextOf): IntentFilter {
  const named = (name: string) => filter.children.filter((child) => child.name === name);
  const data = named('data');
  const all = (attribute: string) => [
    ...new Set(data.map((element) => text(element, attribute)).filter(Boolean)),
  ];
  return {
    actions: named('action').map((element) => text(element, 'name')),
    categories: named('category').map((element) => text(element, 'name')),
    schemes: all('scheme'),
    hosts: all('host'),
    paths: PATH_ATTRIBUTES.flatMap((attribute) => all(attribute).map((value) => `${attribute}=${value}`)),
    mimeTypes: all('mimeType'),
    autoVerify: text(filter, 'autoVerify') === 'true',
  };
}

/** `.Name` and `Name` are short for a class in the app's own package. */
const fullClassName = (name: string, appId: string): string =>
  name.startsWith('.') ? appId + name : name.includes('.') || !name ? name : `${appId}.${name}`;

const numberOf = (text: string | undefined): number | undefined =>
  text && /^\d+$/.test(text) ? Number(text) : undefined;

function textOf(element: XmlElement, name: string, table: ResourceTable | undefined): string {
  const attribute = attributeOf(element, name, ATTR[name as keyof typeof ATTR]);
  if (!attribute) return '';
  return sayValue(attribute.value, table) || (attribute.raw ?? '');
}

/** A value as text; a reference is followed to the unqualified value, a few steps at most. */
function sayValue(value: ResValue, table: ResourceTable | undefined, steps = 8): string {
  switch (value.kind) {
    case 'string':
      return value.text;
    case 'integer':
    case 'float':
      return String(value.value);
    case 'boolean':
      return String(value.value);
    case 'reference': {
      const variants = table?.resources.get(value.id)?.variants ?? [];
      const plain = variants.find((variant) => variant.config.key === '') ?? variants[0];
      if (steps === 0 || plain?.content.kind !== 'value') return '';
      return sayValue(plain.content.value, table, steps - 1);
    }
    default:
      return '';
  }
}
