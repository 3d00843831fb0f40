/** Attributes of the manifest and of the small XML files that it names, as text. */
import { formatConfig } from '../../platform/android/resource-config.ts';
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
  icon: 0x01010002,
  permission: 0x01010006,
  protectionLevel: 0x01010009,
  enabled: 0x0101000e,
  debuggable: 0x0101000f,
  exported: 0x01010010,
  taskAffinity: 0x01010012,
  launchMode: 0x0101001d,
  targetPackage: 0x01010021,
  targetClass: 0x0101002f,
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
  smallScreens: 0x01010284,
  normalScreens: 0x01010285,
  largeScreens: 0x01010286,
  required: 0x0101028e,
  xlargeScreens: 0x010102bf,
  requiresSmallestWidthDp: 0x01010364,
  largestWidthLimitDp: 0x01010366,
  supportsRtl: 0x010103af,
  extractNativeLibs: 0x010104ea,
  fullBackupContent: 0x010104eb,
  usesCleartextTraffic: 0x010104ec,
  autoVerify: 0x010104ee,
  ssp: 0x010103e3,
  sspPrefix: 0x010103e4,
  sspPattern: 0x010103e5,
  networkSecurityConfig: 0x01010527,
  shortcutId: 0x01010528,
  shortcutShortLabel: 0x01010529,
  roundIcon: 0x0101052c,
  targetSandboxVersion: 0x0101054c,
  foregroundServiceType: 0x01010599,
  splitName: 0x01010549,
  versionCodeMajor: 0x01010576,
} as const;

/** Attributes of manifest elements as text; references are followed into the table. */
export class Reading {
  private readonly table: ResourceTable | undefined;

  constructor(table: ResourceTable | undefined) {
    this.table = table;
  }

  text(element: XmlElement | undefined, name: string): string {
    const attribute = element && attributeOf(element, name, ATTR[name as keyof typeof ATTR]);
    return attribute ? formatValue(attribute.value, this.table) || (attribute.raw ?? '') : '';
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

export const childrenOf = (element: XmlElement | undefined, name: string): XmlElement[] =>
  (element?.children ?? []).filter((child) => child.name === name);

/** A value as text; a reference is followed to the unqualified value, a few steps at most. */
export function formatValue(value: ResValue, table: ResourceTable | undefined, steps = 8): string {
  switch (value.kind) {
    case 'string':
      return value.text;
    case 'integer':
    case 'float':
    case 'boolean':
      return String(value.value);
    case 'reference': {
      const variants = table?.resources.get(value.id)?.variants() ?? [];
      const plain = variants.find(({ config }) => formatConfig(config) === '') ?? variants[0];
      if (steps === 0 || plain?.content.kind !== 'value') return '';
      return formatValue(plain.content.value, table, steps - 1);
    }
    default:
      return '';
  }
}
