/** Checks that need the package alone: what they say of each case, and that the right case passes. */

import { fixedTextSize } from '../../../src/core/areas/accessibility/checks/fixed-text-size.ts';
import { unnamedInLayout } from '../../../src/core/areas/accessibility/checks/unnamed-in-layout.ts';
import { debugBuild } from '../../../src/core/areas/candidate/checks/debug-build.ts';
import { entitlementMismatch } from '../../../src/core/areas/candidate/checks/entitlement-mismatch.ts';
import { impliedFeature } from '../../../src/core/areas/candidate/checks/implied-feature.ts';
import { releaseSignature } from '../../../src/core/areas/candidate/checks/release-signature.ts';
import { unreadPart } from '../../../src/core/areas/candidate/checks/unread-part.ts';
import { versionNotRaised } from '../../../src/core/areas/candidate/checks/version-not-raised.ts';
import type { Check } from '../../../src/core/areas/check.ts';
import { lightOnlyColour } from '../../../src/core/areas/contrast/checks/light-only-colour.ts';
import { backupRules } from '../../../src/core/areas/lifecycle/checks/backup-rules.ts';
import { launchMode } from '../../../src/core/areas/lifecycle/checks/launch-mode.ts';
import { deadShortcut } from '../../../src/core/areas/links/checks/dead-shortcut.ts';
import { lateModule } from '../../../src/core/areas/links/checks/late-module.ts';
import { mixedLinkData } from '../../../src/core/areas/links/checks/mixed-link-data.ts';
import { languageSplit } from '../../../src/core/areas/localization/checks/language-split.ts';
import { noMirroring } from '../../../src/core/areas/localization/checks/no-mirroring.ts';
import { orphanedLocale } from '../../../src/core/areas/localization/checks/orphaned-locale.ts';
import { sideInLayout } from '../../../src/core/areas/localization/checks/side-in-layout.ts';
import { textInLayout } from '../../../src/core/areas/localization/checks/text-in-layout.ts';
import { undeclaredLocale } from '../../../src/core/areas/localization/checks/undeclared-locale.ts';
import { pushEnvironment } from '../../../src/core/areas/push/checks/push-environment.ts';
import { cleartextTraffic } from '../../../src/core/areas/quality/checks/cleartext-traffic.ts';
import { nativeLibrary } from '../../../src/core/areas/quality/checks/native-library.ts';
import { needlessExport } from '../../../src/core/areas/quality/checks/needless-export.ts';
import { requiredReason } from '../../../src/core/areas/quality/checks/required-reason.ts';
import { serviceType } from '../../../src/core/areas/quality/checks/service-type.ts';
import { unusedResource } from '../../../src/core/areas/quality/checks/unused-resource.ts';
import { usageDescription } from '../../../src/core/areas/quality/checks/usage-description.ts';
import type {
  Anchor,
  BackupSection,
  Component,
  IntentFilter,
  IosBundle,
  LayoutView,
  LinkElement,
  Manifest,
  ModuleLook,
  PlistDict,
  ProvisioningProfile,
  SchemeCheck,
} from '../../../src/core/model/app-package.ts';
import type { Intent } from '../../../src/core/model/intent.ts';
import { aBuild, anIntent, aProfile, departures, observeApp, run } from '../../support/facts.ts';

type App = Parameters<typeof observeApp>[0];

const section = (excludes: string[], includes: string[] = []): BackupSection => {
  const paths = (list: string[]) => list.map((path) => ({ domain: 'file', path }));
  return { excludes: paths(excludes), includes: paths(includes) };
};
const backup = (fullBackup?: BackupSection, cloudBackup?: BackupSection): App => ({
  android: { backup: { fullBackup, cloudBackup } },
});

const scheme = (name: SchemeCheck['scheme'], of: Partial<SchemeCheck> = {}): SchemeCheck => ({
  scheme: name,
  outcome: 'verified',
  problems: [],
  signers: [],
  ...of,
});
const certificate = { sha256: 'aa', subject: 'CN=Team', issuer: '', validFrom: '', validUntil: '', key: '' };
const signing = (schemes: SchemeCheck[], of: Partial<typeof certificate> = {}) => ({
  schemes,
  certificates: [{ ...certificate, ...of }],
});
const profile = (of: Partial<ProvisioningProfile> = {}): ProvisioningProfile => ({ ...aProfile, ...of });
const signedIos = (of: Partial<ProvisioningProfile> = {}): App => ({
  signing: signing([scheme('code-signature')]),
  ios: { profile: profile(of) },
});
const entitled = (entitlements: PlistDict, allowed?: PlistDict): App => ({
  ios: { entitlements, ...(allowed && { profile: profile({ entitlements: allowed }) }) },
});
const component = (of: Partial<Component>, ...actions: string[]): App => ({
  components: [
    {
      type: 'activity',
      name: 'app.Screen',
      exported: true,
      enabled: true,
      metaData: [],
      filters: actions.map((action) => ({
        actions: [action],
        categories: [],
        schemes: [],
        authorities: [],
        specificParts: [],
        relativeGroups: [],
        paths: [],
        mimeTypes: [],
        autoVerify: false,
      })),
      ...of,
    },
  ],
});
const network = (of: Partial<NonNullable<NonNullable<App['android']>['networkSecurity']>>): App => ({
  android: { networkSecurity: { trustsUserCertificates: false, domains: [], ...of } },
});
const domain = (name: string, cleartext?: boolean) => ({
  names: [name],
  cleartext,
  trustsUserCertificates: false,
});
const transport = (of: PlistDict): App => ({ ios: { info: { NSAppTransportSecurity: of } } });
const texts = (counts: Record<string, number>): App => ({
  locales: Object.keys(counts).filter((locale) => locale !== 'default'),
  texts: Object.entries(counts).flatMap(([locale, count]) =>
    Array.from({ length: count }, (_, i) => ({ key: `key${i}`, locale, text: 'x' })),
  ),
});
const shipped = (version: string, build: string): Partial<Intent> => ({
  app: { id: aBuild.appId, suffixes: [], shipped: { version, build } },
});
const usage = (
  importedClasses: string[],
  ...usageDescriptions: [key: string, text: string, ...locales: string[]][]
): App => ({
  ios: {
    executable: {
      name: 'App',
      slices: [{ architecture: 'arm64', uuid: '', encrypted: false, libraries: [], importedClasses }],
    },
    usageDescriptions: usageDescriptions.map(([key, text, ...locales]) => ({ key, text, locales })),
  },
});

const signedUpTo = (is: Anchor['is']): App => ({
  signing: signing([scheme('code-signature', { anchor: { is, subject: 'CN=Root' } })]),
  ios: { profile: profile() },
});
const withPart = (of: Partial<IosBundle>): App => ({
  ...signedIos(),
  ios: {
    profile: profile(),
    team: 'A',
    parts: [
      {
        kind: 'framework',
        path: 'Frameworks/Charts.framework',
        id: 'example.charts',
        team: 'A',
        signature: scheme('code-signature'),
        reasons: [],
        ...of,
      },
    ],
  },
});
const reasons = (...given: string[]): App => ({
  ios: { reasons: [{ category: 'UserDefaults', symbols: ['NSUserDefaults'], given }] },
});

const withManifest = (manifest: Partial<Manifest>): App => ({ manifest });
const withComponents = (...components: Component[]): App => ({ components });
const activity = (name: string, of: Partial<Component> = {}): Component => ({
  ...{ type: 'activity', exported: true, enabled: true, filters: [], metaData: [] },
  name: `example.app.${name}`,
  ...of,
});
const filter = (of: Partial<IntentFilter>): IntentFilter => ({
  ...{ actions: [], categories: [], schemes: ['x'], authorities: [], paths: [], specificParts: [] },
  ...{ relativeGroups: [], mimeTypes: [], autoVerify: false },
  ...of,
});
const shortcut = (targetPackage: string, targetClass: string, enabled = true): App => ({
  ...withComponents(activity('Home'), activity('Off', { enabled: false })),
  android: {
    shortcuts: [{ id: 'home', enabled, label: 'Home', intents: [{ targetPackage, targetClass }] }],
  },
});
const launcher = (mode: Component['launchMode'], count: number): App =>
  withComponents(
    activity('Main', {
      launchMode: mode,
      filters: [filter({ categories: ['android.intent.category.LAUNCHER'] })],
    }),
    ...['Detail'].slice(0, count - 1).map((name) => activity(name)),
    // of a library
    activity('', { name: 'com.pay.Sheet' }),
  );
const linkElements = (...elements: LinkElement[]): App =>
  withComponents(activity('Main', { filters: [filter({ elements })] }));
const modules = (delivery: ModuleLook['delivery'], of: Partial<Component>): App => ({
  ...withComponents(activity('Map', { module: 'map', ...of })),
  android: {
    modules: [
      { name: 'base', delivery: 'base' },
      { name: 'map', delivery },
    ],
  },
});
const cutByLanguage = (splitsByLanguage: boolean, declaredLocales = ['en', 'de']): App => ({
  declaredLocales,
  android: { splitsByLanguage },
});
const colours = (...values: { light: number; dark?: number }[]): App => ({
  namedColours: values.map((of, i) => ({ name: `color/c${i}`, ...of })),
});
const layoutView = (of: Partial<LayoutView>): App => ({
  layoutViews: [
    {
      ...{ layout: 'layout/a', view: 'b', role: 'text', fixedTexts: [], isNamed: true, isActionable: false },
      sideAttributes: [],
      ...of,
    },
  ],
});
const fixedText = (text: string): Partial<LayoutView> => ({ fixedTexts: [{ part: 'text', text }] });
const aSide: Partial<LayoutView> = { sideAttributes: ['paddingLeft'] };
const leftToRight: App = { application: { supportsRtl: false } };

const native = (...of: [abi: string, segmentAlignBytes: number, offsetAlignBytes?: number][]): App => ({
  android: {
    nativeLibraries: of.map(([abi, segmentAlignBytes, offsetAlignBytes]) => ({
      file: `lib/${abi}/libx.so`,
      abi,
      segmentAlignBytes,
      offsetAlignBytes,
    })),
  },
});

const foreground = (serviceTypes: string[], permissions: string[] = []): App => ({
  ...component({ type: 'service', serviceTypes }),
  permissions: permissions.map((of) => `android.permission.FOREGROUND_SERVICE${of}`),
});

const refusedUntil = (until: number, code: string) => ({
  from: 14,
  until,
  problems: [{ code: `signature.${code}`, found: 'something that old levels do not take' }],
});

type Case = [check: Check, what: string, app: App, expected: string[], intent?: Partial<Intent>];
const cases: Case[] = [
  [debugBuild, 'a release', {}, []],
  [debugBuild, 'debuggable', { application: { debuggable: true } }, ['failed example.app']],
  [debugBuild, 'for tests only', { application: { testOnly: true } }, ['failed example.app']],
  [
    debugBuild,
    'an iOS build that a debugger may attach to',
    entitled({ 'get-task-allow': true }),
    ['failed example.app'],
  ],
  [debugBuild, 'an iOS release', entitled({ 'get-task-allow': false }), []],

  [unreadPart, 'all read', {}, []],
  [
    unreadPart,
    'one not',
    { unread: [{ code: 'x', place: 'lib.so', found: 'no ELF file' }] },
    ['cantTell lib.so'],
  ],

  [releaseSignature, 'v2 and v3', { signing: signing([scheme('v3'), scheme('v2')]) }, []],
  [releaseSignature, 'not signed', { signing: signing([]) }, ['failed signature unsigned']],
  [
    releaseSignature,
    'broken',
    {
      signing: signing([
        scheme('v2', { outcome: 'broken', problems: [{ code: 'x', found: 'a changed entry' }] }),
      ]),
    },
    ['failed signature broken'],
  ],
  [
    releaseSignature,
    'v2 alone, on levels that know v1 alone',
    {
      signing: { ...signing([scheme('v2')]), levels: [refusedUntil(23, 'none'), { from: 24, problems: [] }] },
    },
    ['failed signature levels-without-scheme'],
  ],
  [
    releaseSignature,
    'an algorithm that old levels do not take',
    {
      signing: {
        ...signing([scheme('v1', { outcome: 'broken' })]),
        levels: [refusedUntil(17, 'signature'), { from: 18, problems: [] }],
      },
      targetSdk: 29,
    },
    ['failed signature levels-refuse', 'cantTell signature v1-only'],
  ],
  [
    releaseSignature,
    'v1 alone, for SDK 35',
    { signing: signing([scheme('v1')]) },
    ['failed signature v1-only'],
  ],
  [
    releaseSignature,
    'v1 alone, for SDK 29',
    { signing: signing([scheme('v1')]), targetSdk: 29 },
    ['cantTell signature v1-only'],
  ],
  [releaseSignature, 'v1 alone, in a bundle', { signing: signing([scheme('v1')]), container: 'aab' }, []],
  [
    releaseSignature,
    'a debug key',
    { signing: signing([scheme('v2')], { subject: 'C=US, O=Android, CN=Android Debug' }) },
    ['failed signature test-key'],
  ],
  [
    releaseSignature,
    'the published test key',
    {
      signing: signing([scheme('v2')], {
        sha256: 'a40da80a59d170caa950cf15c18c454d47a39b26989d8b640ecd745ba71bf5dc',
      }),
    },
    ['failed signature test-key'],
  ],
  [releaseSignature, 'a store profile', signedIos(), []],
  [
    releaseSignature,
    'a development profile',
    signedIos({ kind: 'development' }),
    ['failed signature development-profile'],
  ],
  [
    releaseSignature,
    'an ad-hoc profile',
    signedIos({ kind: 'ad-hoc' }),
    ['cantTell signature ad-hoc-profile'],
  ],
  [releaseSignature, 'a changed profile', signedIos({ signed: false }), ['failed signature profile-broken']],
  [
    releaseSignature,
    'another signer',
    signedIos({ certificateDigests: ['bb'] }),
    ['failed signature signer-not-in-profile'],
  ],

  [releaseSignature, "certificates up to Apple's root", signedUpTo('apple'), []],
  [releaseSignature, 'a root of its own', signedUpTo('own'), ['failed signature not-apples']],
  [
    releaseSignature,
    'an issuer that did not come along',
    signedUpTo('open'),
    ['cantTell signature open-chain'],
  ],
  [releaseSignature, 'a part of the same team', withPart({}), []],
  [releaseSignature, 'a part of another team', withPart({ team: 'B' }), ['failed signature parts-of-others']],
  [
    releaseSignature,
    'a part that was changed',
    withPart({
      signature: scheme('code-signature', {
        outcome: 'broken',
        problems: [{ code: 'signature.code', found: 'changed code' }],
      }),
    }),
    ['failed signature parts-broken'],
  ],

  [requiredReason, 'a reason is given', reasons('CA92.1'), []],
  [requiredReason, 'none is given', reasons(), ['failed app UserDefaults']],
  [requiredReason, 'one that the list does not have', reasons('CA92'), ['cantTell app UserDefaults']],
  [
    requiredReason,
    'none is given in a part',
    withPart({ reasons: [{ category: 'DiskSpace', symbols: ['statfs'], given: [] }] }),
    ['failed Frameworks/Charts.framework DiskSpace'],
  ],

  [
    impliedFeature,
    'a permission that asks for nothing',
    { permissions: ['android.permission.INTERNET'] },
    [],
  ],
  [
    impliedFeature,
    'one that asks for a telephone',
    { permissions: ['android.permission.READ_SMS'] },
    ['cantTell android.hardware.telephony'],
  ],
  [
    impliedFeature,
    'and the manifest says that it can do without',
    {
      permissions: ['android.permission.READ_SMS'],
      ...withManifest({ features: [{ name: 'android.hardware.telephony', required: false }] }),
    },
    [],
  ],
  [impliedFeature, 'what every phone has', { permissions: ['android.permission.BLUETOOTH'] }, []],
  [
    impliedFeature,
    'screens that are refused',
    withManifest({ screens: { refused: ['xlarge'] } }),
    ['cantTell supports-screens'],
  ],

  [deadShortcut, 'an activity of the package', shortcut('example.app', 'example.app.Home'), []],
  [deadShortcut, 'none', shortcut('example.app', 'example.app.Gone'), ['failed shortcut home']],
  [deadShortcut, 'one that is off', shortcut('example.app', 'example.app.Off'), ['failed shortcut home']],
  [
    deadShortcut,
    'its own, of another build',
    shortcut('example.beta', 'example.app.Home'),
    ['failed shortcut home'],
  ],
  [deadShortcut, 'of another app', shortcut('com.other', 'com.other.Main'), []],
  [deadShortcut, 'switched off', shortcut('example.app', 'example.app.Gone', false), []],

  [launchMode, 'the standard mode', launcher(undefined, 2), []],
  [launchMode, 'at the top', launcher('singleTop', 2), []],
  [launchMode, 'once at the bottom', launcher('singleTask', 2), ['cantTell example.app.Main']],
  [launchMode, 'alone in its task', launcher('singleInstance', 2), ['cantTell example.app.Main']],
  [launchMode, 'the only activity', launcher('singleTask', 1), []],

  [noMirroring, 'laid out both ways', {}, [], { locales: ['en', 'ar'] }],
  [noMirroring, 'one way', leftToRight, ['failed supportsRtl'], { locales: ['en', 'he'] }],
  [noMirroring, 'one way, for languages of one way', leftToRight, [], { locales: ['en', 'ja'] }],
  ...(['React Native', 'Flutter', 'Unity', 'Godot', 'a web view shell'] as const).map(
    (toolkit): Case => [
      noMirroring,
      `one way, of ${toolkit}`,
      { ...leftToRight, madeWith: [{ toolkit, mark: 'a file' }] },
      // the others lay out by themselves
      toolkit === 'React Native' ? ['failed supportsRtl'] : [],
      { locales: ['en', 'he'] },
    ],
  ),
  [noMirroring, 'too old a target', { targetSdk: 16 }, ['failed supportsRtl'], { locales: ['fa'] }],

  [mixedLinkData, 'one pair', linkElements({ scheme: 'https', host: 'a' }, { paths: ['path=/x'] }), []],
  [
    mixedLinkData,
    'two pairs',
    linkElements({ scheme: 'https', host: 'a' }, { scheme: 'app', host: 'b' }),
    ['cantTell example.app.Main filter 1'],
  ],
  [
    mixedLinkData,
    'all pairs of two',
    linkElements(...['http', 'https'].flatMap((scheme) => ['a', 'b'].map((host) => ({ scheme, host })))),
    [],
  ],
  [
    mixedLinkData,
    'a path of one host',
    linkElements({ scheme: 'https', host: 'a', paths: ['path=/x'] }, { host: 'b', paths: ['path=/y'] }),
    ['cantTell example.app.Main filter 1'],
  ],
  [
    mixedLinkData,
    'a host for every scheme',
    linkElements({ scheme: 'https', host: 'a' }, { scheme: 'app' }),
    [],
  ],

  [lateModule, 'in the base', modules('install-time', {}), []],
  [
    lateModule,
    'links into a module that is fetched later',
    modules('on-demand', { filters: [filter({})] }),
    ['cantTell example.app.Map'],
  ],
  [
    lateModule,
    'some devices do not get it, and the launcher starts it',
    modules('conditional', {
      filters: [filter({ schemes: [], categories: ['android.intent.category.LAUNCHER'] })],
    }),
    ['cantTell example.app.Map'],
  ],
  [lateModule, 'opened by the app alone', modules('on-demand', {}), []],

  [languageSplit, 'not a bundle', { declaredLocales: ['en', 'de'] }, [], { locales: ['en', 'de'] }],
  [
    languageSplit,
    'split, and a choice',
    cutByLanguage(true),
    ['cantTell BundleConfig.pb'],
    { locales: ['en', 'de'] },
  ],
  [languageSplit, 'not split', cutByLanguage(false), [], { locales: ['en', 'de'] }],
  [languageSplit, 'split, and no choice', cutByLanguage(true, []), [], { locales: ['en', 'de'] }],
  [languageSplit, 'one language', cutByLanguage(true), [], { locales: ['en'] }],

  [lightOnlyColour, 'all have a dark value', colours({ light: 1, dark: 2 }), []],
  [lightOnlyColour, 'one has none', colours({ light: 1, dark: 2 }, { light: 3 }), ['cantTell dark theme']],
  [lightOnlyColour, 'none has one', colours({ light: 1 }, { light: 3 }), []],

  [unnamedInLayout, 'named', layoutView({ role: 'button' }), []],
  [unnamedInLayout, 'a text', layoutView({ isNamed: false }), []],
  [
    unnamedInLayout,
    'a field',
    layoutView({ role: 'field', isNamed: false, isActionable: true }),
    ['cantTell layout/a b'],
  ],
  [unnamedInLayout, 'a picture', layoutView({ role: 'picture', isNamed: false }), ['cantTell pictures']],
  [unnamedInLayout, 'a picture on iOS', { ...layoutView({ role: 'picture', isNamed: false }), ios: {} }, []],

  [fixedTextSize, 'in sp', layoutView({ textSize: { value: 14, unit: 'sp' } }), []],
  [fixedTextSize, 'in dp', layoutView({ textSize: { value: 14, unit: 'dp' } }), ['cantTell layout/a b unit']],
  [
    fixedTextSize,
    'in a height for twice the size',
    layoutView({ textSize: { value: 20, unit: 'sp' }, heightDp: 47 }),
    [],
  ],
  [
    fixedTextSize,
    'in less',
    layoutView({ textSize: { value: 20, unit: 'sp' }, heightDp: 46 }),
    ['cantTell layout/a b height'],
  ],

  [textInLayout, 'none', layoutView({}), [], { locales: ['en', 'de'] }],
  [textInLayout, 'a mark', layoutView(fixedText('•')), [], { locales: ['en', 'de'] }],
  [
    textInLayout,
    'a word',
    layoutView(fixedText('Go')),
    ['cantTell layout/a b text'],
    { locales: ['en', 'de'] },
  ],
  [textInLayout, 'a word, in the one language', layoutView(fixedText('Go')), [], { locales: ['en'] }],

  [sideInLayout, 'a side', layoutView(aSide), ['cantTell layout/a b'], { locales: ['en', 'ar'] }],
  [sideInLayout, 'a side, in languages of one way', layoutView(aSide), [], { locales: ['en', 'de'] }],
  [
    sideInLayout,
    'a side, in an app that is never mirrored',
    { ...layoutView(aSide), ...leftToRight },
    [],
    { locales: ['en', 'ar'] },
  ],

  [versionNotRaised, 'raised', {}, [], shipped('1.0', '6')],
  [versionNotRaised, 'the same build', {}, ['failed example.app'], shipped('1.0', '7')],
  [versionNotRaised, 'a lower version', {}, ['failed example.app'], shipped('1.0.1', '6')],
  [
    versionNotRaised,
    '2.10 after 2.9',
    { build: { ...aBuild, version: '2.10', build: '2.10' } },
    [],
    shipped('2.9', '2.9'),
  ],
  [versionNotRaised, 'nobody says what was shipped', {}, ['cantTell example.app']],

  [entitlementMismatch, 'the same', entitled({ a: 'x', list: ['1'] }, { a: 'x', list: ['1', '2'] }), []],
  [entitlementMismatch, 'by wildcard', entitled({ id: 'TEAM.app' }, { id: 'TEAM.*' }), []],
  [entitlementMismatch, 'anything', entitled({ domains: ['applinks:x'] }, { domains: '*' }), []],
  [
    entitlementMismatch,
    'less than allowed',
    entitled({ 'get-task-allow': false }, { 'get-task-allow': true }),
    [],
  ],
  [entitlementMismatch, 'not in the profile', entitled({ a: 'x' }, {}), ['failed a']],
  [entitlementMismatch, 'another value', entitled({ a: 'x' }, { a: 'y' }), ['failed a']],
  [
    entitlementMismatch,
    'more than allowed',
    entitled({ list: ['1', '3'] }, { list: ['1', '2'] }),
    ['failed list'],
  ],
  [
    entitlementMismatch,
    'a capability that is not signed for',
    entitled({}, { 'aps-environment': 'production', other: true }),
    ['cantTell aps-environment'],
  ],
  [entitlementMismatch, 'no profile, as from the store', entitled({ a: 'x' }), []],

  [pushEnvironment, 'production', entitled({ 'aps-environment': 'production' }), []],
  [
    pushEnvironment,
    'development',
    entitled({ 'aps-environment': 'development' }),
    ['failed aps-environment'],
  ],
  [pushEnvironment, 'no push', entitled({}), []],

  [backupRules, 'the same rules', backup(section(['a']), section(['a'])), []],
  [backupRules, 'one leaks on new devices', backup(section(['a', 'b']), section(['a'])), ['failed file b']],
  [backupRules, 'one leaks on old devices', backup(section(['a']), section(['a', 'b'])), ['failed file b']],
  [
    backupRules,
    'covered by its folder',
    backup(section(['tokens/a']), section(['tokens'])),
    ['failed file tokens'],
  ],
  [backupRules, 'everything excluded', backup(section(['a']), section(['.'])), ['failed file .']],
  [backupRules, 'one is lost', backup(section([], ['a', 'b']), section([], ['a'])), ['failed file b']],
  [backupRules, 'old devices are not supported', { minSdk: 31, ...backup(section(['a']), section([])) }, []],
  [backupRules, 'one set of rules', backup(undefined, section(['a'])), []],
  [backupRules, 'no rules', {}, ['cantTell no-rules']],
  [backupRules, 'no backup', { application: { allowBackup: false } }, ['cantTell off']],
  [backupRules, 'an agent decides', { application: { backupAgent: 'app.Agent' } }, []],

  [cleartextTraffic, 'nothing said, for SDK 35', {}, []],
  [cleartextTraffic, 'nothing said, for SDK 27', { targetSdk: 27 }, ['failed * cleartext']],
  [
    cleartextTraffic,
    'allowed in the manifest',
    { application: { usesCleartextTraffic: true } },
    ['failed * cleartext'],
  ],
  [
    cleartextTraffic,
    'denied by the file, which counts',
    { application: { usesCleartextTraffic: true }, ...network({ cleartext: false }) },
    [],
  ],
  [
    cleartextTraffic,
    'one host',
    network({ domains: [domain('a.example', true)] }),
    ['failed a.example cleartext'],
  ],
  [
    cleartextTraffic,
    'the development machine',
    network({ domains: [domain('10.0.2.2', true)] }),
    ['cantTell 10.0.2.2 cleartext'],
  ],
  [
    cleartextTraffic,
    'certificates of the user',
    network({ trustsUserCertificates: true }),
    ['failed * user-certificates'],
  ],
  [cleartextTraffic, 'iOS, nothing said', transport({}), []],
  [cleartextTraffic, 'iOS, everywhere', transport({ NSAllowsArbitraryLoads: true }), ['failed * cleartext']],
  [
    cleartextTraffic,
    'iOS, one host',
    transport({
      NSExceptionDomains: { 'a.example': { NSExceptionAllowsInsecureHTTPLoads: true }, 'b.example': {} },
    }),
    ['failed a.example cleartext'],
  ],

  [serviceType, 'no type', foreground([]), []],
  [serviceType, 'a type with its permission', foreground(['location'], ['', '_LOCATION']), []],
  [serviceType, 'without its permission', foreground(['location'], ['']), ['failed app.Screen']],
  [serviceType, 'for SDK 33', { ...foreground(['location'], ['']), targetSdk: 33 }, []],
  [serviceType, 'a short one, for which none is asked', foreground(['shortService'], ['']), []],
  [serviceType, 'without the general one', foreground(['shortService'], []), ['failed app.Screen']],
  [serviceType, 'switched off', { ...component({ serviceTypes: ['camera'], enabled: false }) }, []],
  [needlessExport, 'started by the launcher', component({}, 'android.intent.action.MAIN'), []],
  [needlessExport, 'no filter', component({}), ['cantTell app.Screen']],
  [needlessExport, 'an action of its own', component({}, 'app.REFRESH'), ['cantTell app.Screen']],
  [needlessExport, 'behind a permission', component({ permission: 'app.P' }), []],
  [needlessExport, 'not exported', component({ exported: false }, 'app.REFRESH'), []],
  [needlessExport, 'switched off', component({ enabled: false }), []],
  [
    needlessExport,
    'not said, for SDK 30',
    { targetSdk: 30, ...component({ exported: 'unset' }, 'app.X') },
    ['cantTell app.Screen'],
  ],
  [needlessExport, 'not said, for SDK 35', component({ exported: 'unset' }, 'app.X'), []],

  [
    usageDescription,
    'told',
    usage(['CLLocationManager'], ['NSLocationWhenInUseUsageDescription', 'To find piers.']),
    [],
  ],
  [
    usageDescription,
    'missing',
    usage(['CLLocationManager']),
    ['cantTell NSLocationWhenInUseUsageDescription'],
  ],
  [
    usageDescription,
    'empty',
    usage([], ['NSCameraUsageDescription', ' ']),
    ['failed NSCameraUsageDescription'],
  ],
  [
    usageDescription,
    'not in every language',
    usage([], ['NSCameraUsageDescription', 'Codes.', 'de']),
    ['failed NSCameraUsageDescription'],
    { locales: ['en', 'de', 'pl'] },
  ],
  [
    usageDescription,
    'told under another key of the same data',
    usage(['EKEventStore'], ['NSCalendarsUsageDescription', 'To note the crossing.']),
    [],
  ],
  [
    usageDescription,
    'tracking that is declared, and nothing to ask with',
    { ios: { privacyManifests: [{ NSPrivacyTracking: true }] } },
    ['failed NSUserTrackingUsageDescription'],
  ],
  [usageDescription, 'no tracking', { ios: { privacyManifests: [{ NSPrivacyTracking: false }] } }, []],
  [usageDescription, 'classes that need none', usage(['UIView']), []],

  [orphanedLocale, 'all meant', texts({ default: 10, de: 9 }), [], { locales: ['en', 'de'] }],
  [
    orphanedLocale,
    'one not meant',
    texts({ default: 10, de: 9, fi: 9 }),
    ['failed locales'],
    { locales: ['en', 'de'] },
  ],
  [
    orphanedLocale,
    'a region of one that is meant',
    texts({ default: 10, 'de-AT': 1 }),
    [],
    { locales: ['de'] },
  ],
  [orphanedLocale, 'nobody says, few texts', texts({ default: 10, de: 9, fi: 2 }), ['cantTell locales']],
  [orphanedLocale, 'nobody says, most texts', texts({ default: 10, de: 9 }), []],

  [undeclaredLocale, 'nothing is said', texts({ default: 10, de: 9 }), []],
  [undeclaredLocale, 'all said', { ...texts({ default: 10, de: 9 }), declaredLocales: ['en', 'de'] }, []],
  [
    undeclaredLocale,
    'one said, without texts',
    { ...texts({ default: 10, de: 9 }), declaredLocales: ['en', 'de', 'pl'] },
    ['failed locale pl promised'],
  ],
  [
    undeclaredLocale,
    'one intended, and not said',
    { ...texts({ default: 10, de: 9, pl: 9 }), declaredLocales: ['en', 'de'] },
    ['failed locale pl hidden'],
    { locales: ['en', 'de', 'pl'] },
  ],
  [
    undeclaredLocale,
    'a region of one that is said',
    { ...texts({ default: 10, 'de-AT': 9 }), declaredLocales: ['en', 'de'] },
    [],
    { locales: ['en', 'de-AT'] },
  ],

  [nativeLibrary, 'none', {}, []],
  [nativeLibrary, 'aligned', native(['arm64-v8a', 16384]), []],
  [nativeLibrary, 'pages of 4 KB', native(['arm64-v8a', 4096]), ['failed lib/arm64-v8a/libx.so']],
  [
    nativeLibrary,
    'not aligned in the package',
    native(['x86_64', 16384, 4096]),
    ['failed lib/x86_64/libx.so'],
  ],
  [nativeLibrary, 'both', native(['armeabi-v7a', 4096], ['arm64-v8a', 65536, 16384]), []],
  [nativeLibrary, '32 bits alone', native(['armeabi-v7a', 4096]), ['failed lib/armeabi-v7a/libx.so']],

  [unusedResource, 'none', {}, []],
  [
    unusedResource,
    'two types',
    {
      android: {
        unusedResources: [
          { name: 'drawable/a', type: 'drawable', files: [], compressedBytes: 5 },
          { name: 'drawable/b', type: 'drawable', files: [], compressedBytes: 9 },
          { name: 'string/c', type: 'string', files: [], compressedBytes: 0 },
        ],
      },
    },
    ['cantTell drawable', 'cantTell string'],
  ],
];

test.each(cases.map((of) => [`${of[0].id}: ${of[1]}`, of] as const))(
  '%s',
  (_, [check, , app, expected, intent = {}]) => {
    const assertions = run(check, observeApp(app), anIntent(intent));
    expect(departures(assertions)).toEqual(expected);
    for (const assertion of assertions)
      if ('draft' in assertion) {
        const { basis, identity, occurrence } = assertion.draft;
        const words = check.words(occurrence.data, { basis, identity, occurrences: [occurrence] });
        expect(Object.values(words).join(' ')).not.toMatch(/undefined|NaN|\[object/);
        expect(Object.values(words)).not.toContain('');
        expect(assertion.outcome).toBe(basis === 'measured' ? 'failed' : 'cantTell');
      }
  },
);
