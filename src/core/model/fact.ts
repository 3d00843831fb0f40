import type {
  Anchor,
  AppPackage,
  BackupRules,
  ColourPair,
  ComponentType,
  LayoutView,
  NativeLibrary,
  NeededReason,
  PackagePart,
  PlistValue,
  ProvisioningProfile,
  SchemeCheck,
  UnusedResource,
  VariedResource,
} from './app-package.ts';
import type { BuildKey, Platform } from './candidate.ts';
import type { UnprovenSetting } from './capture.ts';
import type { EntryKind, TextFault, TextSyntax } from './catalogue.ts';
import type { Cell } from './cell.ts';
import type { AdLoadFact, AdSessionFact, AdShowFact, AdSurroundingsFact, AppAdsFact } from './facts/ads.ts';
import type { ElementRef, OfCapture, OfPackage, StateChange } from './facts/base.ts';
import type { LinkDomainsFact, LinkFilterFact, LinkRunFact, SiteFileFact } from './facts/links.ts';
import type { ListingFact, ReviewsFact } from './facts/listing.ts';
import type { FieldEdgeFact, LightAreaFact, PictureFact } from './facts/looks.ts';
import type { ManifestFact, ShortcutFact } from './facts/manifest.ts';
import type {
  PurchaseHistoryFact,
  SignedSaleFact,
  StoreListingFact,
  StoreOfferFact,
} from './facts/purchases.ts';
import type {
  PayloadFact,
  PushChannelsFact,
  PushPermissionFact,
  PushRunFact,
  PushSetupFact,
  PushTokenFact,
} from './facts/push.ts';
import type {
  BuildIdsFact,
  DeviceLogFact,
  ExportKeyFact,
  PlatformCallsFact,
  SymbolsFact,
  TroubleFact,
} from './facts/quality.ts';
import type { RatingRoundFact } from './facts/ratings.ts';
import type { Box } from './geometry.ts';
import type { ToolkitName } from './made-with.ts';
import type { Toolkit } from './toolkit.ts';
import type { Trait } from './ui-tree.ts';

/** That a capture was looked at. */
export interface CaptureFact extends OfCapture {
  kind: 'capture';
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  elementCount: number;
  toolkit: Toolkit;
  /** What the tree carries beyond the OS's own dump. */
  carries?: readonly string[];
  /** Texts and pictures behind a scrim, which nothing is said of. */
  behindCount?: number;
  /** `seen`: the build was read from the device; `asserted`: a person says so. */
  buildBasis: 'seen' | 'asserted';
  unproven?: UnprovenSetting[];
}

interface TextContrastBase extends OfCapture {
  kind: 'text-contrast';
  element: ElementRef;
  enabled: boolean;
  /** What hides a part of it. */
  cutBy?: 'screen' | 'scroll';
  /** It is the description of its node, which turned out to be drawn. */
  described?: true;
  /** It stands in a bar of the system, which keeps its text size. */
  inBar?: true;
}

/** Contrast of one text element against what lies behind it, measured from the picture. */
export interface SeenTextFact extends TextContrastBase {
  unseen?: undefined;
  /** WCAG 2.2 contrast ratio, 1 to 21; and the interval in which the true ratio lies. */
  ratio: number;
  interval: [number, number];
  foreground: string;
  background: string;
  /** Share of inked pixels that reach the text's own colour, 0 to 1: thin text may never reach it. */
  reached: number;
  /** One colour, a gradient, or a picture: of the latter two the worst place counts. */
  behind: 'flat' | 'gradient' | 'picture';
  /** On an uneven background: the ratio at its average place. */
  meanRatio: number;
  /** Whether the tree says the size, or glyphs were measured; checks may find it in the package's layouts. */
  sizeFrom: 'tree' | 'glyphs' | 'package';
  /** Text size, lowest and highest, in dp. */
  textSizeDp: [number, number];
  /** Weight 700 or more. */
  bold: boolean | 'unknown';
  /** Height of its tallest glyph, and width of its strokes (0 where not measured): what growth is told by. */
  glyphDp: number;
  stemDp: number;
  /** Widths of all its words together, 0 where they were not told apart: what being whole is told by. */
  runDp: number;
  /** Heights of its lines, from the highest letter to the lowest: what is cut is lower than its width makes it. */
  linesDp: number[];
  /** Letters that end at the upper or lower edge of its box. */
  edge?: { at: 'top' | 'bottom'; count: number; share: number };
  /** What was measured is not as wide or as high as its letters would be: it may be something else. */
  doubtful?: true;
  /** The picture was packed with losses, which the interval allows for. */
  packed?: true;
}

/** A text that the tree holds and the picture does not show in a way that can be measured. */
export interface UnseenTextFact extends TextContrastBase {
  unseen: 'no-ink' | 'too-small' | 'covered' | 'busy-background';
}

export type TextContrastFact = SeenTextFact | UnseenTextFact;

interface IconContrastBase extends OfCapture {
  kind: 'icon-contrast';
  element: ElementRef;
  enabled: boolean;
  /** It can be acted on, or has a name: somebody means it to be seen. */
  meant: boolean;
  cutBy?: 'screen' | 'scroll';
}

/** Contrast of an icon with the shape that carries it, or with the screen. */
export interface SeenIconFact extends IconContrastBase {
  unseen?: undefined;
  /** The picture was packed with losses, which the interval allows for. */
  packed?: true;
  /** What was measured may be noise, and not the drawing. */
  doubtful?: true;
  ratio: number;
  interval: [number, number];
  foreground: string;
  background: string;
}

interface UnseenIconFact extends IconContrastBase {
  unseen: 'no-ink' | 'too-small' | 'covered' | 'busy-background' | 'photo';
}

export type IconContrastFact = SeenIconFact | UnseenIconFact;

/** A text that a person reads or hears on a screen. */
export interface ScreenTextFact extends OfCapture {
  kind: 'screen-text';
  element: ElementRef;
  text: string;
  /** Drawn, or only spoken. */
  from: 'text' | 'label';
  /** A field that holds what a person typed, or its hint. */
  isField: boolean;
  /** In drawing order of its screen, from 0. */
  order: number;
  /** What it can be scrolled in, and out of sight. */
  scrollerPx?: Box;
  /** The innermost box that holds other texts too: a row, a card. */
  holderPx?: Box;
  /** The picture ends it in an ellipsis that the text does not have. */
  ellipsized?: true;
}

/** Where an element lies on its screen: what left-to-right and right-to-left layouts are compared by. */
export interface PlaceFact extends OfCapture {
  kind: 'place';
  /** Language-free, with the position among those of the same key. */
  key: string;
  /** Distances from the left and right edge of the screen, in dp. */
  leftDp: number;
  rightDp: number;
  screenWidthDp: number;
}

/** What tells by itself which way a screen runs. */
export interface SideFact extends OfCapture {
  kind: 'side';
  element: ElementRef;
  /** A text in the letters of its language, where it is drawn; or an arrow. */
  what: 'text' | 'arrow';
  points?: 'left' | 'right';
  /** Distances from the left and right edge of the screen, in dp. */
  leftDp: number;
  rightDp: number;
  topDp: number;
  bottomDp: number;
  /** Distances to what stands in the same row, or to the edge of the screen, in dp. */
  roomLeftDp: number;
  roomRightDp: number;
}

/** A place where a screen reader stops, and what it has to say there. */
export interface StopFact extends OfCapture {
  kind: 'stop';
  element: ElementRef;
  toolkit: Toolkit;
  /** In reading order, from 1. */
  order: number;
  actionable: boolean;
  enabled: boolean;
  name: string;
  nameFrom: 'label' | 'text' | 'gathered' | 'label-for' | 'hint' | 'none';
  roles: Trait[];
  /** What it stands at, as spoken. */
  states: string[];
  /** Texts drawn on it. */
  drawn: string[];
  isField: boolean;
  isPicture: boolean;
  /** Checked or not, selected, expanded or a value: some state is told. */
  hasState: boolean;
  longPress?: true;
  /** Without a name, and cut where nothing of what it holds is in the tree. */
  cutBy?: 'scroll';
  /** Not a stop in truth: actionable, and kept from readers and switches. */
  shutInBy?: 'element' | 'hidden';

  // Left out where the source does not carry it.
  heading?: boolean;
  traits?: Trait[];
  value?: string;
  knowsLabels?: true;
  actions?: string[];
  swipeable?: boolean;
}

/** Something that takes the focus, and of which nothing is on the screen. */
export interface UnseenFocusFact extends OfCapture {
  kind: 'unseen-focus';
  element: ElementRef;
  toolkit: Toolkit;
  where: 'no-size' | 'off-screen';
}

/** The size of something that can be tapped. */
export interface TargetFact extends OfCapture {
  kind: 'target';
  element: ElementRef;
  enabled: boolean;
  widthDp: number;
  heightDp: number;
  /** One picture pixel in dp: the rounding that a size may carry. */
  pixelDp: number;
  /** Others that lie over a part of it, by their keys, with the size of what they share. */
  overlaps: { key: string; shown: string; widthDp: number; heightDp: number }[];
  /** Centre to the nearest edge or, of another small target, centre of what can be tapped beside it. */
  clearanceDp: number;
  /** What hides a part of it, so that its whole size is not known. */
  cutBy?: 'screen' | 'scroll';
}

export type { StateChange } from './facts/base.ts';

/** A screen on the way back out of an app. */
export interface BackStep {
  activity: string;
  outline: string[];
}

interface ProcessSeen {
  pid: number;
  startTicks?: number;
}

/** One run of a drill on one screen of one device: what was there before, what came of it. It knows no requirement. */
export interface DrillRunFact extends OfCapture {
  kind: 'drill-run';
  drill: string;
  /** ISO 8601; of several runs the last one counts. */
  at: string;
  deviceId: string;
  sdk: number;
  /** Why it did not come to its end. */
  stopped?: { step: string; why: string };
  /** Undefined was not asked, null was not there. */
  process: Partial<Record<'before' | 'away' | 'after', ProcessSeen | null>>;
  /** Where the system says that the app was, on iOS: once it was left, once it was ended, and at last. */
  states?: Partial<Record<'left' | 'gone' | 'after', string>>;
  /** Similarity of the screen afterwards to the one before, and to the first of the app, 0 to 1; and who was in front. */
  landed?: {
    activity: string;
    isSameActivity: boolean;
    likeBefore: number;
    likeFirst: number;
    /** To the screen as it was reached, before anything was changed on it. */
    likeReached: number;
    inApp: boolean;
    /** Of the window that is in front afterwards. */
    boundsPx: Box;
  };
  /** What changed, less what changes by itself. */
  changes: StateChange[];
  /** What was open at last before: a dialog's own window, or the screen. */
  window?: { key: string; title: string; boundsPx: Box };
  /** Keys of elements that changed while nothing was done. */
  volatile: string[];
  /** From the screen that was there at last, until the app was left. */
  backChain?: BackStep[];
  /** How often the log told of it, by its tag, for activities of the app. */
  lifecycle: Record<string, number>;
  /** The log told that the process seen before was ended, and why. */
  ended?: string;
  crash?: { exception: string; message: string; frame: string };
  notResponding?: true;
  /** Orientation or size that the device had meanwhile, where a dump tells. */
  wasTurned?: boolean;
  /** Similarity to the screen before of what was in front meanwhile. */
  similarityAway?: number;
  /** What could be read there, and whether it says that it is still at work; and what could be read before. */
  away?: { inApp: boolean; texts: string[]; isWaiting: boolean; before: string[] };
  commands: { line: string; code: number; said?: string | undefined }[];
  /** Settings that were changed for it, and what they read then. */
  borrowed: { setting: string; wanted: string | null; reads: string | null }[];
  servicesBefore?: string[];
  servicesAfter?: string[];
  startsMs?: number[];
}

/** A device setting that was overridden, and what it read after it was restored. */
export interface BorrowedSettingFact {
  kind: 'borrowed-setting';
  platform: Platform;
  evidence: string;
  deviceId: string;
  at: string;
  setting: string;
  was: string | null;
  now: string | null;
}

/** Identity of the package and what it asks for. */
export interface PackageFact extends OfPackage {
  kind: 'package';
  container: AppPackage['container'];
  build: BuildKey;
  minSdk?: number;
  targetSdk?: number;
  /** A debugger may attach: `android:debuggable`, or the entitlement `get-task-allow`. */
  debuggable: boolean;
  testOnly: boolean;
  permissions: string[];
  locales: string[];
  /** Locales that the package says it has. */
  declaredLocales?: string[];
  /** Parts of the package that were not read: what they would show is untested. */
  leftOut?: PackagePart[];
  /** Toolkits other than the platform's own. */
  toolkits?: ToolkitName[];
}

/** A part of the package, or a capture, that was there and could not be read, in the words of the reader. */
export interface UnreadPartFact extends OfPackage {
  kind: 'unread-part';
  /** Of a capture. */
  cell?: Cell;
  /** It was read, but no packer writes such a part. */
  isOdd?: true;
  place: string;
  found: string;
  expected: string;
  remedy: string;
}

/** How the package is signed, and what of it does not hold. */
export interface SigningFact extends OfPackage {
  kind: 'signing';
  schemes: { scheme: string; outcome: SchemeCheck['outcome']; problems: string[] }[];
  certificates: { sha256: string; subject: string }[];
  /** Of iOS: where the signer's certificates lead, and what is wrong with the code inside that is signed by itself. */
  anchor?: Anchor;
  badParts?: { path: string; problems: string[] }[];
  foreignParts?: { path: string; team: string; appTeam: string }[];
  /** Of an APK: stretches of platform levels that refuse it, and by which codes and words. */
  refusedEverywhere?: boolean;
  refused?: { from: number; until?: number; codes: string[]; problems: string[] }[];
  profile?: {
    name: string;
    kind: ProvisioningProfile['kind'];
    certificateDigests: string[];
    signed: boolean;
  };
}

/** What the system copies away and brings back on another device. */
export interface BackupFact extends OfPackage {
  kind: 'backup';
  minSdk?: number;
  targetSdk?: number;
  allowBackup: boolean;
  /** A class of the app's own decides. */
  hasAgent: boolean;
  rules: BackupRules;
}

/** Whether traffic without TLS is allowed, to one host or to all that are not named (`*`). */
export interface CleartextFact extends OfPackage {
  kind: 'cleartext';
  host: string;
  permitted: boolean;
  /** Where that is said; `default` where it is not. */
  saidBy: string;
  /** Certificates that the user added are trusted. */
  trustsUserCertificates: boolean;
}

/** A component that other apps can, or cannot, address. */
export interface ComponentFact extends OfPackage {
  kind: 'component';
  component: string;
  componentType: ComponentType;
  exported: boolean | 'unset';
  enabled: boolean;
  permission?: string;
  /** Of all its filters. */
  actions: string[];
  filterCount: number;
  /** Of a service that runs in the foreground. */
  serviceTypes?: string[];
}

/** One entitlement, as the executable is signed and as the profile allows it; undefined where it is not there. */
export interface EntitlementFact extends OfPackage {
  kind: 'entitlement';
  key: string;
  /** A package from the store has no profile. */
  hasProfile: boolean;
  signed?: PlistValue;
  profile?: PlistValue;
}

/** One kind of private data: what the executable refers to, and what the user is told. */
export interface UsageDescriptionFact extends OfPackage {
  kind: 'usage-description';
  key: string;
  /** Classes of the platform that need it and that the executable names. */
  importedClasses: string[];
  /** The privacy manifest says that the app tracks, which needs this text. */
  declaredInManifest?: true;
  /** Undefined where Info.plist has no such key. */
  text?: string;
  /** Locales that have a text of their own. */
  locales: string[];
}

/** Calls of one category that need a reason, in the app's own code or in a part of it. */
export interface RequiredReasonFact extends OfPackage, NeededReason {
  kind: 'required-reason';
  /** `Frameworks/Charts.framework`; empty for the app's own code. */
  part: string;
}

/** A text, field, picture or button of a layout. */
export interface LayoutViewFact extends OfPackage, LayoutView {
  kind: 'layout-view';
  /** The app says that it can be laid out from right to left; on iOS always. */
  supportsRtl: boolean;
}

/** A colour with a name, by day and by night. */
export interface NamedColourFact extends OfPackage {
  kind: 'named-colour';
  name: string;
  /** `#rrggbb`, without what light comes through. */
  light: string;
  /** Undefined where night has no value of its own. */
  dark?: string;
}

/** A native library and its alignment. */
export interface NativeLibraryFact extends OfPackage, NativeLibrary {
  kind: 'native-library';
}

/** A resource that nothing leads to. */
export interface UnusedResourceFact extends OfPackage, UnusedResource {
  kind: 'unused-resource';
}

/** Contrast of a text of a layout, as its colours are named. */
export interface ColourPairFact extends OfPackage, Omit<ColourPair, 'text' | 'background'> {
  kind: 'colour-pair';
  /** `color/ink`, or the value itself. */
  textName: string;
  backgroundName: string;
  /** As drawn: what is translucent is mixed with what lies behind. */
  foreground: string;
  background: string;
  ratio: number;
}

/** A resource that comes in several forms, or that not every device finds. */
export interface VariedResourceFact extends OfPackage, VariedResource {
  kind: 'varied-resource';
  minSdk?: number;
  /** What the manifest says that the app is made for, where that is one kind of device alone. */
  madeFor?: 'tv' | 'watch';
}

/** One text of one locale, of the package's tables or of a catalogue file. What is empty is left out. */
export interface CatalogueTextFact extends OfPackage {
  kind: 'catalogue-text';
  /** Name of the set of files that it belongs to; empty for the package's own. */
  catalogue: string;
  key: string;
  entry: EntryKind;
  /** BCP 47, or `default` for the table's unqualified values. */
  locale: string;
  /** Plural category or list position, where the resource has several texts. */
  form?: string;
  text: string;
  syntax: TextSyntax;
  /** Of a plural whose file says so: the forms that it asks for, and the least numbers that this one stands for. */
  neededForms?: string[];
  numbers?: number[];
  /** Placeholders as canonical `position:conversion`, in order of position: `1:s`, `2:d`; with names `name:type`. */
  placeholders: string[];
  /** Two or more of them have no position. */
  unnumbered?: true;
  faults?: { code: TextFault['code']; excerpt: string }[];
  /** Markup in its order: `b`, `/b`, `br/`. */
  tags?: string[];
  /** What the platform drops while it reads the file. */
  swallowed?: string[];
  /** An escape that is left for the user to see: `\\n`, `&amp;`. */
  escape?: string;
  /** Characters that draw nothing, each once. */
  invisible?: string[];
  /** A word with letters of another script that look like its own. */
  foreign?: { word: string; letters: string[] };
  /** It stands for a text of another file. */
  reference?: true;
  /** The file says that it is the same in all languages. */
  translatable?: false;
  file?: string;
  line?: number;
}

export type Fact =
  | CaptureFact
  | TextContrastFact
  | IconContrastFact
  | ScreenTextFact
  | PlaceFact
  | SideFact
  | StopFact
  | TargetFact
  | PictureFact
  | LightAreaFact
  | FieldEdgeFact
  | UnseenFocusFact
  | PackageFact
  | UnreadPartFact
  | SigningFact
  | BackupFact
  | CleartextFact
  | ComponentFact
  | EntitlementFact
  | UsageDescriptionFact
  | RequiredReasonFact
  | LayoutViewFact
  | NamedColourFact
  | ColourPairFact
  | UnusedResourceFact
  | VariedResourceFact
  | NativeLibraryFact
  | ManifestFact
  | ShortcutFact
  | LinkFilterFact
  | LinkDomainsFact
  | SiteFileFact
  | LinkRunFact
  | PayloadFact
  | PushSetupFact
  | PushPermissionFact
  | PushTokenFact
  | PushRunFact
  | PushChannelsFact
  | PurchaseHistoryFact
  | StoreOfferFact
  | StoreListingFact
  | SignedSaleFact
  | ListingFact
  | ReviewsFact
  | RatingRoundFact
  | DeviceLogFact
  | TroubleFact
  | SymbolsFact
  | BuildIdsFact
  | ExportKeyFact
  | PlatformCallsFact
  | AdSurroundingsFact
  | AppAdsFact
  | AdLoadFact
  | AdShowFact
  | AdSessionFact
  | CatalogueTextFact
  | DrillRunFact
  | BorrowedSettingFact;
export type FactKind = Fact['kind'];
export type FactOf<K extends FactKind> = Extract<Fact, { kind: K }>;
