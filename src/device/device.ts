/**
 * A phone, as drills see it: what can be done on it, whichever way it is reached. `android/` does it over the bridge, `ios/` through
 * a lookout. What a phone cannot do it says before it is asked.
 */
import type { BuildKey, Platform } from '../core/model/candidate.ts';
import type { UnprovenSetting } from '../core/model/capture.ts';
import type { Cell } from '../core/model/cell.ts';
import type { IosCommands } from '../core/model/intent-parts.ts';
import type { DrillLineOf } from '../core/model/trace.ts';
import type { UiNode } from '../core/model/ui-tree.ts';

export interface DeviceInfo {
  /** Stays the same wherever the device is attached. */
  id: string;
  model: string;
  /** Short name for cells of the coverage: the device's own code name. */
  name: string;
  /** Of the system: API level of Android, major version of iOS. */
  sdk: number;
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  isFoldable: boolean;
}

export interface DeviceApp {
  appId: string;
  /** Of the launcher's entry, on Android: `example.app/.MainActivity`. */
  component: string;
}

export interface Snapshot {
  /** `example.app/.MainActivity`, on iOS `example.app/`; empty where nothing is in front. */
  activity: string;
  /** As the system wrote it: XML of Android, JSON of a lookout. */
  hierarchy: string;
  tree: UiNode;
  /** Whose window it is; empty where nobody says. */
  owner: string;
}

export interface LogLine {
  /** Seconds since the epoch, by the device's clock. */
  epoch: number;
  tag: string;
  pid: number;
  message: string;
}

interface ProcessId {
  pid: number;
  startTicks?: number;
}

/** What was told to the device, as traces name it, and 0 where it was done. */
export interface Order {
  line: string;
  code: number;
}

/** How a setting is read, written and restored; null is "has none". */
export interface Setting {
  read(): Promise<string | null>;
  write(value: string | null): Promise<void>;
  /** In the place of writing what it was, where a reset is what gives it back. */
  reset?(): Promise<void>;
}

/** A setting of the device and the value that it is to have. */
export type Held = readonly [setting: string, value: string | null];

/** What can be set, by the name that people give it. */
export interface Holdable {
  /** As an option: `--NAME`. */
  name: string;
  /** What is written behind it; nothing for a switch. */
  value?: string;
  about: string;
  /** @throws RangeError with what may be written */
  settings(value: string, of: { appId: string; device: Device }): readonly Held[];
  /** From which version of the system the phone can do it. */
  sinceSdk?: number;
  /** It belongs to one app, and not to the phone. */
  isOfApp?: true;
  /** What shows that it took, where reading it does not. */
  proof?: string;
}

/** Not every phone can do each of these; everything else that stands in `Device` it can. */
export type Capability =
  | 'back'
  | 'kill'
  | 'recents'
  | 'screen-off'
  | 'services'
  | 'discard'
  | 'resize'
  | 'network'
  | 'battery'
  | 'location'
  | 'permissions'
  | 'start-times'
  | 'messages'
  | 'message-permission'
  | 'channels'
  | 'fresh-install'
  | 'store'
  | 'ads'
  | 'ratings'
  | 'keyboard';

export type Key =
  | 'HOME'
  | 'BACK'
  | 'APP_SWITCH'
  | 'SLEEP'
  | 'WAKEUP'
  | 'MENU'
  | 'TAB'
  | `DPAD_${'DOWN' | 'RIGHT' | 'UP' | 'LEFT'}`;

export interface OpenedLink {
  /** Who was started, as far as the device says: `example.app/.MainActivity`; empty where nobody was. */
  started: string;
  /** What the device said where nobody was. */
  refused?: string;
}

/** What the system shows of an app. */
export type Posted = DrillLineOf<'notifications.seen'>['posted'];
export type Channels = DrillLineOf<'channels.seen'>['channels'];
/** Where an app is, as the system tells. */
export type AppState = DrillLineOf<'app-state.seen'>['state'];

export interface DeviceTools {
  commands: IosCommands;
  /** Of the dossier, where there is one: its app, and where the package lies. */
  appId?: string;
  packageFile?: string;
  signal?: AbortSignal | undefined;
}

/** Whatever is asked of it ends in `OutOfReach` where it goes away, or does not answer in time. */
export interface Device {
  readonly platform: Platform;
  /** A serial number, or `host:port`. */
  readonly serial: string;
  readonly info: DeviceInfo;
  /** Programs of this computer that do what cannot be done on the device itself. */
  useTools?(tools: DeviceTools): void;
  /** Why it cannot do this; nothing where it can. */
  whyNot(capability: Capability): string | undefined;
  /** Whether the device can no longer be asked. */
  isGone(): boolean;
  /** Takes up the line again after the device went away. */
  reconnect(): Promise<void>;
  close(): Promise<void>;

  // --- apps

  /** @returns undefined where it is not installed, or cannot be opened by its user */
  findApp(appId: string): Promise<DeviceApp | undefined>;
  /** What the device says of it; its code is not read. */
  versionOf(appId: string): Promise<BuildKey>;
  /** Of the package that is installed. @throws UnreadableError */
  buildOf(appId: string): Promise<BuildKey>;
  /** Installs a package over what is there; @returns the platform's word for why not, or undefined. */
  install(bytes: Uint8Array): Promise<string | undefined>;
  uninstall(appId: string): Promise<void>;
  /** The app that installed it; empty for a cable. */
  installerOf(appId: string): Promise<string>;
  /** As its user does it. `totalMs` is NaN where no first frame was timed. */
  launch(app: DeviceApp): Promise<{ totalMs: number; launch: string }>;
  /** By force: what was saved of its state is thrown away. */
  stop(app: DeviceApp): Promise<void>;
  /** As the system does it with an app that was left: what was saved of its state stays. */
  kill(app: DeviceApp): Promise<Order>;
  /** Its data and permissions, as after an installation. */
  clear(app: DeviceApp): Promise<void>;
  processOf(appId: string): Promise<ProcessId | undefined>;
  /** Undefined where the system does not tell it. */
  stateOf(app: DeviceApp): Promise<AppState | undefined>;
  /** Class names of its services that run. */
  runningServices(appId: string): Promise<string[]>;

  // --- what is in front

  /** The activity in front, or the app; empty where nothing is. */
  front(): Promise<string>;
  /** Asked again while the screen moves. @throws NoDump */
  snapshot(): Promise<Snapshot>;
  /** What the display shows, as a PNG. */
  picture(): Promise<Uint8Array>;
  densityDpi(): Promise<number>;
  /** How it is set now, in the words of a capture. */
  settingsNow(appId: string): Promise<Omit<Cell, 'screen' | 'procedure' | 'step'>>;

  /** What the app itself tells of its settings: what is wrong with them, and of which it tells nothing that could be told. */
  checkSettings(
    wanted: Pick<Cell, 'locale' | 'textScale'>,
  ): Promise<{ wrong?: string; unproven: UnprovenSetting[] }>;

  // --- fingers and keys, in pixels of the picture

  tap(at: { x: number; y: number }): Promise<void>;
  longPress(at: { x: number; y: number }): Promise<void>;
  swipe(from: { x: number; y: number }, to: { x: number; y: number }, ms: number): Promise<void>;
  /** Why this cannot be typed; nothing where it can. */
  whyNotType(text: string): string | undefined;
  /** Into the field that has the focus. */
  type(text: string): Promise<void>;
  press(key: Key): Promise<void>;

  // --- what others do to an app

  /** As another app would hand it over; @param to the app by its name, which passes by whoever else would take it */
  openLink(url: string, to?: DeviceApp): Promise<OpenedLink>;
  /** Who takes it as things stand, told without opening anything. @returns an app id; nothing where nobody does, or nobody tells */
  takerOf(url: string): Promise<string | undefined>;
  /** What the system knows of the site's word for the app (Android 12 on): `verified`, `none`, `1024` … */
  siteWordOf(appId: string, host: string): Promise<string | undefined>;
  /** As its own code would hand it over: a step of the intent file. */
  openInApp(url: string, app: DeviceApp): Promise<void>;
  openOther(which: 'calls' | 'settings'): Promise<Order>;
  openShade(): Promise<Order>;
  closeShade(): Promise<Order>;
  unlock(): Promise<Order>;

  // --- permissions and messages

  /** Those of the user that are granted now, by their full names. */
  grantedPermissions(appId: string): Promise<string[]>;
  /** The system's question that is in front is answered. @returns whether there was one */
  answerQuestion(answer: 'allow' | 'refuse'): Promise<boolean>;
  /** Whether the user has not forbidden it; */
  mayShowMessages(appId: string): Promise<boolean>;
  /** and whether they allowed it in so many words; undefined where nothing reads it. */
  hasMessagePermission(appId: string): Promise<boolean | undefined>;
  /** What the system shows of it now; `shade` where that is to be opened for it if nothing else lists them. */
  postedMessages(appId: string, from?: 'shade'): Promise<Posted>;
  /** The number on its icon, for which it is left; undefined where nobody tells. */
  badgeOf(appId: string): Promise<number | undefined>;
  channelsOf(appId: string): Promise<Channels>;
  /** Whether the window is the store's question for a rating. */
  isRatingPrompt(seen: Snapshot, appId: string): boolean;
  /** Nothing where the user has none. */
  advertisingId(): Promise<string | undefined>;

  // --- settings

  /** What can be set, by the names that people give it. */
  readonly holdables: readonly Holdable[];
  /** @param id of a `Holdable`'s settings, or `permission APP NAME`; alone it tells how, so that a journal can be worked off by a later run */
  setting(id: string): Setting;

  // --- its log

  /** Seconds since the epoch, by its own clock. */
  clockS(): Promise<number>;
  /** The moment that the log has come to. */
  logMoment(): Promise<string>;
  /** @param of `main`: what apps print themselves; without it, what the system reports, and crashes */
  logSince(moment: string, of?: 'main'): Promise<LogLine[]>;
  /** All of these tags as text, one line each; undefined where no log of the system can be had. */
  logText(moment: string, tags: readonly string[]): Promise<string | undefined>;
}

/** Its system for people: `API 34`, `iOS 17`. */
export const systemOf = ({ info, platform }: Pick<Device, 'info' | 'platform'>): string =>
  `${platform === 'ios' ? 'iOS' : 'API'} ${info.sdk}`;

/** A phone as reports name it. */
export const nameOfDevice = ({ info }: Pick<Device, 'info'>): string => info.name || info.model;
