import type { BuildKey, Platform } from './candidate.ts';
import type { Catalogue } from './catalogue.ts';
import type { MadeWith } from './made-with.ts';
import type { Problem } from './problem.ts';

/** What a package declares: one view for the checks, and beside it what only one platform has. */
export interface AppPackage {
  platform: Platform;
  container: 'apk' | 'aab' | 'ipa';
  /** SHA-256 of the file. */
  digest: string;
  build: BuildKey;
  /** The app's name in the source language. */
  name: string;
  /** What the app may ask leave for: permissions on Android, keys of usage descriptions on iOS. */
  permissions: string[];
  texts: CatalogueText[];
  /** BCP 47 tags of every locale that the package holds texts for; `default` values are not among them. */
  locales: string[];
  /** Locales that the package says it has, where it says so (locale configuration, `CFBundleLocalizations`). */
  declaredLocales?: string[];
  files: PackedFile[];
  pictures: Picture[];
  signing: Signing;
  traces: Traces;
  /** Toolkits other than the platform's own, each with what says so. */
  madeWith: MadeWith[];
  /** Parts that were there and could not be read, or are not decoded. */
  unread: Problem[];
  /** Parts that were read and that no packer writes as they stand: names that climb out, methods that readers differ on. */
  oddities: Problem[];
  android?: AndroidPart;
  ios?: IosPart;
  /** Parts that are not in this model: not asked for, or not readable. What they would show is untested. */
  leftOut?: PackagePart[];
  /** Colours that themes use on Android, those with a name on iOS. */
  namedColours?: NamedThemeColour[];
  /** What layouts and interface files hold. */
  layoutViews?: LayoutView[];
  /** Resources that come in several forms, or that not every device finds. */
  variants?: VariedResource[];
  /** Catalogues among its assets, as cross-platform toolkits and web shells ship them. */
  assetTexts?: AssetTexts[];
}

/** Parts that take longer to read than what a package declares. */
export const packageParts = [
  'texts',
  'unusedResources',
  'colourPairs',
  'classNames',
  'codeUse',
  'namedColours',
  'layoutViews',
  'variants',
  'assetTexts',
] as const;
export type PackagePart = (typeof packageParts)[number];

export interface AssetTexts {
  /** In the package. */
  path: string;
  /** Of the set of files that it belongs to, with the folder. */
  name: string;
  catalogue: Catalogue;
}

/** One resource and the devices that each of its forms is for. */
export interface VariedResource {
  /** `drawable/poster`; on iOS the picture's name. */
  name: string;
  /** In the packer's order, which counts where the platform chooses. */
  forms: ResourceForm[];
  /** Of a resource that not every device finds: who asks for it on the oldest platform level of the app. */
  askedBy?: AskedBy[];
}

/** Of a resource that asks, its own forms, and which of them do so. */
export type AskedBy =
  | { kind: 'manifest' | 'code' }
  | { kind: 'resource'; name: string; forms: string[]; asking: number[] };

export interface ResourceForm {
  /** As its folder is named: `de-xhdpi`; empty for the default. On iOS `@2x`. */
  qualifiers: string;
  /** Of a picture that is made of pixels. */
  file?: string;
  widthPx?: number;
  heightPx?: number;
  /** A nine-patch. */
  stretches?: true;
}

interface PackedFile {
  name: string;
  sizeBytes: number;
  compressedBytes: number;
}

/** One file of a picture that may come in several, by density. */
export interface Picture {
  name: string;
  file: string;
  /** `mdpi` … `xxxhdpi`, `nodpi`, `anydpi` or empty on Android; `@1x`, `@2x`, `@3x` or `any (drawn)` on iOS. */
  density: string;
}

/** Signs that the package deals with a service, each as it stands there: a permission, an action, a library. */
export interface Traces {
  push: string[];
  billing: string[];
  ads: string[];
}

export interface CatalogueText {
  /** A string's name; plurals and lists have their type before it: `plurals/days`. */
  key: string;
  /** BCP 47, or `default` for values without a language. */
  locale: string;
  /** Plural category, or position in a list. */
  form?: string;
  text: string;
  /** Where it stands, in packages that hold their texts in files. */
  file?: string;
  line?: number;
}

export interface Signing {
  /** In the order in which the platform looks: the strongest first. */
  schemes: SchemeCheck[];
  /** Of the signers that the newest platform level goes by, first signer first; the app's identity on a device. */
  certificates: Certificate[];
  /** Of an APK: what the platform levels make of it, from the lowest that the app runs on to the newest. */
  levels?: LevelVerdict[];
}

/** Android API levels, inclusive, that all take a package or all refuse it for the same reasons. */
export interface LevelVerdict {
  from: number;
  /** Absent where it holds of every newer level too. */
  until?: number;
  /** The one that they go by; absent where there is none that they know. */
  scheme?: SchemeCheck['scheme'];
  /** Why they refuse it; empty where they take it. */
  problems: Problem[];
}

/** One signing scheme found in the package, and whether it holds. */
export interface SchemeCheck {
  scheme: 'v1' | 'v2' | 'v3' | 'v3.1' | 'code-signature';
  /** `unchecked`: the platforms that the app runs on do not look at it. */
  outcome: 'verified' | 'broken' | 'unchecked';
  /** What does not hold; each names its entry where it can. */
  problems: Problem[];
  signers: Signer[];
  /** Of iOS: where the signer's certificates lead. */
  anchor?: Anchor;
}

/** The last certificate of a chain: Apple's root, somebody's own, or one whose issuer is not in the signature. */
export interface Anchor {
  is: 'apple' | 'own' | 'open';
  subject: string;
}

export interface Signer {
  certificates: Certificate[];
  /** SDK levels that the signer is meant for (v3 on). */
  minSdk?: number;
  maxSdk?: number;
  /** Certificates that this one followed, oldest first (v3 proof of rotation). */
  lineage?: Certificate[];
}

export interface Certificate {
  /** SHA-256 of the certificate, lower-case hex. */
  sha256: string;
  subject: string;
  issuer: string;
  /** ISO 8601. */
  validFrom: string;
  validUntil: string;
  /** Algorithm and size: `RSA 2048`, `EC P-256`. */
  key: string;
}

export interface AndroidPart {
  manifest: Manifest;
  /** The base first; a bundle may have others. */
  modules: ModuleLook[];
  /** Of a bundle: a device gets the languages of its settings alone. */
  splitsByLanguage?: boolean;
  /** Undefined where the manifest names none: the platform's defaults hold. */
  networkSecurity?: NetworkSecurity;
  backup: BackupRules;
  shortcuts: Shortcut[];
  code: { dexFiles: number; classes: number; methods: number };
  nativeLibraries: NativeLibrary[];
  /** Resources that neither code, manifest nor another resource names. */
  unusedResources?: UnusedResource[];
  /** Names of the classes that its code defines. */
  classNames?: string[];
  codeUse?: CodeUse;
  /** Texts and what lies behind them, as layouts and themes say. */
  colourPairs?: ColourPair[];
}

/** What the code calls and says, as far as checks ask about it. */
export interface CodeUse {
  /** `package.Class.method`; `package.Class.*` where any method of the class counts. */
  calls: string[];
  /** Actions, addresses of content and the like. */
  texts: string[];
  /** Ids of the mapping files that tell the names before renaming; none where the shrinker wrote none. */
  mapIds: string[];
}

/** A module of a bundle, and when a device gets it. */
export interface ModuleLook {
  name: string;
  delivery: 'base' | 'install-time' | 'conditional' | 'fast-follow' | 'on-demand';
}

/** A colour with a name, by day and by night. */
export interface NamedThemeColour {
  name: string;
  /** 32 bits, alpha highest. */
  light: number;
  /** Undefined where night has no value of its own. */
  dark?: number;
}

/**
 * A text, field, picture or button as a layout of Android or an interface file of iOS describes it. Code may set anything of it
 * later.
 */
export interface LayoutView {
  /** `layout/dialog_refund`; `Main.storyboardc/Vx1-abc.nib`. */
  layout: string;
  /** Its id where it has one, else its class with its line, or with its number among those of the class in the file. */
  view: string;
  role: 'text' | 'field' | 'picture' | 'button';
  /** Texts that stand in the layout itself and in no table of texts. */
  fixedTexts: { part: 'text' | 'hint' | 'description'; text: string }[];
  /** A text, a hint, a description or a label of another view; or it says that it is only for show. */
  isNamed: boolean;
  /** Something happens when it is tapped, as far as the layout says. */
  isActionable: boolean;
  textSize?: { value: number; unit: string };
  /** A height that does not follow the text. */
  heightDp?: number;
  /** Attributes that name left or right and have no counterpart for start or end: `paddingLeft`. */
  sideAttributes: string[];
}

/** A text of a layout and what lies behind it, by day or by night. */
export interface ColourPair {
  /** `layout/dialog_refund` */
  layout: string;
  /** Its id where it has one, else its class and line. */
  view: string;
  part: 'text' | 'hint';
  night: boolean;
  text: NamedColour;
  background: NamedColour;
  /** Whether the layout itself says what lies behind, or only the window of the theme does. */
  from: 'layout' | 'window';
  /** Undefined where nothing in the package says it. */
  textSizeSp?: number;
  bold: boolean;
}

export interface NamedColour {
  /** `color/ink`, or the value itself. */
  name: string;
  /** 32 bits, alpha highest. */
  argb: number;
}

export interface UnusedResource {
  /** `drawable/harbour` */
  name: string;
  type: string;
  files: string[];
  /** Of its files in the package. */
  compressedBytes: number;
}

export interface Manifest {
  /** Name of the part, where the package is one of several that are installed together and not their base. */
  split?: string;
  minSdk?: number;
  targetSdk?: number;
  /** From 2 on, Android 8 and later want a signature newer than v1. */
  targetSandboxVersion?: number;
  maxSdk?: number;
  permissions: UsedPermission[];
  declaredPermissions: { name: string; protectionLevel: number }[];
  features: { name: string; required: boolean }[];
  application: Application;
  components: Component[];
  metaData: MetaData[];
  /** Other apps that this one may see. */
  queries: { packages: string[]; actions: string[]; authorities: string[] };
  /** Shared libraries of the device. */
  libraries: { name: string; required: boolean; isNative: boolean }[];
  /** Screens that it says it is not for. */
  screens: {
    refused: ('small' | 'normal' | 'large' | 'xlarge')[];
    leastWidthDp?: number;
    mostWidthDp?: number;
  };
}

/** What the launcher offers on a long press of the app's icon. */
export interface Shortcut {
  id: string;
  enabled: boolean;
  label: string;
  /** The last one is what opens; those before it are what it goes back to. */
  intents: { targetPackage: string; targetClass: string }[];
}

interface UsedPermission {
  name: string;
  /** Not asked for above this SDK level. */
  maxSdk?: number;
}

export interface Application {
  className: string;
  debuggable: boolean;
  testOnly: boolean;
  allowBackup: boolean;
  backupAgent: string;
  /** Undefined where it is not said. */
  usesCleartextTraffic?: boolean;
  extractNativeLibs?: boolean;
  /** Paths of the files that these attributes name, in the package. */
  fullBackupContent: string;
  dataExtractionRules: string;
  networkSecurityConfig: string;
  localeConfig: string;
  supportsRtl: boolean;
  icon: string;
  roundIcon: string;
}

export interface MetaData {
  name: string;
  value: string;
}

export type ComponentType = 'activity' | 'activity-alias' | 'service' | 'receiver' | 'provider';

export interface Component {
  type: ComponentType;
  /** Full class name. */
  name: string;
  exported: boolean | 'unset';
  enabled: boolean;
  permission?: string;
  /** Of an alias: the activity that it opens. */
  targetActivity?: string;
  /** Of a service that runs in the foreground: `dataSync`, `location` … */
  serviceTypes?: string[];
  /** Of an activity; undefined for the standard one. */
  launchMode?: 'singleTop' | 'singleTask' | 'singleInstance' | 'singleInstancePerTask';
  taskAffinity?: string;
  /** The module of a bundle that brings its code, where that is not the base. */
  module?: string;
  filters: IntentFilter[];
  metaData: MetaData[];
}

/** An intent filter as written: several `<data>` elements combine as schemes × authorities × paths. */
export interface IntentFilter {
  actions: string[];
  categories: string[];
  schemes: string[];
  authorities: LinkAuthority[];
  /** Attribute and value: `pathPrefix=/sailings`. */
  paths: string[];
  /** Of URLs without an authority: `sspPrefix=anna@`. */
  specificParts: string[];
  /** In order; the first that matches lets in or leaves out (API level 35). */
  relativeGroups: RelativeGroup[];
  mimeTypes: string[];
  autoVerify: boolean;
  /** As its elements were written, where one of several names more than one part. */
  elements?: LinkElement[];
}

/** One `<data>` element. */
export interface LinkElement {
  scheme?: string;
  host?: string;
  /** `pathPrefix=/sailings` */
  paths?: string[];
}

/** An intent filter and the activity that has it. */
export interface LinkFilter {
  /** Full class name of the activity or alias. */
  component: string;
  componentType: 'activity' | 'activity-alias';
  /** Of an alias: the activity that it opens. */
  targetActivity?: string;
  /** Position of the filter in its component, from 1. */
  position: number;
  exported: boolean | 'unset';
  enabled: boolean;
  filter: IntentFilter;
}

/** Host and port of one `<data>` element; a host may begin with a star. */
export interface LinkAuthority {
  host: string;
  port?: number;
}

/** `<uri-relative-filter-group>`: all its parts must match. */
export interface RelativeGroup {
  allow: boolean;
  /** `pathPrefix=/staff`, `query=open=app`, `fragmentSuffix=x`. */
  parts: string[];
}

export interface NetworkSecurity {
  /** Of the base configuration; undefined where it is not said. */
  cleartext?: boolean;
  trustsUserCertificates: boolean;
  domains: { names: string[]; cleartext?: boolean; trustsUserCertificates: boolean }[];
}

/** What the rules of one occasion take along. No rules at all means: everything. */
export interface BackupSection {
  includes: BackupPath[];
  excludes: BackupPath[];
}

export interface BackupPath {
  /** `sharedpref`, `database`, `file`, `root`, `external`. */
  domain: string;
  path: string;
}

export interface BackupRules {
  /** Up to Android 11: cloud and transfer alike. */
  fullBackup?: BackupSection;
  /** Android 12 and later. */
  cloudBackup?: BackupSection;
  deviceTransfer?: BackupSection;
}

export interface NativeLibrary {
  file: string;
  abi: string;
  /** The smallest alignment of its loadable segments: 16384 runs on devices with pages of 16 KB. */
  segmentAlignBytes: number;
  /** Where it lies uncompressed in the package, the largest power of two that its offset divides by; else undefined. */
  offsetAlignBytes?: number;
}

export type PlistValue = string | number | boolean | PlistValue[] | { [key: string]: PlistValue };
export type PlistDict = { [key: string]: PlistValue };

export interface IosPart {
  info: PlistDict;
  minimumOs: string;
  urlSchemes: string[];
  backgroundModes: string[];
  /** Of `com.apple.developer.associated-domains`, as signed. */
  associatedDomains: string[];
  /** Keys of usage descriptions, with the locales that have a text of their own for them. */
  usageDescriptions: { key: string; text: string; locales: string[] }[];
  executable: MachOView;
  /** What the executable is signed to be allowed; these count. */
  entitlements: PlistDict;
  /** Of the team that signed it; empty where nobody did. */
  team: string;
  profile?: ProvisioningProfile;
  /** Its own, and those of the resource bundles of libraries that are linked into its code. */
  privacyManifests: PlistDict[];
  /** Calls of the app's own code for which its privacy manifests must give a reason. */
  reasons: NeededReason[];
  /** Code inside that is signed by itself. */
  parts: IosBundle[];
  assetCatalogues: AssetCatalogue[];
  storyboards: Storyboard[];
}

/** A compiled storyboard, by the identifiers of its view controllers. */
export interface Storyboard {
  name: string;
  /** Of the one that it begins with; empty where it names none. */
  entry: string;
  controllers: string[];
  /** Those that nobody gave an identifier. */
  unnamed: number;
}

/** A compiled asset catalogue; its pictures are told of, not decoded. */
export interface AssetCatalogue {
  /** In the archive. */
  file: string;
  pictures: AssetPicture[];
  colours: AssetColour[];
}

interface Asset {
  name: string;
  /** The kind of device that it is for; empty for all. */
  idiom: string;
  appearance: 'any' | 'dark' | 'high contrast' | 'dark, high contrast';
}

export interface AssetPicture extends Asset {
  /** 1, 2 or 3; 0 where it is none of these. */
  scale: number;
  widthPx: number;
  heightPx: number;
  /** It is drawn at any size. */
  isVector: boolean;
  /** Name of the file that it was made from. */
  source: string;
}

export interface AssetColour extends Asset {
  /** 32 bits, alpha highest. */
  argb: number;
}

/** A framework, an app extension, an app for the watch or a library, inside the app. */
export interface IosBundle {
  kind: 'framework' | 'extension' | 'app' | 'library';
  /** In the app: `Frameworks/Charts.framework`. */
  path: string;
  /** Its bundle identifier; of a library, empty. */
  id: string;
  /** Of the team that signed it; empty where nobody did. */
  team: string;
  signature: SchemeCheck;
  reasons: NeededReason[];
}

/** Calls of one category that need a reason (Apple, *Describing use of required reason API*). */
export interface NeededReason {
  /** `FileTimestamp`, `UserDefaults` … */
  category: string;
  /** What the code imports, without the marks of the linker. */
  symbols: string[];
  /** Reasons that the bundle's privacy manifests give for the category: `C617.1`. */
  given: string[];
}

interface MachOView {
  name: string;
  slices: MachOSlice[];
}

export interface MachOSlice {
  architecture: string;
  uuid: string;
  /** Encrypted by the store: its code cannot be looked at. */
  encrypted: boolean;
  libraries: string[];
  /** Objective-C classes of the platform that it refers to. */
  importedClasses: string[];
}

export interface ProvisioningProfile {
  name: string;
  uuid: string;
  teamIds: string[];
  createdAt: string;
  expiresAt: string;
  kind: 'development' | 'ad-hoc' | 'store' | 'enterprise';
  deviceCount: number;
  entitlements: PlistDict;
  /** SHA-256 of the certificates that may sign under it. */
  certificateDigests: string[];
  /** Whether its own signature holds. */
  signed: boolean;
}
