/** An Android phone over the bridge. What its shell is told stands in the files beside this one. */
import type { BuildKey } from '../../core/model/candidate.ts';
import type { BridgeLine, Ran, RunOptions } from '../bridge/bridge-line.ts';
import { isOverNetwork } from '../bridge/is-over-network.ts';
import type {
  Capability,
  Channels,
  Device,
  DeviceApp,
  DeviceInfo,
  Key,
  LogLine,
  OpenedLink,
  Order,
  Posted,
  Setting,
  Snapshot,
} from '../device.ts';
import { findElement, tap } from '../phone/perform-step.ts';
import {
  findApp,
  grantedPermissions,
  installedBuild,
  installerOf,
  launch,
  logMoment,
  logSince,
  processOf,
  runningServices,
  versionOf,
} from './app-on-phone.ts';
import { androidHoldables } from './holdables.ts';
import { channelsOf, hasMessagePermission, mayShowMessages, postedMessages } from './messages.ts';
import { quoteShell } from './quote-shell.ts';
import { sendInput } from './send-input.ts';
import { androidSetting } from './settings.ts';
import { densityOf, settingsNow } from './settings-now.ts';
import { resumedActivity, takeSnapshot } from './snapshot.ts';
import { takePicture } from './take-picture.ts';

const VIEW = 'am start -W -a android.intent.action.VIEW';
/** The app of the store, whose window the question for a rating is. */
const STORE = 'com.android.vending';
const OTHERS = { calls: 'android.intent.action.DIAL', settings: 'android.settings.SETTINGS' };
const OVER_NETWORK = 'it is attached over Wi-Fi, and would be cut off from this computer';

type At = Parameters<Device['tap']>[0];

/** Its line can be used as well, for what only Android has. */
const SDK_OF_QUESTION = 33;
const LONG_PRESS_MS = 800;

export class AndroidDevice implements Device, BridgeLine {
  readonly platform = 'android';
  readonly serial: string;
  readonly info: DeviceInfo;
  readonly holdables = androidHoldables;
  readonly #line: BridgeLine;

  constructor(line: BridgeLine) {
    this.#line = line;
    this.serial = line.serial;
    this.info = line.info;
  }

  whyNot(capability: Capability): string | undefined {
    if (capability === 'message-permission' && this.info.sdk < SDK_OF_QUESTION)
      return 'the system asks for the permission from Android 13 on';
    // a phone that is attached over the network would be cut off with it
    return capability === 'network' && isOverNetwork(this) ? OVER_NETWORK : undefined;
  }

  // --- the line

  run = (line: string, options?: RunOptions): Promise<Ran> => this.#line.run(line, options);
  bytes = (line: string, options?: RunOptions): Promise<Uint8Array> => this.#line.bytes(line, options);
  pull = (path: string, limitBytes: number): Promise<Uint8Array> => this.#line.pull(path, limitBytes);
  isGone = (): boolean => this.#line.isGone();
  reconnect = (): Promise<void> => this.#line.reconnect();
  close = (): Promise<void> => this.#line.close();

  async #order(line: string): Promise<Order> {
    const { code } = await this.run(line);
    return { line, code };
  }

  // --- apps

  findApp = (appId: string): Promise<DeviceApp | undefined> => findApp(this, appId);
  versionOf = (appId: string): Promise<BuildKey> => versionOf(this, appId);
  buildOf = (appId: string): Promise<BuildKey> => installedBuild(this, appId);
  install = (apk: Uint8Array): Promise<string | undefined> => this.#line.install(apk);
  installerOf = (appId: string): Promise<string> => installerOf(this, appId);
  launch = (app: DeviceApp) => launch(this, app);
  processOf = (appId: string) => processOf(this, appId);
  runningServices = (appId: string): Promise<string[]> => runningServices(this, appId);
  kill = ({ appId }: DeviceApp): Promise<Order> => this.#order(`am kill ${appId}`);

  /** Its log tells what becomes of an app, step by step. */
  async stateOf(): Promise<undefined> {
    return undefined;
  }

  async uninstall(appId: string): Promise<void> {
    await this.run(`pm uninstall ${appId}`);
  }

  async stop({ appId }: DeviceApp): Promise<void> {
    await this.run(`am force-stop ${appId}`);
  }

  async clear({ appId }: DeviceApp): Promise<void> {
    await this.run(`pm clear ${appId}`);
  }

  // --- what is in front

  front = (): Promise<string> => resumedActivity(this);
  snapshot = (): Promise<Snapshot> => takeSnapshot(this);
  picture = (): Promise<Uint8Array> => takePicture(this);
  densityDpi = (): Promise<number> => densityOf(this);
  settingsNow = (appId: string) => settingsNow(this, appId);

  /** What was set is read from the device itself. */
  async checkSettings(): ReturnType<Device['checkSettings']> {
    return { unproven: [] };
  }

  // --- fingers and keys

  tap = ({ x, y }: At): Promise<void> => sendInput(this, `tap ${x} ${y}`);
  longPress = (at: At): Promise<void> => this.swipe(at, at, LONG_PRESS_MS);
  swipe = (from: At, to: At, ms: number): Promise<void> =>
    sendInput(this, `swipe ${from.x} ${from.y} ${to.x} ${to.y} ${ms}`);
  press = (key: Key): Promise<void> => sendInput(this, `keyevent ${key}`);

  /** The platform's tool has a key map of ASCII alone. */
  whyNotType = (text: string): string | undefined =>
    /^[\x20-\x7e]*$/.test(text) ? undefined : `"${text}": only ASCII can be typed over the bridge`;
  type = (text: string): Promise<void> => sendInput(this, `text ${quoteShell(text.replaceAll(' ', '%s'))}`);

  // --- what others do to an app

  async openLink(url: string, to?: DeviceApp): Promise<OpenedLink> {
    const { err, out } = await this.run(
      `${VIEW} -c android.intent.category.BROWSABLE ${to ? `-p ${to.appId} ` : ''}-d ${quoteShell(url)}`,
    );
    const started = /^Activity: (\S+)/m.exec(out)?.[1] ?? '';
    const refused = /^Error: (.+)$/m.exec(`${out}\n${err}`)?.[1];
    return { started, ...(!started && { refused: refused ?? 'nobody was started' }) };
  }

  async takerOf(url: string): Promise<string | undefined> {
    const { out } = await this.run(
      `cmd package resolve-activity --brief -a android.intent.action.VIEW -c android.intent.category.BROWSABLE -d ${quoteShell(url)}`,
    );
    return /^([\w.]+)\//m.exec(out)?.[1];
  }

  async siteWordOf(appId: string, host: string): Promise<string | undefined> {
    const { out } = await this.run(`pm get-app-links ${appId}`);
    return out
      .split(/\r?\n/)
      .map((line) => line.trim().split(/:\s*/))
      .find(([name]) => name === host)?.[1];
  }

  async openInApp(url: string, { appId }: DeviceApp): Promise<void> {
    await this.run(`${VIEW} -d ${quoteShell(url)} ${appId}`);
  }

  openOther = (which: 'calls' | 'settings'): Promise<Order> => this.#order(`am start -W -a ${OTHERS[which]}`);
  openShade = (): Promise<Order> => this.#order('cmd statusbar expand-notifications');
  closeShade = (): Promise<Order> => this.#order('cmd statusbar collapse');
  unlock = (): Promise<Order> => this.#order('wm dismiss-keyguard');

  // --- permissions and messages

  grantedPermissions = (appId: string): Promise<string[]> => grantedPermissions(this, appId);
  mayShowMessages = (appId: string): Promise<boolean> => mayShowMessages(this, appId);
  hasMessagePermission = (appId: string): Promise<boolean> => hasMessagePermission(this, appId);
  postedMessages = (appId: string): Promise<Posted> => postedMessages(this, appId);
  /** Launchers count in ways of their own. */
  async badgeOf(): Promise<undefined> {
    return undefined;
  }
  channelsOf = (appId: string): Promise<Channels> => channelsOf(this, appId);

  /** The system's dialog is known by the ids of its buttons. */
  async answerQuestion(answer: 'allow' | 'refuse'): Promise<boolean> {
    const id = answer === 'allow' ? 'permission_allow_button' : 'permission_deny_button';
    const button = findElement((await this.snapshot()).tree, id);
    if (button) await tap(this, button);
    await this.snapshot();
    return button !== undefined;
  }

  isRatingPrompt = ({ activity, owner }: Snapshot, appId: string): boolean =>
    activity.startsWith(`${STORE}/`) || (activity.startsWith(`${appId}/`) && owner === STORE);

  async advertisingId(): Promise<string | undefined> {
    const id = (await this.run('settings get secure advertising_id')).out.trim();
    return /^[\w-]{8,}$/.test(id) ? id : undefined;
  }

  // --- settings and log

  setting = (id: string): Setting => androidSetting(this, id);
  logMoment = (): Promise<string> => logMoment(this);
  logSince = (moment: string, of?: 'main'): Promise<LogLine[]> => logSince(this, moment, of);

  async clockS(): Promise<number> {
    const { out } = await this.run('date +%s.%N');
    return Number(out.trim()) || Date.now() / 1000;
  }

  async logText(moment: string, tags: readonly string[]): Promise<string> {
    return (await this.run(`logcat -d -b all -v threadtime -T ${moment} -s ${tags.join(' ')}`)).out;
  }
}
