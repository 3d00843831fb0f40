/**
 * The iOS phone: apps and their processes, what is in front, what fingers do. Scenes are kept when an app is left and given back
 * when it starts again (UIKit, *Restoring your app's state*); a swipe in the switcher throws them away.
 */
import { randomUUID } from 'node:crypto';
import type { Orientation, Theme } from '../../../core/model/cell.ts';
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { Ports } from '../../../core/model/ports.ts';
import type { SiteFile } from '../../../core/model/site-file.ts';
import { linkDomainsOf } from '../../../core/platform/links/link-decision.ts';
import { parseLinkUri } from '../../../core/platform/links/link-uri.ts';
import { linkMatcher } from '../../../core/platform/links/match-link.ts';
import type { Element, PhoneApp, ScreenHost, ScreenState } from '../app-model.ts';
import { type ShownScreen, showScreen, systemResources } from '../screen/display.ts';
import { contains, hitAt, indexOf, isScroller, pathTo } from '../screen/hit.ts';
import type { Placed } from '../screen/layout.ts';
import type { AppSide } from '../services/app-side.ts';
import { PhoneAds } from '../services/phone-ads.ts';
import { PhoneStore } from '../services/phone-store.ts';
import { IosMessages, type ShownMessage } from './ios-messages.ts';
import type { IosShape } from './ios-shapes.ts';
import { readApp } from './read-app.ts';
import { contextFor, displayFor, localeOf, sizeOf } from './run-settings.ts';
import {
  type AppProcess,
  defaultsOf,
  type InstalledIosApp,
  keptOf,
  type SceneScreen,
} from './running-app.ts';
import {
  ACTION_ID,
  adView,
  alertOver,
  type Cover,
  homeView,
  MESSAGE_ID,
  pageView,
  shadeView,
} from './system-views.ts';

const SPRINGBOARD = 'com.apple.springboard';
export const SAFARI = 'com.apple.mobilesafari';
export const PREFERENCES = 'com.apple.Preferences';

interface ToldLine {
  /** ISO 8601. */
  at: string;
  app: string;
  line: string;
}

interface FrontScreen {
  /** The app in front; empty where none is. */
  front: string;
  /** Whose window is on top. */
  owner: string;
  screen: ShownScreen;
}

const LINES_KEPT = 10_000;
const BACK_EDGE_PT = 20;

export class IosPhone {
  readonly shape: IosShape;
  /** Of this phone and no other. */
  readonly id = randomUUID().toUpperCase();
  /** What apps told the lookout, the oldest first. */
  readonly told: ToldLine[] = [];
  /** Of all lines that were ever told, those that are no longer kept. */
  droppedLines = 0;
  orientation: Orientation = 'portrait';
  appearance: Theme = 'light';
  isShadeOpen = false;
  isOnline = true;
  readonly messages: IosMessages;
  readonly store: PhoneStore<InstalledIosApp>;
  readonly ads: PhoneAds<InstalledIosApp>;
  readonly #ports: Ports;
  readonly #models: readonly PhoneApp[];
  readonly #sites: readonly SiteFile[];
  #apps = new Map<string, InstalledIosApp>();
  /** A system app that is in front, with what it shows. */
  #system?: { appId: string; words: string } | undefined;
  #front?: InstalledIosApp | undefined;
  #cover?: Cover | undefined;
  #timers = new Set<NodeJS.Timeout>();
  #nextPid = 400;
  #movesUntil = 0;

  constructor(shape: IosShape, ports: Ports, models: readonly PhoneApp[], sites: readonly SiteFile[] = []) {
    this.shape = shape;
    this.#ports = ports;
    this.#models = models;
    this.#sites = sites;
    this.messages = new IosMessages({
      app: (appId) => this.#apps.get(appId),
      isInFront: (app) => this.#front === app,
      wake: (app) => this.#wake(app),
      context: (app) => contextFor(this, app),
      logOf: (app) => this.#logOf(app),
      run: (app, code) => {
        try {
          return code({ log: this.#logOf(app) });
        } catch {
          this.#end(app);
          return undefined;
        }
      },
    });
    const side = this.#appSide();
    this.store = new PhoneStore({
      ...side,
      deviceId: this.id,
      platform: 'ios',
      localeOf,
      showSheet: (app, sheet) => {
        this.#cover = { app, sheet };
      },
    });
    this.ads = new PhoneAds({
      ...side,
      showAd: (app, ad) => {
        this.#cover = { app, ad };
      },
    });
  }

  #appSide(): AppSide<InstalledIosApp> {
    return {
      isOnline: () => this.isOnline,
      runnable: (appId) => this.#apps.get(appId),
      isRunning: ({ process }) => process !== undefined,
      onScreen: (app, _, code) => {
        const top = app.process?.screens.at(-1);
        if (this.#front !== app || !top) return false;
        this.#run(app, top, code);
        return true;
      },
      log: (app, _, tag, text) => this.#logOf(app)(tag, text),
      closeCover: () => {
        this.#cover = undefined;
      },
    };
  }

  async setOnline(isOnline: boolean): Promise<void> {
    this.isOnline = isOnline;
    if (isOnline) await this.messages.goOnline();
    else this.messages.goOffline();
  }

  close(): void {
    this.messages.goOffline();
    for (const timer of this.#timers) clearTimeout(timer);
  }

  /**
   * @param ipa what is installed
   * @param apk of the same app: colours and drawings, since compiled asset catalogues are not read for painting
   */
  async install(ipa: Uint8Array, apk: Uint8Array): Promise<InstalledIosApp> {
    const installed = await readApp(ipa, apk, this.#models, this.#ports);
    this.uninstall(installed.appId);
    this.#apps.set(installed.appId, installed);
    return installed;
  }

  uninstall(appId: string): void {
    const app = this.#apps.get(appId);
    if (!app) return;
    this.#end(app);
    this.messages.forget(app);
    this.#apps.delete(appId);
  }

  get = (appId: string): InstalledIosApp | undefined => this.#apps.get(appId);
  has = (appId: string): boolean =>
    this.#apps.has(appId) || [SPRINGBOARD, SAFARI, PREFERENCES].includes(appId);

  // --- processes

  /** A run of its own: one that runs is ended first (XCUIApplication, `launch`). */
  async start(app: InstalledIosApp, launchArguments: readonly string[] = []): Promise<void> {
    this.#end(app);
    await this.#startProcess(app, launchArguments);
    this.#restoreScene(app);
    this.#bringToFront(app);
  }

  /** As its user opens it (XCUIApplication, `activate`). */
  async bring(appId: string): Promise<void> {
    this.isShadeOpen = false;
    const app = this.#apps.get(appId);
    if (!app) {
      this.#leave();
      this.#system = appId === SPRINGBOARD ? undefined : { appId, words: '' };
      return;
    }
    if (!app.process) await this.#startProcess(app, []);
    if (app.process?.screens.length === 0) this.#restoreScene(app);
    this.#bringToFront(app);
  }

  /** From outside; what it gave the system to keep stays. */
  end(app: InstalledIosApp): void {
    this.#end(app);
  }

  /** In the switcher, by a swipe upwards. */
  throwAway(app: InstalledIosApp): void {
    this.#end(app);
    app.kept = undefined;
  }

  stateOf(appId: string): 'front' | 'background' | 'suspended' | 'not-running' {
    if (appId === SPRINGBOARD) return this.#front || this.#system ? 'background' : 'front';
    const app = this.#apps.get(appId);
    if (!app) return this.#system?.appId === appId ? 'front' : 'not-running';
    return app.process?.state ?? 'not-running';
  }

  async #startProcess(app: InstalledIosApp, launchArguments: readonly string[]): Promise<void> {
    const process: AppProcess = {
      pid: this.#nextPid++,
      startedAt: new Date().toISOString(),
      defaults: defaultsOf(launchArguments),
      memory: new Map(),
      state: 'background',
      screens: [],
    };
    app.process = process;
    await this.#wait(this.shape.coldStartMs);
    const { version, build } = app.opened.app.build;
    app.model.began?.(
      { log: this.#logOf(app) },
      {
        pid: process.pid,
        startedAt: process.startedAt,
        version,
        build,
        language: localeOf(app),
        contentSize: `UICTContentSizeCategory${sizeOf(app)}`,
      },
      this.ads.advertisingId,
    );
  }

  /** What was kept, or the first screen. */
  #restoreScene(app: InstalledIosApp): void {
    const kept = app.kept;
    const [first] = Object.keys(app.model.screens);
    for (const { screen, values } of kept ?? [{ screen: first!, values: {} }])
      this.#push(app, screen, values, kept !== undefined);
  }

  #push(app: InstalledIosApp, screen: string, values: ScreenState, isRestored: boolean): void {
    const { process } = app;
    const model = app.model.screens[screen];
    if (!process || !model) return;
    const shown: SceneScreen = { screen, state: { ...model.first, ...values } };
    process.screens.push(shown);
    this.#run(app, shown, (host) => model.created?.(host, isRestored));
  }

  #bringToFront(app: InstalledIosApp): void {
    if (!app.process) return;
    if (this.#front && this.#front !== app) this.#leave();
    this.#system = undefined;
    this.isShadeOpen = false;
    this.#front = app;
    app.process.state = 'front';
    if (!app.process.isDrawn) {
      app.process.isDrawn = true;
      app.model.drawn?.({ log: this.#logOf(app) }, Date.now() - Date.parse(app.process.startedAt));
    }
    this.#movesUntil = Date.now() + this.shape.animationMs;
    const top = app.process.screens.at(-1);
    if (top) this.#run(app, top, (host) => app.model.screens[top.screen]!.resumed?.(host));
  }

  /** The app in front goes to the background, gives what is to be kept, and is suspended a while later. */
  #leave(): void {
    const app = this.#front;
    this.#front = undefined;
    this.#system = undefined;
    this.#movesUntil = Date.now() + this.shape.animationMs;
    const process = app?.process;
    if (!app || !process) return;
    app.kept = keptOf(app, process);
    this.#goToBackground(app, process);
  }

  #goToBackground(app: InstalledIosApp, process: AppProcess): void {
    process.state = 'background';
    this.#later(this.shape.suspendMs, () => {
      if (app.process === process && process.state === 'background') process.state = 'suspended';
    });
  }

  /** Runs in the background for a while, started where it does not run. */
  async #wake(app: InstalledIosApp): Promise<void> {
    const isCold = app.process === undefined;
    if (isCold) await this.#startProcess(app, []);
    if (!app.process || this.#front === app) return;
    this.#goToBackground(app, app.process);
  }

  #end(app: InstalledIosApp): void {
    app.process = undefined;
    if (this.#cover?.app === app) this.#cover = undefined;
    if (this.#front === app) this.#front = undefined;
  }

  // --- what its user does

  home(): void {
    this.isShadeOpen = false;
    this.#leave();
  }

  async tap(x: number, y: number): Promise<void> {
    const { screen } = await this.look();
    const hit = hitAt(screen.placed, x, y);
    if (this.#cover) return this.#answerBy(hit?.element.id);
    if (this.isShadeOpen) return this.#touchShade(screen.placed, hit);
    const app = this.#front;
    const top = app?.process?.screens.at(-1);
    if (!app || !top) return;
    const model = app.model.screens[top.screen]!;
    // beside a sheet it is dismissed
    if (this.#hasSheet(app, top) && !contains(screen.placed.boundsPx, x, y))
      top.state = { ...top.state, [model.dialog!.value]: undefined };
    if (!hit || hit.element.enabled === false) return;
    const { edits, id } = hit.element;
    if (edits) top.focused = edits;
    const handler = id && model.taps?.[id];
    if (handler) this.#run(app, top, (host) => handler(host, indexOf(screen.placed, hit)));
  }

  #hasSheet({ model }: InstalledIosApp, { screen, state }: SceneScreen): boolean {
    const { dialog } = model.screens[screen]!;
    return dialog !== undefined && state[dialog.value] !== undefined;
  }

  /** A message that is held shows its buttons. */
  async hold(x: number, y: number): Promise<void> {
    const { screen } = await this.look();
    const hit = hitAt(screen.placed, x, y);
    if (!this.isShadeOpen || hit?.element.id !== MESSAGE_ID) return;
    this.messages.held = this.messages.list()[indexOf(screen.placed, hit)];
  }

  async #touchShade(root: Placed, hit: Placed | undefined): Promise<void> {
    const { held } = this.messages;
    if (!hit) return;
    const index = indexOf(root, hit);
    if (hit.element.id === MESSAGE_ID) {
      const message = held ?? this.messages.list()[index];
      if (message) await this.#openMessage(message);
    } else if (hit.element.id === ACTION_ID && held) await this.#openMessage(held, index);
  }

  /** The message itself, or one of its buttons; a button that does not open the app is told to it in the background. */
  async #openMessage(message: ShownMessage, button?: number): Promise<void> {
    const { app, payload } = message;
    const action = button === undefined ? undefined : message.actions[button];
    this.messages.take(message);
    this.isShadeOpen = false;
    const isCold = app.process === undefined;
    if (isCold) await this.#startProcess(app, []);
    if (app.process?.screens.length === 0) this.#restoreScene(app);
    if (!action || action.opens) this.#bringToFront(app);
    const { process } = app;
    const top = process?.screens.at(-1);
    if (!process || !top) return;
    this.#run(app, top, (host) =>
      app.model.messages?.opened(
        { ...host, state: top.state, setBadge: (badge) => this.messages.setBadge(app, badge) },
        { payload, isCold, ...(action && { action: action.id }) },
      ),
    );
  }

  /** Scrolls what lies under the finger; from the leading edge inwards it goes back (UINavigationController). */
  async drag(from: { x: number; y: number }, to: { x: number; y: number }): Promise<void> {
    const { heightPx, scale, widthPx } = this.shape;
    if (from.y <= 4 * scale && to.y > heightPx / 3) {
      this.isShadeOpen = true;
      return;
    }
    if (from.y >= heightPx - 4 * scale && to.y < from.y) {
      if (this.isShadeOpen) this.isShadeOpen = false;
      else this.home();
      return;
    }
    const app = this.#front;
    const top = app?.process?.screens.at(-1);
    if (!app?.process || !top || this.#cover || this.isShadeOpen) return;
    const { screen } = await this.look();
    const isRtl = screen.isRtl;
    const inwards = isRtl ? from.x - to.x : to.x - from.x;
    if ((isRtl ? widthPx - from.x : from.x) <= BACK_EDGE_PT * scale && inwards > widthPx / 3) {
      const isPushed = app.process.screens.length > 1 && !hasTabs(screen.placed);
      if (isPushed && !this.#hasSheet(app, top)) this.#pop(app, top);
      return;
    }
    const scroller = pathTo(screen.placed, from.x, from.y).findLast(isScroller);
    if (!scroller) return;
    const { scrolledDp = 0, scrolls } = scroller.element;
    const wanted = scrolledDp + (from.y - to.y) / scale;
    const scrolled = Math.round(Math.min(scroller.scrollRangeDp ?? 0, Math.max(0, wanted)));
    top.state = { ...top.state, [scrolls!]: scrolled };
  }

  type(text: string): boolean {
    const top = this.#cover || this.isShadeOpen ? undefined : this.#front?.process?.screens.at(-1);
    if (!top?.focused) return false;
    top.state = { ...top.state, [top.focused]: String(top.state[top.focused] ?? '') + text };
    return true;
  }

  /** The system's own question is answered. @returns whether there was one */
  answer(isAllowed: boolean): boolean {
    if (!this.#cover || !('permission' in this.#cover)) return false;
    const { app, permission } = this.#cover;
    this.#cover = undefined;
    if (isAllowed) app.granted.add(permission);
    const top = app.process?.screens.at(-1);
    if (top) this.#run(app, top, (host) => app.model.permissionAnswered?.(host, permission, isAllowed));
    return true;
  }

  async #answerBy(id: string | undefined): Promise<void> {
    const cover = this.#cover;
    if (id === 'alert_allow' || id === 'alert_refuse') this.answer(id === 'alert_allow');
    else if (cover && 'sheet' in cover && (id === 'store_buy_button' || id === 'store_cancel_button'))
      void this.store.answer(cover.app, cover.sheet, id === 'store_buy_button');
    else if (cover && 'ad' in cover && id === 'ad_close') this.ads.closed(cover.app, cover.ad);
  }

  /** As another app hands it over. @param to the app by name. @returns who is in front then */
  async open(url: string, to?: InstalledIosApp): Promise<string> {
    const uri = parseLinkUri(url);
    const taker = to ?? [...this.#apps.values()].find((app) => this.#takes(app, uri));
    if (!taker) {
      if (!/^https?:/i.test(url)) return this.#front?.appId ?? SPRINGBOARD;
      this.#leave();
      this.#system = { appId: SAFARI, words: url };
      return SAFARI;
    }
    const screen = taker.model.screenOfLink?.(url);
    const isCold = taker.process === undefined;
    if (isCold) await this.#startProcess(taker, []);
    // with a link to begin with, the app makes its scene for that
    if (isCold && screen === undefined) this.#restoreScene(taker);
    if (screen !== undefined) this.#push(taker, screen, { data: url }, false);
    this.#bringToFront(taker);
    return taker.appId;
  }

  #takes({ appId, opened }: InstalledIosApp, uri: ReturnType<typeof parseLinkUri>): boolean {
    const matcher = linkMatcher({ appId, ios: linkDomainsOf(opened.app.ios!) }, this.#sites);
    return matcher.opens(uri).opens === 'app';
  }

  // --- what is on the display

  /**
   * @param among apps that may be told to be in front; of others the home screen is told
   * @param system what the system itself shows, over whatever app is in front
   */
  async look(among?: readonly string[], isSystem = false): Promise<FrontScreen> {
    const wait = this.#movesUntil - Date.now();
    if (wait > 0) await this.#wait(wait);
    const front = this.#front?.appId ?? this.#system?.appId ?? '';
    const display = displayFor(this, this.#front);
    const system = (root: Element, above?: Element) =>
      showScreen(root, systemResources, displayFor(this), above);
    if (this.#cover && !('ad' in this.#cover)) {
      const alert = alertOver(this.#cover);
      return { front, owner: SPRINGBOARD, screen: await system(pageView('', ''), alert) };
    }
    if (this.isShadeOpen) {
      const { held } = this.messages;
      return {
        front,
        owner: SPRINGBOARD,
        screen: await system(shadeView(held ? [held] : this.messages.list(), held?.actions)),
      };
    }
    const isToldOf = !isSystem && (front === '' || !among || among.includes(front));
    if (this.#system && isToldOf)
      return { front, owner: front, screen: await system(pageView(front, this.#system.words)) };
    // it is a screen of the library in the app
    if (this.#cover && isToldOf) return { front, owner: front, screen: await system(adView(this.#cover.ad)) };
    const app = this.#front;
    const top = app?.process?.screens.at(-1);
    if (!app || !top || !isToldOf) {
      const icons = [...this.#apps.values()].map((one) => ({
        label: one.label,
        badge: this.messages.badgeOf(one),
      }));
      const home = homeView(icons, this.messages.banner());
      return { front: isSystem ? front : '', owner: SPRINGBOARD, screen: await system(home) };
    }
    const model = app.model.screens[top.screen]!;
    const context = contextFor(this, app);
    const view = withFocus(model.view(context, top.state), top.focused);
    const above = model.dialog?.view(context, top.state);
    return { front, owner: front, screen: await showScreen(view, app.resources, display, above, 'sheet') };
  }

  // --- the app's own code

  /** What it throws ends the process. */
  #run(app: InstalledIosApp, screen: SceneScreen, code: (host: ScreenHost) => void): void {
    const { process } = app;
    if (!process) return;
    try {
      code(this.#hostOf(app, process, screen));
    } catch {
      this.#end(app);
      // what leads to a crash again at once is not given back (UIKit)
      app.kept = undefined;
    }
  }

  #pop(app: InstalledIosApp, screen: SceneScreen): void {
    const { process } = app;
    if (!process || process.screens.length === 1) return;
    process.screens = process.screens.filter((one) => one !== screen);
    const top = process.screens.at(-1)!;
    this.#run(app, top, (host) => app.model.screens[top.screen]!.resumed?.(host));
  }

  #hostOf(app: InstalledIosApp, process: AppProcess, screen: SceneScreen): ScreenHost {
    return {
      get state() {
        return screen.state;
      },
      set: (values) => {
        screen.state = { ...screen.state, ...values };
      },
      open: (name, { alone, extras = {}, instead } = {}) => {
        if (alone) process.screens = [];
        if (instead) process.screens = process.screens.filter((one) => one !== screen);
        this.#push(app, name, extras, false);
      },
      finish: () => this.#pop(app, screen),
      memory: process.memory,
      storage: app.storage,
      isOnline: () => this.isOnline,
      hasPermission: (permission) => app.granted.has(permission),
      requestPermission: (permission) => {
        if (app.answered.has(permission)) return;
        app.answered.add(permission);
        this.#cover = { app, permission };
      },
      log: this.#logOf(app),
      ...WITHOUT_SERVICES,
      registerForPush: () => void this.messages.register(app),
      store: {
        list: (products) => void this.store.list(app.appId, products),
        buy: (product, accountToken) => void this.store.buy(app.appId, product, accountToken),
        refresh: () => void this.store.owned(app.appId, false),
        restore: () => void this.store.owned(app.appId, true),
      },
      ads: {
        isThere: this.ads.isConnected,
        load: (placement, request) => void this.ads.load(app.appId, placement, request),
        show: (placement, network, words) => this.ads.show(app.appId, { placement, network, words }),
      },
    };
  }

  /** A line of an app's own debug code. */
  tell(appId: string, line: string): void {
    this.told.push({ at: new Date().toISOString(), app: appId, line });
    if (this.told.length <= LINES_KEPT) return;
    this.told.shift();
    this.droppedLines += 1;
  }

  /** What an app logs for Fenlok goes to the lookout. */
  #logOf =
    ({ appId }: InstalledIosApp) =>
    (tag: string, message: string): void => {
      if (tag === LOG_TAG) this.tell(appId, message);
    };

  #later(ms: number, act: () => void): void {
    const timer = setTimeout(() => {
      this.#timers.delete(timer);
      act();
    }, ms);
    this.#timers.add(timer);
  }

  #wait = (ms: number): Promise<void> => new Promise((resolve) => this.#later(ms, resolve));
}

/** Each tab is a stack of its own, and nothing is behind its first screen (UITabBarController). */
const hasTabs = ({ children, element }: Placed): boolean => element.bar === 'tabs' || children.some(hasTabs);

/** What is Android's alone, or has nobody behind it on this phone. */
const WITHOUT_SERVICES = {
  startService: () => {},
  readDisk: () => {},
  registerReceiver: () => {},
  askForRating: () => {},
  hang: () => {},
} as const;

const withFocus = (element: Element, focused: string | undefined): Element => {
  if (!focused) return element;
  if (element.kind === 'box')
    return { ...element, children: element.children.map((child) => withFocus(child, focused)) };
  return element.edits === focused ? { ...element, focused: true } : element;
};
