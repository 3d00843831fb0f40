/** The whole phone: settings, packages, activities, windows, and what a finger or a key does to them. */
import { randomBytes } from 'node:crypto';
import type { Orientation, Theme } from '../../../core/model/cell.ts';
import type { Ports } from '../../../core/model/ports.ts';
import type { AppContext, PhoneApp } from '../app-model.ts';
import type { Quirk } from '../quirks.ts';
import { contextOf, type DisplaySettings, systemResources } from '../screen/display.ts';
import type { AppSide } from '../services/app-side.ts';
import { PhoneAds } from '../services/phone-ads.ts';
import { PhoneRatings } from '../services/phone-ratings.ts';
import { PhoneStore } from '../services/phone-store.ts';
import type { PhoneShape } from '../shapes.ts';
import { ActivityManager, type LaunchResult, type RunnableApp } from './activity-manager.ts';
import { DeviceLog } from './device-log.ts';
import type { Intent } from './intent-filters.ts';
import { type InstalledApp, PackageManager } from './package-manager.ts';
import { PhoneFiles } from './phone-files.ts';
import { PhoneInput } from './phone-input.ts';
import { PhoneMessages } from './phone-messages.ts';
import { procFile } from './proc-files.ts';
import { ProcessTable } from './process-table.ts';
import type { Cover, RunningPhone } from './running-phone.ts';
import { SettingsTable } from './settings-table.ts';
import {
  blankView,
  browserApp,
  chooserApp,
  dialerApp,
  homeApp,
  type SystemView,
  settingsApp,
} from './system-apps.ts';
import type { Sites } from './verify-hosts.ts';

export interface Battery {
  level: number;
  plugged: boolean;
  /** What a drill has set, in the place of what is measured. */
  isFaked: boolean;
}

const systemApp = (appId: string, label: string, uid: number, model: PhoneApp): RunnableApp => ({
  appId,
  label,
  uid,
  storage: new Map(),
  model,
});

export class PhoneOs implements RunningPhone {
  readonly shape: PhoneShape;
  /** Of this phone and no other. */
  readonly serial = randomBytes(6).toString('hex').toUpperCase();
  readonly log = new DeviceLog();
  readonly processes = new ProcessTable(this.log);
  readonly settings: SettingsTable;
  readonly packages: PackageManager;
  readonly activities: ActivityManager;
  readonly messages: PhoneMessages;
  readonly store: PhoneStore<RunnableApp>;
  readonly ads: PhoneAds<RunnableApp>;
  readonly ratings = this.#makeRatings();
  readonly input = new PhoneInput(this);
  /** Files that the shell can reach. */
  readonly files = new PhoneFiles();
  /** Told when the phone goes down to come up again. */
  onReboot: () => void = () => {};
  /** What it does as phones in the field do. */
  quirks: ReadonlySet<Quirk> = new Set();
  /** Those that the shell set. */
  readonly properties = new Map<string, string>();
  battery: Battery = { level: 82, plugged: true, isFaked: false };
  sizePx?: { widthPx: number; heightPx: number };
  densityDpi?: number;
  night = false;
  isFolded = false;
  isScreenOn = true;
  isLocked = false;
  systemLocale = 'en-US';
  cover?: Cover;
  #discards = false;
  readonly #home: RunnableApp;
  readonly #settingsApp: RunnableApp;
  readonly #browser: RunnableApp;
  readonly #chooser: RunnableApp;
  readonly #dialer = systemApp(dialerApp.appId, 'Phone', 10061, dialerApp);

  constructor(shape: PhoneShape, ports: Ports, models: readonly PhoneApp[], sites: Sites = new Map()) {
    this.shape = shape;
    this.settings = new SettingsTable((namespace, key) => this.#settingChanged(namespace, key));
    this.packages = new PackageManager(ports, models, sites);
    const view = this.#systemView();
    this.#home = systemApp('com.android.launcher', 'Home', 10051, homeApp(view));
    this.#settingsApp = systemApp('com.android.settings', 'Settings', 1000, settingsApp(view));
    this.#browser = systemApp('com.android.browser', 'Browser', 10060, browserApp);
    this.#chooser = systemApp(chooserApp.appId, 'Open with', 1000, chooserApp);
    this.activities = new ActivityManager({
      shape,
      log: this.log,
      processes: this.processes,
      home: this.#home,
      configuration: () => this.configuration(),
      discards: () => this.#discards,
      onStop: this.#afterStop,
      isOnline: () => this.isOnline(),
      hasPermission: (appId, permission) => this.packages.get(appId)?.granted.has(permission) ?? false,
      requestPermission: (appId, permission) => this.messages.ask(appId, permission),
      registerForPush: (appId) => void this.messages.register(appId),
      store: {
        list: (appId, products) => void this.store.list(appId, products),
        buy: (appId, product, accountToken) => void this.store.buy(appId, product, accountToken),
        owned: (appId, isAsked) => void this.store.owned(appId, isAsked),
      },
      ads: {
        isThere: () => this.ads?.isConnected ?? false,
        load: (appId, placement, request) => void this.ads.load(appId, placement, request),
        show: (appId, shown) => this.ads.show(appId, shown),
      },
      askForRating: (appId) => this.ratings.ask(appId),
      onProcess: (app) => this.messages.makeChannels(app),
      onCrash: (app, isRepeated) => {
        this.cover = isRepeated ? { trouble: 'crash', app } : undefined;
      },
      onHang: (app) => {
        this.cover = { trouble: 'not responding', app };
      },
    });
    const shared = {
      log: this.log,
      activities: this.activities,
      runnable: (appId: string) => this.#runnable(appId),
      closeCover: this.#closeCover,
    };
    this.messages = new PhoneMessages({
      ...shared,
      packages: this.packages,
      context: (app) => this.contextOf(app),
      isInFront: (appId) =>
        this.isScreenOn && !this.isLocked && !this.cover && this.activities.front.app.appId === appId,
      askUser: (app, asks) => {
        this.cover = { asks, app };
      },
    });
    this.ads = new PhoneAds({
      ...this.#appSide(),
      showAd: (app, ad) => {
        this.cover = { ad, app };
      },
    });
    this.settings.put('secure', 'advertising_id', this.ads.advertisingId);
    this.store = new PhoneStore({
      ...this.#appSide(),
      deviceId: this.serial,
      platform: 'android',
      localeOf: (app) => this.contextOf(app).locale,
      showSheet: (app, sheet) => {
        this.cover = { sheet, app };
      },
    });
  }

  #appSide(): AppSide<RunnableApp> {
    return {
      isOnline: () => this.isOnline(),
      runnable: (appId) => this.#runnable(appId),
      isRunning: ({ appId }) => this.activities.pidOf(appId) !== 0,
      onScreen: ({ appId }, called, code) => {
        const { front, shown } = this.activities;
        if (!shown || front.app.appId !== appId) return false;
        this.activities.run(front, shown, called, code);
        return true;
      },
      log: ({ appId }, priority, tag, text) =>
        this.log.write('main', this.activities.pidOf(appId), priority, tag, text),
      closeCover: () => this.#closeCover(),
    };
  }

  #makeRatings(): PhoneRatings<RunnableApp> {
    return new PhoneRatings({
      ...this.#appSide(),
      channelOf: (appId) => this.packages.get(appId)?.channel ?? 'local',
      now: this.log.now,
      showPrompt: (app, rating) => {
        this.cover = { rating, app };
      },
    });
  }

  #systemView(): SystemView {
    return {
      apps: () => this.packages.all().map(({ appId, label }) => ({ appId, label })),
      launch: (appId) => void this.launch(appId),
      discards: () => this.#discards,
      setDiscards: (on) => {
        this.#discards = on;
        this.settings.put('global', DISCARD_KEY, on ? '1' : '0');
      },
    };
  }

  close(): void {
    this.activities.close();
    this.messages.goOffline();
  }

  /** Down and up again: no process and no task is left; files and settings are. */
  reboot(): void {
    for (const { appId } of this.packages.all()) this.activities.shutDown(appId);
    this.processes.restart();
    this.cover = undefined;
    this.messages.doze(false);
    this.#discards = this.settings.get('global', DISCARD_KEY) === '1';
    this.onReboot();
  }

  procFile = (path: string): string | undefined =>
    procFile(path, this.processes.all(), this.processes.bootedAt);

  /** Data, permissions, notifications: as after an installation. */
  clearApp(appId: string): void {
    this.activities.forceStop(appId);
    this.messages.forget(appId);
    // its token dies with its data
    this.messages.unregister(appId);
    const app = this.packages.get(appId);
    app?.storage.clear();
    app?.granted.clear();
  }

  uninstall(appId: string): void {
    this.clearApp(appId);
    this.packages.uninstall(appId);
  }

  isOnline = (): boolean =>
    this.settings.get('global', 'airplane_mode_on') !== '1' &&
    (this.settings.get('global', 'wifi_on') === '1' || this.settings.get('global', 'mobile_data') === '1');

  #settingChanged(namespace: string, key: string): void {
    if (`${namespace}/${key}` === `global/${DISCARD_KEY}` && this.shape.discardSetting === 'observed')
      this.#discards = this.settings.get('global', DISCARD_KEY) === '1';
    if (this.isOnline()) this.messages.goOnline();
    else this.messages.goOffline();
    this.activities.configurationChanged();
  }

  /** A file that the shell may read: its own, or the package of an installed app. */
  readFile(path: string): { bytes: Uint8Array; at: number } | undefined {
    const app = this.packages.all().find(({ apkPath }) => apkPath === path);
    return app ? { bytes: app.apk, at: app.updatedAt } : this.files.get(path);
  }

  // --- the display

  display(app?: RunnableApp): DisplaySettings {
    const { shape } = this;
    const folded = this.isFolded ? shape.foldedPx : undefined;
    const textScale = Number(this.settings.get('system', 'font_scale') ?? 1);
    const weight = Number(this.settings.get('secure', 'font_weight_adjustment') ?? 0);
    return {
      shape: { ...shape, ...folded, ...this.sizePx, densityDpi: this.densityDpi ?? shape.densityDpi },
      locale: this.localeOf(app),
      theme: this.theme(),
      textScale: Number.isFinite(textScale) ? textScale : 1,
      orientation: this.orientation(),
      boldText: weight >= 300 && app?.model.followsBoldText === true,
    };
  }

  theme = (): Theme => (this.night ? 'dark' : 'light');

  orientation(): Orientation {
    const turned = this.settings.get('system', 'user_rotation') ?? '0';
    const isFree = this.settings.get('system', 'accelerometer_rotation') === '1';
    // nobody turns it: with free rotation it lies as it was made
    return !isFree && (turned === '1' || turned === '3') ? 'landscape' : 'portrait';
  }

  localeOf(app?: RunnableApp): string {
    const own = app && this.packages.get(app.appId)?.locales[0];
    return own ?? this.systemLocale;
  }

  configuration(): string {
    const app = this.cover ? undefined : this.activities?.front.app;
    const { boldText: _, ...rest } = this.display(app);
    return JSON.stringify([rest, this.settings.get('secure', 'font_weight_adjustment')]);
  }

  /** Size, density, night, language: after each, the screen in front is made again. */
  change(apply: () => void): void {
    apply();
    this.activities.configurationChanged();
  }

  contextOf(app: RunnableApp): AppContext {
    return contextOf(
      this.packages.get(app.appId)?.resources ?? systemResources,
      'android',
      this.display(app),
    );
  }

  /** Apps that were opened, the last one first. */
  recentApps = (): RunnableApp[] =>
    [...this.activities.tasks].reverse().flatMap(({ app }) => (app === this.#home ? [] : [app]));

  /** The activity of the system or of the store that lies over the app, if one does. */
  get questionAbove(): string | undefined {
    if (typeof this.cover !== 'object') return undefined;
    if ('asks' in this.cover) return PERMISSION_QUESTION;
    if ('ad' in this.cover)
      return `${this.cover.app.appId}/com.${this.cover.ad.network}.ads.FullScreenActivity`;
    return 'sheet' in this.cover ? STORE_SHEET : undefined;
  }

  isMoving(): boolean {
    const scale = Number(this.settings.get('global', 'window_animation_scale') ?? 1);
    return scale > 0 && Date.now() < this.activities.movesUntil;
  }

  // --- where the user goes

  home(): void {
    const wasCovered = this.cover === 'recents';
    this.cover = undefined;
    this.activities.home();
    if (wasCovered) void this.activities.uncover();
  }

  back(): void {
    if (this.cover === 'recents') void this.activities.uncover();
    if (typeof this.cover === 'object' && 'sheet' in this.cover)
      void this.store.answer(this.cover.app, this.cover.sheet, false);
    else if (typeof this.cover === 'object' && 'ad' in this.cover)
      this.ads.closed(this.cover.app, this.cover.ad);
    else if (typeof this.cover === 'object' && 'rating' in this.cover) this.ratings.closed(this.cover.app);
    else if (this.cover) this.cover = undefined;
    else this.activities.back();
  }

  recents(): void {
    if (this.cover === 'recents') {
      const previous = this.quirks.has('own-recents') ? undefined : this.activities.previousApp();
      this.cover = undefined;
      void (previous ? this.activities.switchTo(previous) : this.activities.uncover());
      return;
    }
    this.cover = 'recents';
    this.activities.cover();
  }

  expandShade(): void {
    this.cover = 'shade';
  }
  collapseShade(): void {
    if (this.cover === 'shade') this.cover = undefined;
  }

  sleep(): void {
    if (!this.isScreenOn) return;
    this.isScreenOn = false;
    this.isLocked = true;
    this.activities.cover();
  }
  wake(): void {
    this.isScreenOn = true;
    if (!this.isLocked) void this.activities.uncover();
  }
  unlock(): void {
    if (!this.isLocked) return;
    this.isLocked = false;
    if (!this.cover) void this.activities.uncover();
  }

  // --- starting apps

  async launch(appId: string): Promise<LaunchResult | undefined> {
    const app = this.#runnable(appId);
    const className = this.packages.launcherOf(appId);
    if (!app || !className) return undefined;
    this.cover = undefined;
    return this.activities.launch(app, className);
  }

  async start(intent: Intent): Promise<LaunchResult | 'not found' | 'not exported'> {
    if (intent.action?.startsWith('android.settings.')) {
      this.cover = undefined;
      const page = intent.action.includes('DEVELOPMENT') ? 'DevelopmentSettings' : 'Settings';
      return this.activities.start(this.#settingsApp, `com.android.settings.${page}`, {});
    }
    if (intent.action === 'android.intent.action.DIAL') {
      this.cover = undefined;
      // what is open of it comes to the front as it is
      return this.activities.launch(this.#dialer, `${dialerApp.appId}.DialActivity`);
    }
    const found = this.packages.resolve(intent, this.shape.sdk);
    if (found === 'browser' || found === 'chooser') {
      this.cover = undefined;
      const system = found === 'browser' ? this.#browser : this.#chooser;
      const [screen] = Object.values(system.model.screens);
      return this.activities.start(system, `${system.appId}.${screen!.activity}`, { data: intent.data });
    }
    if (typeof found === 'string') return found;
    const app = this.#runnable(found.app.appId);
    if (!app) return 'not found';
    this.cover = undefined;
    if (intent.categories.includes('android.intent.category.LAUNCHER'))
      return this.activities.launch(app, found.className);
    return this.activities.start(app, found.className, { ...intent.extras, data: intent.data });
  }

  #closeCover = (): void => {
    this.cover = undefined;
  };

  #afterStop = ({ appId }: RunnableApp): void => {
    if (this.quirks.has('kills-at-once')) this.activities.killBackground(appId);
  };

  #runnable(appId: string): RunnableApp | undefined {
    const open = this.activities.tasks.find(({ app }) => app.appId === appId);
    if (open) return open.app;
    const installed = this.packages.get(appId);
    return installed && { ...installed, model: installed.model ?? unknownApp(installed) };
  }
}

const PERMISSION_QUESTION = 'com.android.permissioncontroller/.permission.ui.GrantPermissionsActivity';
const STORE_SHEET = 'com.android.vending/.PurchaseSheet';
const DISCARD_KEY = 'always_finish_activities';

/** A package whose code the stand-in does not know shows nothing but its name. */
function unknownApp({ appId, label, opened }: InstalledApp): PhoneApp {
  const activities = opened.app.android!.manifest.components.filter(({ type }) => type === 'activity');
  const model = (name: string) => ({
    activity: name.startsWith(`${appId}.`) ? name.slice(appId.length + 1) : name,
    first: {},
    view: () => blankView(),
  });
  return {
    appId,
    screens: Object.fromEntries(activities.map(({ name }) => [`${label} ${name}`, model(name)])),
  };
}
