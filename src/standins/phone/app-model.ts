/**
 * How an app on the stand-in phone describes a screen: a tree of boxes, texts and icons, sized in dp,
 * coloured by the names of its own colour resources, with the accessibility properties that its author gave it.
 */
import type { Trait } from '../../core/model/ui-tree.ts';
import type { AdAnswer, AdRequest } from '../ads/bid-forms.ts';
import type { Offer } from '../store/catalogue.ts';
import type { PostedNotification } from './os/notifications.ts';

export interface Edges {
  top: number;
  end: number;
  bottom: number;
  start: number;
}

export interface Style {
  direction?: 'row' | 'column';
  width?: number | 'fill';
  height?: number;
  /** As high as that at least, and higher where its content needs it. */
  minHeight?: number;
  grow?: number;
  /** One value for all sides, `[vertical, horizontal]`, or the four. */
  padding?: number | [number, number] | Edges;
  margin?: number | [number, number] | Edges;
  gap?: number;
  align?: 'start' | 'center' | 'end' | 'stretch';
  justify?: 'start' | 'center' | 'end' | 'between';
  /** Name of a colour resource. */
  background?: string;
  border?: string;
  radius?: number;
  /** Its background goes on to the lower edge of the display. */
  toEdge?: boolean;
  /** Laid out from left to right in every language. */
  leftToRight?: boolean;
}

/** What the platform's accessibility layer is told. */
export interface Semantics {
  id?: string;
  className?: string;
  contentDescription?: string;
  clickable?: boolean;
  checkable?: boolean;
  checked?: boolean;
  selected?: boolean;
  enabled?: boolean;
  focusable?: boolean;
  scrollable?: boolean;
  longClickable?: boolean;
  focused?: boolean;
  /** Takes every key itself, so that a keyboard's focus never leaves it again. */
  takesKeys?: boolean;
  /** Whether the platform may show that it is in focus (`android:defaultFocusHighlightEnabled`); it does unless told. */
  focusHighlight?: boolean;
  /** In focus by a keyboard, and shown so. */
  showsFocus?: boolean;
  password?: boolean;
  hint?: string;

  // What a touch does to it; none of it is told to anybody.
  /** Of a text field: the value of the screen that typing changes. */
  edits?: string;
  /** Of a scroller: the value of the screen that holds how far it is scrolled, in dp. */
  scrolls?: string;
  scrolledDp?: number;

  // What iOS is told besides, and its hierarchy dump cannot carry on Android.
  traits?: readonly Trait[];
  value?: string;
  heading?: boolean;
  labelFor?: string;
  actions?: readonly string[];
  swipeable?: boolean;
  bar?: 'navigation' | 'tabs';
  isElement?: boolean;
  hidden?: boolean;
}

export interface BoxElement extends Semantics {
  kind: 'box';
  style: Style;
  children: Element[];
}

export interface TextElement extends Semantics {
  kind: 'text';
  text: string;
  sizeSp: number;
  weight: 400 | 500 | 600 | 700;
  colour: string;
  style: Style;
  /** Shown where the field holds no text yet; drawn like text. */
  align?: 'start' | 'center';
  /** What does not fit into so many lines ends in an ellipsis. */
  maxLines?: number;
  /** Given in dp, so that it does not follow the text size that the user has set. */
  fixedSize?: boolean;
}

/** A vector drawable of the app: tinted with one colour, or in its own colours. */
interface PictureElement extends Semantics {
  kind: 'picture';
  drawable: string;
  tint?: string;
  style: Style & { width: number; height: number };
}

export type Element = BoxElement | TextElement | PictureElement;

type BoxOptions = Style & Semantics;

const SEMANTIC_KEYS = [
  'id',
  'className',
  'contentDescription',
  'clickable',
  'checkable',
  'checked',
  'selected',
  'enabled',
  'focusable',
  'scrollable',
  'longClickable',
  'focused',
  'takesKeys',
  'focusHighlight',
  'showsFocus',
  'password',
  'hint',
  'edits',
  'scrolls',
  'scrolledDp',
  'traits',
  'value',
  'heading',
  'labelFor',
  'actions',
  'swipeable',
  'bar',
  'isElement',
  'hidden',
] as const;

function split(options: BoxOptions): { style: Style; semantics: Semantics } {
  const style: Record<string, unknown> = { ...options };
  const semantics: Record<string, unknown> = {};
  for (const key of SEMANTIC_KEYS) {
    if (options[key] !== undefined) semantics[key] = options[key];
    delete style[key];
  }
  return { style: style as Style, semantics: semantics as Semantics };
}

export function box(options: BoxOptions, ...children: (Element | false | undefined)[]): BoxElement {
  const { style, semantics } = split(options);
  return {
    kind: 'box',
    style,
    ...semantics,
    children: children.filter((child) => child !== false && child !== undefined),
  };
}

export const row = (options: BoxOptions, ...children: (Element | false | undefined)[]): BoxElement =>
  box({ direction: 'row', align: 'center', ...options }, ...children);

export const column = (options: BoxOptions, ...children: (Element | false | undefined)[]): BoxElement =>
  box({ direction: 'column', ...options }, ...children);

interface TextOptions extends BoxOptions {
  sizeSp?: number;
  weight?: TextElement['weight'];
  colour?: string;
  maxLines?: number;
  fixedSize?: boolean;
}

export function text(content: string, options: TextOptions = {}): TextElement {
  const { sizeSp = 15, weight = 400, colour = 'ink', maxLines, fixedSize, ...rest } = options;
  const { style, semantics } = split(rest);
  return { kind: 'text', text: content, sizeSp, weight, colour, maxLines, fixedSize, style, ...semantics };
}

export function picture(
  drawable: string,
  options: BoxOptions & { tint?: string; width: number; height: number },
): PictureElement {
  const { tint, ...rest } = options;
  const { style, semantics } = split(rest);
  return { kind: 'picture', drawable, tint, style: style as PictureElement['style'], ...semantics };
}

/** What an app may ask of the phone while it builds a screen. */
export interface AppContext {
  /** BCP 47 language that the app runs in. */
  locale: string;
  platform: 'android' | 'ios';
  orientation: 'portrait' | 'landscape';
  /** 1 for 100 %. */
  textScale: number;
  /** A string resource with its format arguments filled in. */
  string(key: string, ...args: (string | number)[]): string;
  /** A plurals resource for a count; the count is its first argument. */
  plural(key: string, count: number, ...args: (string | number)[]): string;
}

/** What a screen holds while it is open: plain values by name. */
export type ScreenState = Record<string, string | number | boolean | undefined>;

/** What an app may do from one of its screens. */
export interface ScreenHost {
  readonly state: Readonly<ScreenState>;
  set(values: ScreenState): void;
  /** Starts a screen on top of this one; `instead` finishes this one, `alone` clears all that was open before. */
  open(screen: string, how?: { extras?: ScreenState; instead?: boolean; alone?: boolean }): void;
  finish(): void;
  startService(className: string): void;
  /** Lives as long as the process does. */
  memory: Map<string, unknown>;
  /** Lives until the app's data is cleared. */
  storage: Map<string, string>;
  isOnline(): boolean;
  /** Asks the user, once: a second question is not shown. */
  requestPermission(permission: string): void;
  hasPermission(permission: string): boolean;
  /** The token is told to the app's `registered` when it is there. */
  registerForPush(): void;
  /** The store's app answers later, by way of the app's `store`. */
  readonly store: {
    list(products: readonly string[]): void;
    /** @param accountToken a UUID by which the app tells its own account */
    buy(product: string, accountToken?: string): void;
    /** What the tester has; `restore` where the user asked for it. */
    refresh(): void;
    restore(): void;
  };
  /** The networks' libraries answer later, by way of the app's `ads`. */
  readonly ads: {
    /** Whether there is anybody to ask. */
    readonly isThere: boolean;
    load(placement: string, request: AdRequest): void;
    /** Fills the screen, until its user closes it. */
    show(placement: string, network: string, words: string): void;
  };
  /** On the thread that draws, for so long; the platform warns where the build asks for it. `frames` are the app's, innermost first. */
  readDisk(ms: number, frames: readonly string[]): void;
  /** Never taken back: the platform tells what outlives its screen. */
  registerReceiver(className: string, frames: readonly string[]): void;
  /** The platform tells the app's `rating` when it is done, whatever it showed. */
  askForRating(): void;
  /** Does not come back from this call: the app no longer answers. */
  hang(): void;
  log(tag: string, message: string): void;
}

/** One screen of an app: how it looks in a state, what touches do to it, and what of it outlives what. */
export interface ScreenModel {
  /** Forbids pictures of itself (`WindowManager.LayoutParams.FLAG_SECURE`). */
  secure?: boolean;
  /** Class name of its activity in the manifest, without the package. */
  activity: string;
  view(app: AppContext, state: ScreenState): Element;
  /** A window of its own above the screen, while there is one; its value is emptied when the user dismisses it. */
  dialog?: {
    value: string;
    view(app: AppContext, state: ScreenState): Element | undefined;
    /** Shown by the screen's own code in these frames, which nobody takes down with the screen. */
    shownIn?: readonly string[];
  };
  /** What it opens with; the extras of the intent come on top. */
  first: ScreenState;
  /** Values that it writes into the saved instance state. */
  saves?: readonly string[];
  /** Values in an object that outlives a change of configuration, but neither the activity nor the process. */
  retains?: readonly string[];
  /** Runs when an instance is made, after its values are there. */
  created?(host: ScreenHost, restored: boolean): void;
  resumed?(host: ScreenHost): void;
  /** By id of the element; of many with one id, `index` counts them from the top. */
  taps?: Record<string, (host: ScreenHost, index: number) => void>;
  /** Does something else than to finish the screen. */
  back?(host: ScreenHost): void;
}

/** A message as the app's own code gets it. */
export interface PushMessage {
  notification: Readonly<Record<string, unknown>>;
  data: Readonly<Record<string, string>>;
}

/** What an app may do with a message, without any of its screens. */
export interface MessageHost {
  context: AppContext;
  /** Whether the user sees the app. */
  inFront: boolean;
  storage: Map<string, string>;
  notify(one: Omit<PostedNotification, 'appId'>): void;
  log(tag: string, message: string): void;
}

export interface AppPush {
  /** The project of the messaging service whose configuration the app was built with. */
  project: string;
  /** Made when the app starts: names by id, keys of its texts. */
  channels: Readonly<Record<string, string>>;
  onMessage(host: MessageHost, message: PushMessage): void;
  registered(host: Pick<MessageHost, 'log' | 'storage'>, token: string): void;
}

export type MessageLog = Pick<ScreenHost, 'log'>;

/** A button below a message of a category (UserNotifications, `UNNotificationAction`). */
export interface MessageAction {
  id: string;
  /** Key of its text. */
  label: string;
  /** It brings the app to the front. */
  opens: boolean;
}

/** What an app does with messages on iOS, as the delegate of the system's centre for them. */
export interface AppMessages {
  categories: Readonly<Record<string, readonly MessageAction[]>>;
  registered(host: MessageLog, token: string): void;
  /** Whether one is shown while the app is in front. */
  showsInFront(host: MessageLog, payload: Readonly<Record<string, unknown>>): boolean;
  /** One was woken for. */
  woken(host: MessageLog, payload: Readonly<Record<string, unknown>>): void;
  /** One was touched, or one of its buttons; `isCold` where the app was started for it. */
  opened(
    host: ScreenHost & { setBadge(badge: number): void },
    touched: { payload: Readonly<Record<string, unknown>>; action?: string; isCold: boolean },
  ): void;
}

/** A sale as the store's app tells an app of it. */
export interface OwnedSale {
  transaction: string;
  original: string;
  product: string;
  /** By which the store knows the purchase; all periods of a subscription have one. */
  token?: string;
  /** JSON as the store wrote it, and the signature over its bytes; the rehearsal page's store signs nothing. */
  signed?: { data: string; signature: string };
  /** Whether its goods are owned now. */
  isHeld: boolean;
  isFinished: boolean;
}

export type PurchaseAnswer = { product: string } & (
  | { outcome: 'bought'; sale: OwnedSale }
  | { outcome: 'cancelled' | 'deferred' | 'planned' }
  | { outcome: 'failed'; why: string }
);

/** What an app may do when the store answers. */
export interface StoreHost {
  /** Of the screen in front; nothing where the user sees another app. */
  set(values: ScreenState): void;
  storage: Map<string, string>;
  finish(transaction: string): void;
  log(tag: string, message: string): void;
}

export interface AppStore {
  listed(host: StoreHost, offers: readonly Offer[], unreachable?: string): void;
  answered(host: StoreHost, answer: PurchaseAnswer): void;
  /** What holds now, and what is not finished. */
  owned(host: StoreHost, sales: readonly OwnedSale[], isAsked: boolean): void;
  unreachable?(host: StoreHost, why: string): void;
}

/** What an app may do when a network answers. */
export type AdHost = Pick<ScreenHost, 'ads' | 'log' | 'memory' | 'set' | 'storage'>;

export interface AppAds {
  answered(host: AdHost, placement: string, request: AdRequest, answer: AdAnswer): void;
  closed(host: AdHost, placement: string): void;
}

/** What an app can ask the system about its own process (Foundation, `ProcessInfo`, `Bundle`; UIKit, `UIApplication`). */
interface BegunProcess {
  pid: number;
  /** ISO 8601. */
  startedAt: string;
  version: string;
  build: string;
  /** The localization that the system picked. */
  language: string;
  /** As UIKit writes it: `UICTContentSizeCategoryL`. */
  contentSize: string;
}

/** An app that can be installed: its screens by id, in the order of its own navigation. */
export interface PhoneApp {
  appId: string;
  /** The build whose code this is (`android:versionCode`); of every other build where it is left out. */
  build?: string;
  /** It asks to be warned of slow work on the thread that draws (`StrictMode.setThreadPolicy`). */
  hasThreadPolicy?: boolean;
  /** Its texts become bolder where the user has set bold text. */
  followsBoldText?: boolean;
  push?: AppPush;
  store?: AppStore;
  ads?: AppAds;
  /** Runs when the platform is done with the question for a rating; `failed` where the store could not be asked. */
  ratingFinished?(host: ScreenHost, failed: boolean): void;
  /** Its own code at the beginning of a process, on iOS; the id is the device's (AdSupport, `advertisingIdentifier`). */
  began?(host: Pick<ScreenHost, 'log'>, process: BegunProcess, advertisingId: string): void;
  /** On iOS, with its first frame; since its process began. */
  drawn?(host: MessageLog, afterMs: number): void;
  /** On iOS. */
  messages?: AppMessages;
  /** On iOS, where its own code looks at each link that the system hands over. @returns the screen for it */
  screenOfLink?(url: string): string | undefined;
  /** What is run when a permission was asked for and answered. */
  permissionAnswered?(host: ScreenHost, permission: string, granted: boolean): void;
  screens: Record<string, ScreenModel>;
}
