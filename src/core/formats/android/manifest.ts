/** The manifest model from its XML, compiled or protobuf (Android developers, *App manifest overview*). */
import type {
  Application,
  Component,
  ComponentType,
  IntentFilter,
  LinkAuthority,
  Manifest,
  MetaData,
} from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import { sayConfig } from '../../platform/android/resource-config.ts';
import { serviceTypesOf } from '../../platform/android/service-types.ts';
import { attributeOf, type XmlElement } from './binary-xml.ts';
import type { ResValue } from './res-value.ts';
import type { ResourceTable } from './resource-table.ts';

/**
 * Resource ids of the platform's attributes (`android.R.attr`); packers may strip the names. Attributes that are
 * younger than the platform package which these were read from are known by name alone.
 */
export const ATTR = {
  label: 0x01010001,
  name: 0x01010003,
  permission: 0x01010006,
  protectionLevel: 0x01010009,
  enabled: 0x0101000e,
  debuggable: 0x0101000f,
  exported: 0x01010010,
  value: 0x01010024,
  resource: 0x01010025,
  mimeType: 0x01010026,
  scheme: 0x01010027,
  host: 0x01010028,
  port: 0x01010029,
  path: 0x0101002a,
  pathPrefix: 0x0101002b,
  pathPattern: 0x0101002c,
  targetActivity: 0x01010202,
  minSdkVersion: 0x0101020c,
  versionCode: 0x0101021b,
  versionName: 0x0101021c,
  targetSdkVersion: 0x01010270,
  maxSdkVersion: 0x01010271,
  testOnly: 0x01010272,
  backupAgent: 0x0101027f,
  allowBackup: 0x01010280,
  required: 0x0101028e,
  extractNativeLibs: 0x010104ea,
  fullBackupContent: 0x010104eb,
  usesCleartextTraffic: 0x010104ec,
  autoVerify: 0x010104ee,
  ssp: 0x010103e3,
  sspPrefix: 0x010103e4,
  sspPattern: 0x010103e5,
  networkSecurityConfig: 0x01010527,
  targetSandboxVersion: 0x0101054c,
  foregroundServiceType: 0x01010599,
  versionCodeMajor: 0x01010576,
} as const;

const PATTERN_KINDS = ['', 'Prefix', 'Suffix', 'Pattern', 'AdvancedPattern'] as const;
const kindsOf = (part: string): string[] => PATTERN_KINDS.map((kind) => part + kind);
const COMPONENT_TYPES: readonly ComponentType[] = [
  'activity',
  'activity-alias',
  'service',
  'receiver',
  'provider',
];

export interface ManifestIdentity {
  appId: string;
  versionName: string;
  /** With the major part, where there is one, in the upper 32 bits. */
  versionCode: string;
  label: string;
}

/** Attributes of manifest elements as text; references are followed into the table. */
class Reading {
  private readonly table: ResourceTable | undefined;

  constructor(table: ResourceTable | undefined) {
    this.table = table;
  }

  text(element: XmlElement | undefined, name: string): string {
    const attribute = element && attributeOf(element, name, ATTR[name as keyof typeof ATTR]);
    return attribute ? sayValue(attribute.value, this.table) || (attribute.raw ?? '') : '';
  }
  number(element: XmlElement | undefined, name: string): number | undefined {
    const text = this.text(element, name);
    return /^\d+$/.test(text) ? Number(text) : undefined;
  }
  flag(element: XmlElement | undefined, name: string): boolean | undefined {
    const text = this.text(element, name);
    return text === '' ? undefined : text === 'true' || /^-?[1-9]\d*$/.test(text);
  }
}

const largest = (numbers: readonly (number | undefined)[]): number | undefined => {
  const known = numbers.filter((number) => number !== undefined);
  return known.length > 0 ? Math.max(...known) : undefined;
};

export function readManifest(
  root: XmlElement,
  table: ResourceTable | undefined,
): { identity: ManifestIdentity; manifest: Manifest } {
  const of = new Reading(table);
  const appId = of.text(root, 'package');
  if (root.name !== 'manifest' || !appId)
    throw new UnreadableError({
      code: 'manifest.none',
      place: 'AndroidManifest.xml',
      found: `a <${root.name}> without a package name`,
      expected: '<manifest package="…">',
    });
  const application = childrenOf(root, 'application')[0];
  const levels = childrenOf(root, 'uses-sdk');
  const [usesSdk] = levels;
  const major = of.number(root, 'versionCodeMajor') ?? 0;
  const code = of.text(root, 'versionCode');
  return {
    identity: {
      appId,
      versionName: of.text(root, 'versionName'),
      versionCode: major > 0 ? String(BigInt(major) * 2n ** 32n + BigInt(code || 0)) : code,
      label: of.text(application, 'label') || appId,
    },
    manifest: {
      // the installer holds the device against each of them
      minSdk: largest(levels.map((element) => of.number(element, 'minSdkVersion'))),
      targetSdk: of.number(usesSdk, 'targetSdkVersion'),
      maxSdk: of.number(usesSdk, 'maxSdkVersion'),
      targetSandboxVersion: of.number(root, 'targetSandboxVersion'),
      permissions: root.children
        .filter((child) => /^uses-permission(-sdk-23)?$/.test(child.name))
        .map((child) => ({ name: of.text(child, 'name'), maxSdk: of.number(child, 'maxSdkVersion') })),
      declaredPermissions: childrenOf(root, 'permission').map((child) => ({
        name: of.text(child, 'name'),
        protectionLevel: of.number(child, 'protectionLevel') ?? 0,
      })),
      features: childrenOf(root, 'uses-feature')
        .filter((child) => of.text(child, 'name') !== '')
        .map((child) => ({
          name: of.text(child, 'name'),
          required: of.flag(child, 'required') ?? true,
        })),
      application: readApplication(application, appId, of),
      components: (application?.children ?? []).flatMap((child) => readComponent(child, appId, of)),
      metaData: readMetaData(application, of),
    },
  };
}

const childrenOf = (element: XmlElement | undefined, name: string): XmlElement[] =>
  (element?.children ?? []).filter((child) => child.name === name);

function readApplication(element: XmlElement | undefined, appId: string, of: Reading): Application {
  return {
    className: fullClassName(of.text(element, 'name'), appId),
    debuggable: of.flag(element, 'debuggable') ?? false,
    testOnly: of.flag(element, 'testOnly') ?? false,
    allowBackup: of.flag(element, 'allowBackup') ?? true,
    backupAgent: fullClassName(of.text(element, 'backupAgent'), appId),
    usesCleartextTraffic: of.flag(element, 'usesCleartextTraffic'),
    extractNativeLibs: of.flag(element, 'extractNativeLibs'),
    fullBackupContent: of.text(element, 'fullBackupContent'),
    dataExtractionRules: of.text(element, 'dataExtractionRules'),
    networkSecurityConfig: of.text(element, 'networkSecurityConfig'),
    localeConfig: of.text(element, 'localeConfig'),
  };
}

const readMetaData = (element: XmlElement | undefined, of: Reading): MetaData[] =>
  childrenOf(element, 'meta-data').map((child) => ({
    name: of.text(child, 'name'),
    value: of.text(child, 'value') || of.text(child, 'resource'),
  }));

function readComponent(element: XmlElement, appId: string, of: Reading): Component[] {
  const type = COMPONENT_TYPES.find((known) => known === element.name);
  if (!type) return [];
  const targetActivity = of.text(element, 'targetActivity');
  const serviceTypes = serviceTypesOf(of.number(element, 'foregroundServiceType') ?? 0);
  return [
    {
      type,
      name: fullClassName(of.text(element, 'name'), appId),
      exported: of.flag(element, 'exported') ?? 'unset',
      enabled: of.flag(element, 'enabled') ?? true,
      permission: of.text(element, 'permission') || undefined,
      targetActivity: targetActivity ? fullClassName(targetActivity, appId) : undefined,
      ...(serviceTypes.length > 0 && { serviceTypes }),
      filters: childrenOf(element, 'intent-filter').map((filter) => readFilter(filter, of)),
      metaData: readMetaData(element, of),
    },
  ];
}

function readFilter(filter: XmlElement, of: Reading): IntentFilter {
  const data = childrenOf(filter, 'data');
  const names = (element: string) => childrenOf(filter, element).map((child) => of.text(child, 'name'));
  const all = (attribute: string) => [
    ...new Set(data.map((element) => of.text(element, attribute)).filter(Boolean)),
  ];
  return {
    actions: names('action'),
    categories: names('category'),
    schemes: all('scheme'),
    authorities: readAuthorities(data, of),
    paths: patternsOf(data, 'path', of),
    specificParts: patternsOf(data, 'ssp', of),
    relativeGroups: childrenOf(filter, 'uri-relative-filter-group').map((group) => ({
      allow: of.flag(group, 'allow') ?? true,
      parts: ['path', 'query', 'fragment'].flatMap((part) => patternsOf(childrenOf(group, 'data'), part, of)),
    })),
    mimeTypes: all('mimeType'),
    autoVerify: of.flag(filter, 'autoVerify') ?? false,
  };
}

/** A port counts only in the element that names its host. */
function readAuthorities(data: readonly XmlElement[], of: Reading): LinkAuthority[] {
  const found = new Map<string, LinkAuthority>();
  for (const element of data) {
    const host = of.text(element, 'host');
    const port = of.number(element, 'port');
    if (host) found.set(`${host} ${port}`, { host, ...(port !== undefined && { port }) });
  }
  return [...found.values()];
}

const patternsOf = (data: readonly XmlElement[], part: string, of: Reading): string[] => [
  ...new Set(
    kindsOf(part).flatMap((attribute) =>
      data.flatMap((element) => {
        const value = of.text(element, attribute);
        return value === '' ? [] : [`${attribute}=${value}`];
      }),
    ),
  ),
];

/** `.Name` and `Name` are short for a class in the app's own package. */
const fullClassName = (name: string, appId: string): string =>
  name.startsWith('.') ? appId + name : name.includes('.') || !name ? name : `${appId}.${name}`;

/** A value as text; a reference is followed to the unqualified value, a few steps at most. */
export function sayValue(value: ResValue, table: ResourceTable | undefined, steps = 8): string {
  switch (value.kind) {
    case 'string':
      return value.text;
    case 'integer':
    case 'float':
    case 'boolean':
      return String(value.value);
    case 'reference': {
      const variants = table?.resources.get(value.id)?.variants() ?? [];
      const plain = variants.find(({ config }) => sayConfig(config) === '') ?? variants[0];
      if (steps === 0 || plain?.content.kind !== 'value') return '';
      return sayValue(plain.content.value, table, steps - 1);
    }
    default:
      return '';
  }
}
