/** The manifest model from its XML, compiled or protobuf (Android developers, *App manifest overview*). */
import type { Application, Component, ComponentType, Manifest, MetaData } from '../../model/app-package.ts';
import { UnreadableError } from '../../model/problem.ts';
import { serviceTypesOf } from '../../platform/android/service-types.ts';
import type { XmlElement } from './binary-xml.ts';
import { readFilter } from './intent-filter.ts';
import { childrenOf, Reading } from './manifest-reading.ts';
import type { ResourceTable } from './resource-table.ts';

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
      ...(of.text(root, 'split') !== '' && { split: of.text(root, 'split') }),
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
      queries: readQueries(root, of),
      libraries: readLibraries(application, of),
      screens: readScreens(root, of),
      application: readApplication(application, appId, of),
      components: (application?.children ?? []).flatMap((child) => readComponent(child, appId, of)),
      metaData: readMetaData(application, of),
    },
  };
}

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
    supportsRtl: of.flag(element, 'supportsRtl') ?? false,
    icon: of.text(element, 'icon'),
    roundIcon: of.text(element, 'roundIcon'),
  };
}

/** Other apps that this one may see (Android developers, *Package visibility*). */
function readQueries(root: XmlElement, of: Reading): Manifest['queries'] {
  const queries = childrenOf(root, 'queries');
  const inside = (name: string) => queries.flatMap((element) => childrenOf(element, name));
  return {
    packages: inside('package').map((element) => of.text(element, 'name')),
    actions: inside('intent').flatMap((intent) =>
      childrenOf(intent, 'action').map((action) => of.text(action, 'name')),
    ),
    authorities: inside('provider').flatMap((element) => of.text(element, 'authorities').split(';')),
  };
}

const readLibraries = (application: XmlElement | undefined, of: Reading): Manifest['libraries'] =>
  (application?.children ?? [])
    .filter(({ name }) => /^uses-(native-)?library$/.test(name))
    .map((element) => ({
      name: of.text(element, 'name'),
      required: of.flag(element, 'required') ?? true,
      isNative: element.name === 'uses-native-library',
    }));

/** Sizes of screens that the app says it is not for (Android developers, *<supports-screens>*). */
function readScreens(root: XmlElement, of: Reading): Manifest['screens'] {
  const elements = childrenOf(root, 'supports-screens');
  const refused = (['small', 'normal', 'large', 'xlarge'] as const).filter((size) =>
    elements.some((element) => of.flag(element, `${size}Screens`) === false),
  );
  const least = largest(elements.map((element) => of.number(element, 'requiresSmallestWidthDp')));
  const most = largest(elements.map((element) => of.number(element, 'largestWidthLimitDp')));
  return {
    refused,
    ...(least && { leastWidthDp: least }),
    ...(most && { mostWidthDp: most }),
  };
}

// `ActivityInfo.LAUNCH_…`, by number.
const LAUNCH_MODES = [
  undefined,
  'singleTop',
  'singleTask',
  'singleInstance',
  'singleInstancePerTask',
] as const;

const readMetaData = (element: XmlElement | undefined, of: Reading): MetaData[] =>
  childrenOf(element, 'meta-data').map((child) => ({
    name: of.text(child, 'name'),
    value: of.text(child, 'value') || of.text(child, 'resource'),
  }));

function readComponent(element: XmlElement, appId: string, of: Reading): Component[] {
  const type = COMPONENT_TYPES.find((known) => known === element.name);
  if (!type) return [];
  const targetActivity = of.text(element, 'targetActivity');
  const launchMode = LAUNCH_MODES[of.number(element, 'launchMode') ?? 0];
  const taskAffinity = of.text(element, 'taskAffinity');
  const splitName = of.text(element, 'splitName');
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
      ...(launchMode && { launchMode }),
      ...(taskAffinity && { taskAffinity }),
      ...(splitName && { module: splitName }),
      filters: childrenOf(element, 'intent-filter').map((filter) => readFilter(filter, of)),
      metaData: readMetaData(element, of),
    },
  ];
}

/** `.Name` and `Name` are short for a class in the app's own package. */
const fullClassName = (name: string, appId: string): string =>
  name.startsWith('.') ? appId + name : name.includes('.') || !name ? name : `${appId}.${name}`;
