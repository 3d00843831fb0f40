/** Installed packages, what their manifests declare, and which of their components an intent finds. */
import type { OpenedPackage } from '../../../core/formats/package.ts';
import { readPackage } from '../../../core/formats/package.ts';
import type { Component } from '../../../core/model/app-package.ts';
import { bytesSource, type Ports, sha256Hex } from '../../../core/model/ports.ts';
import { formatProblem, type Result } from '../../../core/model/problem.ts';
import type { RatingChannel } from '../../../core/model/rating.ts';
import type { PhoneApp } from '../app-model.ts';
import { type InstalledResources, installResources } from '../resources.ts';
import { accepts, type Intent, isWebLink, linkHost } from './intent-filters.ts';
import { type Sites, verifyHosts } from './verify-hosts.ts';

export interface InstalledApp {
  appId: string;
  label: string;
  uid: number;
  opened: OpenedPackage;
  apk: Uint8Array;
  apkPath: string;
  /** Names of the parts that were installed with it. */
  splits: string[];
  /** What the shell set with `cmd appops`. */
  appOps: Map<string, string>;
  /** False where its user, or the shell, has switched it off. */
  isEnabled: boolean;
  /** What the code of the app does; a package whose code the stand-in does not know has none. */
  model?: PhoneApp;
  resources?: InstalledResources;
  granted: Set<string>;
  /** Hosts of its verified links, with the state that `pm get-app-links` prints. */
  hosts: Map<string, string>;
  /** BCP 47 tags that the user chose for this app alone. */
  locales: string[];
  storage: Map<string, string>;
  /** The way by which it came; over a cable unless told. */
  channel: RatingChannel;
  firstInstallAt: number;
  updatedAt: number;
}

const MAIN = 'android.intent.action.MAIN';
const LAUNCHER = 'android.intent.category.LAUNCHER';

export class PackageManager {
  readonly #ports: Ports;
  readonly #models: readonly PhoneApp[];
  readonly #sites: Sites;
  #installed = new Map<string, InstalledApp>();
  #nextUid = 10123;
  /** Of what is installed from now on. */
  channel: RatingChannel = 'local';

  constructor(ports: Ports, models: readonly PhoneApp[], sites: Sites) {
    this.#ports = ports;
    this.#models = models;
    this.#sites = sites;
  }

  all = (): InstalledApp[] => [...this.#installed.values()];
  get = (appId: string): InstalledApp | undefined => this.#installed.get(appId);

  /**
   * @param apks the base, and parts of it in any order; what is drawn comes from the base alone
   * @returns the app, or the platform's word for what is wrong with the package
   */
  async install(
    apks: Uint8Array | readonly Uint8Array[],
    options: { replace: boolean },
  ): Promise<InstalledApp | string> {
    const all = apks instanceof Uint8Array ? [apks] : apks;
    if (all.length === 1) return this.#installOne(all[0]!, options);
    const parts = await Promise.all(all.map((apk) => this.#partOf(apk)));
    const wrong = parts.find((part) => typeof part === 'string');
    if (wrong !== undefined) return wrong;
    const read = parts.filter((part) => typeof part !== 'string');
    const bases = read.filter(({ split }) => split === undefined);
    if (bases.length !== 1)
      return bases.length === 0
        ? 'INSTALL_FAILED_INVALID_APK: Full install must include a base package'
        : 'INSTALL_FAILED_INVALID_APK: Split null was defined multiple times';
    const [base] = bases;
    const stranger = read.find(({ appId, build }) => appId !== base!.appId || build !== base!.build);
    if (stranger)
      return `INSTALL_FAILED_INVALID_APK: ${stranger.split} version code or package ${stranger.appId} inconsistent with ${base!.appId}`;
    const installed = await this.#installOne(base!.apk, options);
    if (typeof installed !== 'string') installed.splits = read.flatMap(({ split }) => split ?? []).sort();
    return installed;
  }

  async #partOf(
    apk: Uint8Array,
  ): Promise<{ apk: Uint8Array; appId: string; build: string; split?: string } | string> {
    const digest = await sha256Hex(this.#ports, apk);
    const read: Result<OpenedPackage> = await readPackage('split.apk', bytesSource(apk), digest, this.#ports);
    if (!read.ok) return `INSTALL_PARSE_FAILED_NOT_APK: ${formatProblem(read.problem)}`;
    const { appId, build } = read.value.app.build;
    return { apk, appId, build, split: read.value.app.android?.manifest.split };
  }

  async #installOne(apk: Uint8Array, options: { replace: boolean }): Promise<InstalledApp | string> {
    const digest = await sha256Hex(this.#ports, apk);
    const read: Result<OpenedPackage> = await readPackage('base.apk', bytesSource(apk), digest, this.#ports);
    if (!read.ok) return `INSTALL_PARSE_FAILED_NOT_APK: ${formatProblem(read.problem)}`;
    const opened = read.value;
    const broken = opened.app.signing.schemes.find(({ outcome }) => outcome === 'broken');
    if (!opened.android || broken || opened.app.signing.certificates.length === 0)
      return 'INSTALL_PARSE_FAILED_NO_CERTIFICATES: Failed to collect certificates from base.apk';
    const { split } = opened.app.android!.manifest;
    if (split !== undefined) return 'INSTALL_FAILED_MISSING_SPLIT: Missing split for base package';
    const { appId, build } = opened.app.build;
    const before = this.#installed.get(appId);
    if (before && !options.replace)
      return `INSTALL_FAILED_ALREADY_EXISTS: Attempt to re-install ${appId} without first uninstalling.`;
    if (before) {
      if (signerOf(before.opened) !== signerOf(opened))
        return `INSTALL_FAILED_UPDATE_INCOMPATIBLE: Existing package ${appId} signatures do not match newer version; ignoring!`;
      if (Number(build) < Number(before.opened.app.build.build))
        return 'INSTALL_FAILED_VERSION_DOWNGRADE: Downgrade detected on a non-debuggable package';
    }
    const { table } = opened.android;
    const installed: InstalledApp = {
      appId,
      label: opened.app.name,
      uid: before?.uid ?? this.#nextUid++,
      opened,
      apk,
      apkPath: `/data/app/~~${digest.slice(0, 22)}==/${appId}-${digest.slice(22, 44)}==/base.apk`,
      splits: [],
      appOps: before?.appOps ?? new Map(),
      isEnabled: true,
      model: this.#modelOf(appId, build),
      resources: table && installResources(table, opened.zip),
      granted: before?.granted ?? new Set(),
      hosts: verifyHosts(opened, this.#sites),
      locales: before?.locales ?? [],
      storage: before?.storage ?? new Map(),
      channel: this.channel,
      firstInstallAt: before?.firstInstallAt ?? Date.now(),
      updatedAt: Date.now(),
    };
    this.#installed.set(appId, installed);
    return installed;
  }

  uninstall = (appId: string): boolean => this.#installed.delete(appId);

  launcherOf(appId: string): string | undefined {
    const app = this.get(appId);
    return componentsOf(app?.isEnabled ? app : undefined).find(({ filters }) =>
      filters.some(({ actions, categories }) => actions.includes(MAIN) && categories.includes(LAUNCHER)),
    )?.name;
  }

  /** The activity that an intent is for: named, or found by the filters of the installed packages. */
  resolve(intent: Intent, sdk: number): Resolved {
    const apps = this.all().filter(
      ({ appId, isEnabled }) => isEnabled && (!intent.appId || appId === intent.appId),
    );
    if (intent.className) {
      const app = apps[0];
      const component = componentsOf(app).find(({ name }) => name === intent.className);
      if (!app || !component) return 'not found';
      return component.exported === true ? { app, className: targetOf(component) } : 'not exported';
    }
    const taking = apps.flatMap((app) =>
      componentsOf(app)
        .filter(({ exported, filters }) => exported === true && filters.some((one) => accepts(one, intent)))
        .map((component) => ({ app, className: targetOf(component) })),
    );
    // addressed to the app, a web link needs nobody's leave
    if (isWebLink(intent) && !intent.appId) return this.#resolveWeb(intent, taking, sdk);
    return taking.length > 1 ? 'chooser' : (taking[0] ?? 'not found');
  }

  /** The code of that build, where there is one of its own. */
  #modelOf(appId: string, build: string): PhoneApp | undefined {
    const ofApp = this.#models.filter((model) => model.appId === appId);
    return ofApp.find((model) => model.build === build) ?? ofApp.find((model) => model.build === undefined);
  }

  /** Since API level 31 only apps that the site agrees to are asked, and else the browser. */
  #resolveWeb(intent: Intent, taking: Exclude<Resolved, string>[], sdk: number): Resolved {
    const host = linkHost(intent);
    const agreed = taking.filter(({ app }) => isAgreed(app.hosts, host));
    if (agreed.length > 0) return agreed.length > 1 ? 'chooser' : agreed[0]!;
    return taking.length > 0 && sdk < VERIFIES_SINCE_SDK ? 'chooser' : 'browser';
  }
}

type Resolved =
  | { app: InstalledApp; className: string }
  | 'not found'
  | 'not exported'
  /** The user is asked: several activities take it. */
  | 'chooser'
  | 'browser';

const VERIFIES_SINCE_SDK = 31;

const isAgreed = (hosts: ReadonlyMap<string, string>, host: string): boolean =>
  [...hosts].some(
    ([name, state]) =>
      state === 'verified' &&
      (name.startsWith('*') ? host.endsWith(name.slice(1)) : host === name.toLowerCase()),
  );

const signerOf = ({ app }: OpenedPackage): string | undefined => app.signing.certificates[0]?.sha256;

const targetOf = ({ name, targetActivity }: Component): string => targetActivity ?? name;

const componentsOf = (app: InstalledApp | undefined): Component[] =>
  (app?.opened.app.android?.manifest.components ?? []).filter(
    ({ enabled, type }) => enabled && (type === 'activity' || type === 'activity-alias'),
  );
