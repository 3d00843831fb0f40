/** An iOS device through a lookout: a UI test that sees and touches apps for Fenlok (docs/ios.md). */
import { type BegunApp, readTold } from '../../core/formats/apple/app-told.ts';
import { badgeOn, messagesOf } from '../../core/formats/apple/home-screen.ts';
import {
  type LookoutScreen,
  nameOfApp,
  parseLookoutScreen,
  treeOfLookout,
} from '../../core/formats/apple/lookout-tree.ts';
import type { BuildKey } from '../../core/model/candidate.ts';
import type { UnprovenSetting } from '../../core/model/capture.ts';
import type { Cell } from '../../core/model/cell.ts';
import { isLocaleTag, isRightToLeft } from '../../core/model/locale.ts';
import { LOG_TAG } from '../../core/model/log-tag.ts';
import {
  bodyScale,
  type ContentSize,
  contentSizeNear,
  contentSizes,
} from '../../core/platform/apple/content-size.ts';
import type {
  AppState,
  Capability,
  Channels,
  Device,
  DeviceApp,
  DeviceInfo,
  DeviceTools,
  Key,
  LogLine,
  OpenedLink,
  Order,
  Posted,
  Setting,
  Snapshot,
} from '../device.ts';
import { nameOfDevice } from '../device.ts';
import { NoDump, OutOfReach, Refused } from '../out-of-reach.ts';
import { until } from '../phone/pause.ts';
import { IosTools } from './device-tools.ts';
import { iosHoldables, launchArguments } from './ios-holdables.ts';
import { type LookoutLine, LookoutRefused, openLookoutLine } from './lookout-line.ts';

const PREFERENCES = 'com.apple.Preferences';
const SAFARI = 'com.apple.mobilesafari';
const TREE_LIMIT_BYTES = 5 * 2 ** 20;
const LONG_PRESS_S = 1;
const TELLS_WITHIN_MS = 3_000;

const NOT_BY_A_TEST = 'no public interface lets a UI test do it';

/** What a lookout cannot do, and why. */
const CANNOT: Partial<Record<Capability, string>> = {
  back: 'iOS has no key for back',
  recents: 'the switcher of iOS has no key, and its cards are in no tree',
  'screen-off': `locking a device: ${NOT_BY_A_TEST}`,
  services: 'iOS has no services that go on by themselves',
  discard: 'iOS takes no screen away from an app that runs on',
  resize: `changing the size of a window: ${NOT_BY_A_TEST}`,
  battery: `setting the battery: ${NOT_BY_A_TEST}`,
  location: `switching location off: ${NOT_BY_A_TEST}`,
  permissions: `reading what an app was allowed: ${NOT_BY_A_TEST}`,
  channels: 'iOS has no channels',
  ratings: 'nothing tells a UI test whether the question in front is the one for a rating',
  keyboard: 'keys of a hardware keyboard are not driven on iOS yet',
};

type At = Parameters<Device['tap']>[0];

/** @throws OutOfReach */
export async function openLookout(address: string, token: string): Promise<IosDevice> {
  return new IosDevice(address, token, await openLookoutLine(address, token));
}

export class IosDevice implements Device {
  readonly platform = 'ios';
  readonly serial: string;
  readonly info: DeviceInfo;
  readonly holdables = iosHoldables;
  readonly #address: string;
  readonly #token: string;
  readonly #scale: number;
  #line: LookoutLine;
  /** Apps that may be in front, the one that is looked at first. */
  #apps: string[] = [PREFERENCES, SAFARI];
  /** Settings of the app's next run. */
  readonly #launch = new Map<string, string>();
  /** The next opening is a run of its own. */
  #isFresh = false;
  readonly #tools: IosTools;
  /** What is looked at is the system, over whatever is in front. */
  #isShadeOpen = false;
  /** Names of apps as the system shows them. */
  readonly #names = new Map<string, string>();
  #advertisingId: string | undefined;
  #lines: LogLine[] = [];
  #readTo = 0;

  constructor(address: string, token: string, line: LookoutLine) {
    this.#address = address;
    this.#token = token;
    this.#line = line;
    this.serial = `ios:${address}`;
    const { heightPt, id, model, name, scale, system, widthPt } = line.hello;
    this.#scale = Number(scale) || 1;
    this.info = {
      id: String(id),
      model: String(model),
      name: String(name),
      sdk: Number.parseInt(String(system), 10) || 0,
      widthPx: Math.round(Number(widthPt) * this.#scale),
      heightPx: Math.round(Number(heightPt) * this.#scale),
      densityDpi: Math.round(160 * this.#scale),
      isFoldable: false,
    };
    this.#tools = new IosTools({ serial: this.serial, id: this.info.id, address });
  }

  whyNot = (capability: Capability): string | undefined => {
    if (capability === 'fresh-install') return this.#tools.whyNoInstall();
    return capability === 'network' ? this.#tools.whyNoNetwork() : CANNOT[capability];
  };

  useTools = (tools: DeviceTools): void => this.#tools.give(tools);

  // --- the line

  isGone = (): boolean => this.#line.isGone();
  async reconnect(): Promise<void> {
    this.#line.close();
    this.#line = await openLookoutLine(this.#address, this.#token);
    this.#readTo = 0;
    this.#lines = [];
  }
  async close(): Promise<void> {
    this.#line.close();
  }

  /** @throws Refused */
  async #ask(ask: string, fields: Record<string, unknown> = {}): Promise<Record<string, unknown>> {
    try {
      return await this.#line.ask({ ask, ...fields });
    } catch (error) {
      if (!(error instanceof LookoutRefused)) throw error;
      throw new Refused(this.serial, ask, { code: 1, said: error.message });
    }
  }

  async #order(ask: string, fields: Record<string, unknown> = {}): Promise<Order> {
    const line = [ask, ...Object.values(fields)].join(' ');
    try {
      await this.#line.ask({ ask, ...fields });
      return { line, code: 0 };
    } catch (error) {
      if (!(error instanceof LookoutRefused)) throw error;
      return { line, code: 1 };
    }
  }

  // --- apps

  async findApp(appId: string): Promise<DeviceApp | undefined> {
    try {
      await this.#line.ask({ ask: 'state', app: appId });
    } catch (error) {
      if (error instanceof LookoutRefused && error.code === 'no-app') return undefined;
      throw error;
    }
    this.#apps = [appId, ...this.#apps.filter((one) => one !== appId)];
    return { appId, component: appId };
  }

  /** As the app itself tells it; empty where it does not. */
  async versionOf(appId: string): Promise<BuildKey> {
    const { build = '', version = '' } = (await this.#began()) ?? {};
    return { appId, version, build, code: '' };
  }

  async buildOf(appId: string): Promise<BuildKey> {
    if (!(await this.#began())) {
      await this.#ask('bring', { app: appId });
      await until(async () => (await this.#began()) !== undefined, TELLS_WITHIN_MS);
    }
    return this.versionOf(appId);
  }

  /** The package of the dossier. */
  async install(): Promise<string | undefined> {
    const why = await this.#tools.install();
    if (why !== undefined) return why;
    // what is opened next begins with the settings of this run
    this.#isFresh = true;
    this.#lines = [];
    return undefined;
  }
  uninstall = (appId: string): Promise<void> => this.#tools.uninstall(appId);
  async installerOf(): Promise<string> {
    return '';
  }
  async clear({ appId }: DeviceApp): Promise<void> {
    await this.uninstall(appId);
    await this.install();
  }

  /** Brought to the front as it is; a run of its own after a stop, with the arguments that its settings ask for. */
  async launch({ appId }: DeviceApp): Promise<{ totalMs: number; launch: string }> {
    this.#isShadeOpen = false;
    if (!this.#isFresh) {
      await this.#ask('bring', { app: appId });
      return { totalMs: Number.NaN, launch: 'unknown' };
    }
    this.#isFresh = false;
    // what was told before is of another run
    await this.#readLines();
    const told = this.#lines.length;
    await this.#ask('start', { app: appId, arguments: launchArguments(this.#launch) });
    return { totalMs: await this.#drawnAfter(told), launch: 'COLD' };
  }

  /** By the word of the app, which is waited for where it ever gave it; NaN without it. */
  async #drawnAfter(told: number): Promise<number> {
    let afterMs = Number.NaN;
    const isTold = async () => {
      await this.#readLines();
      for (const { message } of this.#lines.slice(told)) {
        const line = readTold(message);
        if (line?.kind === 'app.drawn') ({ afterMs } = line);
      }
      return !Number.isNaN(afterMs);
    };
    const tells = this.#lines.some(({ message }) => readTold(message)?.kind === 'app.drawn');
    if (!(await isTold()) && tells) await until(isTold, TELLS_WITHIN_MS);
    return afterMs;
  }

  async stop({ appId }: DeviceApp): Promise<void> {
    await this.#ask('throw-away', { app: appId });
    this.#isFresh = true;
  }

  kill = ({ appId }: DeviceApp): Promise<Order> => this.#order('end', { app: appId });

  async stateOf({ appId }: DeviceApp): Promise<AppState> {
    const { state } = await this.#ask('state', { app: appId });
    return STATES.find((one) => one === state) ?? 'unknown';
  }

  /** By the app's own word; nothing where it is not there, or prints none. */
  async processOf(appId: string): Promise<{ pid: number; startTicks?: number } | undefined> {
    if ((await this.stateOf({ appId, component: appId })) === 'not-running') return undefined;
    const began = await this.#began();
    return began && { pid: began.pid, startTicks: Date.parse(began.startedAt) };
  }

  async runningServices(): Promise<string[]> {
    return [];
  }

  // --- what is in front

  async front(): Promise<string> {
    await this.#readLines();
    for (const app of this.#apps) {
      const { state } = await this.#ask('state', { app });
      if (state === 'front') return `${app}/`;
    }
    return '';
  }

  async snapshot(): Promise<Snapshot> {
    const { said, screen } = await this.#look(this.#apps, this.#isShadeOpen);
    return {
      activity: screen.front && `${screen.front}/`,
      hierarchy: said,
      tree: treeOfLookout(screen),
      owner: screen.owner,
    };
  }

  /** @param system over whatever app is in front */
  async #look(apps: readonly string[], system = false): Promise<{ said: string; screen: LookoutScreen }> {
    const said = JSON.stringify(await this.#ask('look', { apps, ...(system && { system }) }));
    if (said.length > TREE_LIMIT_BYTES)
      throw new NoDump(this.serial, `its tree has ${said.length} bytes, more than ${TREE_LIMIT_BYTES}.`);
    const screen = parseLookoutScreen(`${this.serial}, screen`, said);
    const name = nameOfApp(screen);
    if (name) this.#names.set(screen.owner, name);
    return { said, screen };
  }

  /** As the system shows it: it stands at the root of the app's own tree. */
  async #nameOf(appId: string): Promise<string> {
    if (!this.#names.has(appId)) {
      await this.#ask('bring', { app: appId });
      await this.#look([appId]);
    }
    const name = this.#names.get(appId);
    if (name === undefined) throw new NoDump(this.serial, `${appId} tells no name of its own.`);
    return name;
  }

  async picture(): Promise<Uint8Array> {
    const { png } = await this.#ask('picture');
    return new Uint8Array(Buffer.from(String(png), 'base64'));
  }

  async densityDpi(): Promise<number> {
    return this.info.densityDpi;
  }

  async settingsNow(): ReturnType<Device['settingsNow']> {
    const began = await this.#began();
    const [theme, orientation] = [await this.#ask('appearance'), await this.#ask('turn')];
    const size = contentSizes.find((one) => one === began?.contentSize) as ContentSize | undefined;
    return {
      device: nameOfDevice(this),
      locale: began?.language ?? 'en',
      theme: theme.is === 'dark' ? 'dark' : 'light',
      textScale: size ? Math.round(bodyScale(size) * 100) / 100 : 1,
      orientation: orientation.is === 'landscape' ? 'landscape' : 'portrait',
    };
  }

  async checkSettings({
    locale,
    textScale,
  }: Pick<Cell, 'locale' | 'textScale'>): ReturnType<Device['checkSettings']> {
    const { contentSize, language } = (await this.#began()) ?? {};
    const unproven: UnprovenSetting[] = [
      ...(language === undefined ? (['locale'] as const) : []),
      ...(contentSize === undefined ? (['textScale'] as const) : []),
    ];
    const languageOf = (tag: string) => new Intl.Locale(tag).language;
    if (language !== undefined && isLocaleTag(language) && languageOf(language) !== languageOf(locale))
      return { wrong: `the app runs in ${language}, not in ${locale}: has it no such language?`, unproven };
    const wanted = contentSizeNear(textScale);
    return contentSize !== undefined && contentSize !== wanted
      ? { wrong: `the app has the text size ${contentSize}, not ${wanted}`, unproven }
      : { unproven };
  }

  // --- fingers

  #points = ({ x, y }: At): At => ({ x: x / this.#scale, y: y / this.#scale });

  async tap(at: At): Promise<void> {
    this.#isShadeOpen = false;
    await this.#ask('tap', { ...this.#points(at) });
  }
  async longPress(at: At): Promise<void> {
    await this.#ask('hold', { ...this.#points(at), seconds: LONG_PRESS_S });
  }
  async swipe(from: At, to: At, ms: number): Promise<void> {
    await this.#ask('drag', { from: this.#points(from), to: this.#points(to), seconds: ms / 1000 });
  }

  whyNotType = (): string | undefined => undefined;
  async type(text: string): Promise<void> {
    await this.#ask('write', { app: this.#apps[0]!, text });
  }

  /** Home; and back by a swipe from the edge that its language begins at. */
  async press(key: Key): Promise<void> {
    this.#isShadeOpen = false;
    if (key === 'HOME') await this.#ask('home');
    else if (key === 'BACK') {
      const { heightPx, widthPx } = this.info;
      const [edge, beyond] = [2, widthPx * 0.8].map((x) => ({
        x: this.#runsLeft() ? widthPx - x : x,
        y: heightPx / 2,
      }));
      await this.swipe(edge!, beyond!, 200);
    } else throw new OutOfReach('refused', `${this.serial} has no key ${key}`);
  }

  #runsLeft(): boolean {
    const [language] = this.#launch.get('launch languages')?.split(',') ?? [];
    return this.#launch.has('launch right-to-left') || (language !== undefined && isRightToLeft(language));
  }

  // --- what others do to an app

  async openLink(url: string, to?: DeviceApp): Promise<OpenedLink> {
    const before = await this.front();
    this.#isShadeOpen = false;
    try {
      await this.#line.ask({ ask: 'open', url, ...(to && { app: to.appId }) });
    } catch (error) {
      if (!(error instanceof LookoutRefused)) throw error;
      return { started: '', refused: error.message };
    }
    const after = await this.front();
    return after
      ? { started: after }
      : { started: '', refused: before ? 'nobody took it' : 'nobody was started' };
  }

  async openInApp(url: string, app: DeviceApp): Promise<void> {
    await this.openLink(url, app);
  }
  async takerOf(): Promise<undefined> {
    return undefined;
  }
  async siteWordOf(): Promise<undefined> {
    return undefined;
  }

  openOther = (): Promise<Order> => this.#order('bring', { app: PREFERENCES });
  openShade = (): Promise<Order> => this.#shade(true);
  closeShade = (): Promise<Order> => this.#shade(false);
  async #shade(open: boolean): Promise<Order> {
    const order = await this.#order('shade', { open });
    this.#isShadeOpen = open;
    return order;
  }
  async unlock(): Promise<Order> {
    return { line: 'unlock', code: 1 };
  }

  // --- permissions and messages

  async grantedPermissions(): Promise<string[]> {
    return [];
  }
  async answerQuestion(answer: 'allow' | 'refuse'): Promise<boolean> {
    const { asked } = await this.#ask('answer', { allow: answer === 'allow' });
    return asked === true;
  }
  async mayShowMessages(): Promise<boolean> {
    return true;
  }
  async hasMessagePermission(): Promise<undefined> {
    return undefined;
  }

  /** A banner over whatever is in front, or what stands in the shade. */
  async postedMessages(appId: string, from?: 'shade'): Promise<Posted> {
    const name = await this.#nameOf(appId);
    if (from === 'shade') await this.openShade();
    const { screen } = await this.#look([], true);
    if (from === 'shade') await this.closeShade();
    return messagesOf(screen, name).map((title) => ({ channel: '', title, text: '' }));
  }

  async badgeOf(appId: string): Promise<number | undefined> {
    const name = await this.#nameOf(appId);
    await this.press('HOME');
    const { screen } = await this.#look([], true);
    return badgeOn(screen, name);
  }
  async channelsOf(): Promise<Channels> {
    return [];
  }
  isRatingPrompt = (): boolean => false;
  /** As the app tells it, where its user lets it know. */
  async advertisingId(): Promise<string | undefined> {
    await this.#readLines();
    return this.#advertisingId;
  }

  // --- settings

  setting(id: string): Setting {
    if (id === 'appearance') return this.#readable('appearance', 'light');
    if (id === 'orientation') return this.#readable('turn', 'portrait');
    if (id === 'network') return this.#tools.network;
    if (!id.startsWith('launch ')) throw new TypeError(`no setting is called ${id}`);
    // it belongs to one run of the app, and leaves nothing on the device
    return {
      read: async () => this.#launch.get(id) ?? null,
      write: async (value) => {
        if ((this.#launch.get(id) ?? null) === value) return;
        if (value === null) this.#launch.delete(id);
        else this.#launch.set(id, value);
        this.#isFresh = true;
      },
    };
  }

  #readable = (ask: 'appearance' | 'turn', ordinary: string): Setting => ({
    read: async () => String((await this.#ask(ask)).is),
    write: async (value) => {
      await this.#ask(ask, { to: value ?? ordinary });
    },
  });

  // --- what apps tell

  async clockS(): Promise<number> {
    return Date.parse(String(await this.#readLines())) / 1000;
  }
  async logMoment(): Promise<string> {
    return (await this.clockS()).toFixed(3);
  }
  async logSince(moment: string, of?: 'main'): Promise<LogLine[]> {
    await this.#readLines();
    // what the system reports, no UI test is told
    return of === 'main' ? this.#lines.filter(({ epoch }) => epoch >= Number(moment)) : [];
  }
  async logText(): Promise<undefined> {
    return undefined;
  }

  /** @returns the time by the device's clock */
  async #readLines(): Promise<string> {
    const { lines, next, now } = await this.#ask('lines', { from: this.#readTo });
    for (const one of lines as { app: string; at: string; line: string }[]) {
      // an app that tells of itself may be the one in front
      if (one.app && !this.#apps.includes(one.app)) this.#apps.push(one.app);
      // it belongs to whoever holds the device, and into no trace
      if (one.line.includes('app.advertising-id')) {
        const told = readTold(one.line);
        if (told?.kind === 'app.advertising-id') this.#advertisingId = told.id;
        continue;
      }
      this.#lines.push({ epoch: Date.parse(one.at) / 1000, tag: LOG_TAG, pid: 0, message: one.line });
    }
    this.#readTo = Number(next);
    return String(now);
  }

  async #began(): Promise<BegunApp | undefined> {
    await this.#readLines();
    for (const { message } of this.#lines.toReversed()) {
      const told = readTold(message);
      if (told?.kind === 'app.began') return told;
    }
    return undefined;
  }
}

const STATES: readonly AppState[] = ['front', 'background', 'suspended', 'not-running'];
