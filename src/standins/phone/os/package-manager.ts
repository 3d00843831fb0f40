/** Installed packages, what their manifests declare, and which of their components an intent finds. */
import type { OpenedPackage } from '../../../core/formats/package.ts';
import { readPackage } from '../../../core/formats/package.ts';
import type { Component, IntentFilter } from '../../../core/model/app-package.ts';
import { bytesSource, type Ports, sha256Hex } from '../../../core/model/ports.ts';
import { type Result, sayProblem } from '../../../core/model/problem.ts';
import type { PhoneApp } from '../app-model.ts';
import { type InstalledResources, installResources } from '../resources.ts';

export interface InstalledApp {
  appId: string;
  label: string;
  uid: number;
  opened: OpenedPackage;
  apk: Uint8Array;
  apkPath: string;
  /** What the code of the app does; a package whose code the stand-in does not know has none. */
  model?: PhoneApp;
  resources?: InstalledResources;
  granted: Set<string>;
  /** Hosts of its verified links, with the state that `pm get-app-links` prints. */
  hosts: Map<string, 'verified' | 'none' | 'approved'>;
  /** BCP 47 tags that the user chose for this app alone. */
  locales: string[];
  storage: Map<string, string>;
  firstInstallAt: number;
  updatedAt: number;
}

export interface Intent {
  action?: string;
  categories: string[];
  data?: string;
  /** Full class name. */
  className?: string;
  appId?: string;
  extras: Record<string, string>;
}

const MAIN = 'android.intent.action.MAIN';
const LAUNCHER = 'android.intent.category.LAUNCHER';

export class PackageManager {
  readonly #ports: Ports;
  readonly #models: readonly PhoneApp[];
  #installed = new Map<string, InstalledApp>();
  #nextUid = 10123;

  constructor(ports: Ports, models: readonly PhoneApp[]) {
    this.#ports = ports;
    this.#models = models;
  }

  all = (): InstalledApp[] => [...this.#installed.values()];
  get = (appId: string): InstalledApp | undefined => this.#installed.get(appId);

  /** @returns the app, or the platform's word for what is wrong with the package */
  async install(apk: Uint8Array, options: { replace: boolean }): Promise<InstalledApp | string> {
    const digest = await sha256Hex(this.#ports, apk);
    const read: Result<OpenedPackage> = await readPackage('base.apk', bytesSource(apk), digest, this.#ports);
    if (!read.ok) return `INSTALL_PARSE_FAILED_NOT_APK: ${sayProblem(read.problem)}`;
    const opened = read.value;
    const broken = opened.app.signing.schemes.find(({ outcome }) => outcome === 'broken');
    if (!opened.android || broken || opened.app.signing.certificates.length === 0)
      return 'INSTALL_PARSE_FAILED_NO_CERTIFICATES: Failed to collect certificates from base.apk';
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
      model: this.#models.find((model) => model.appId === appId),
      resources: table && installResources(table, opened.zip),
      granted: before?.granted ?? new Set(),
      hosts: before?.hosts ?? verifiedHosts(opened),
      locales: before?.locales ?? [],
      storage: before?.storage ?? new Map(),
      firstInstallAt: before?.firstInstallAt ?? Date.now(),
      updatedAt: Date.now(),
    };
    this.#installed.set(appId, installed);
    return installed;
  }

  uninstall = (appId: string): boolean => this.#installed.delete(appId);

  launcherOf(appId: string): string | undefined {
    return componentsOf(this.get(appId)).find(({ filters }) =>
      filters.some(({ actions, categories }) => actions.includes(MAIN) && categories.includes(LAUNCHER)),
    )?.name;
  }

  /** The activity that an intent is for: named, or found by the filters of the installed packages. */
  resolve(intent: Intent): { app: InstalledApp; className: string } | 'not found' | 'not exported' {
    const apps = this.all().filter(({ appId }) => !intent.appId || appId === intent.appId);
    if (intent.className) {
      const app = apps[0];
      const component = componentsOf(app).find(({ name }) => name === intent.className);
      if (!app || !component) return 'not found';
      return component.exported === true ? { app, className: targetOf(component) } : 'not exported';
    }
    for (const app of apps)
      for (const component of componentsOf(app))
        if (component.exported === true && component.filters.some((filter) => accepts(filter, intent)))
          return { app, className: targetOf(component) };
    return 'not found';
  }
}

const signerOf = ({ app }: OpenedPackage): string | undefined => app.signing.certificates[0]?.sha256;

const targetOf = ({ name, targetActivity }: Component): string => targetActivity ?? name;

const componentsOf = (app: InstalledApp | undefined): Component[] =>
  (app?.opened.app.android?.manifest.components ?? []).filter(
    ({ enabled, type }) => enabled && (type === 'activity' || type === 'activity-alias'),
  );

/** The platform asks the site; no site can be asked here, so every host that wants it is taken for verified. */
function verifiedHosts({ app }: OpenedPackage): InstalledApp['hosts'] {
  const filters = app.android?.manifest.components.flatMap(({ filters }) => filters) ?? [];
  const hosts = filters.filter(({ autoVerify }) => autoVerify).flatMap(({ hosts }) => hosts);
  return new Map(hosts.map((host) => [host, 'verified' as const]));
}

/** Action, category and data tests of the platform's intent resolution, as far as the stand-in goes. */
function accepts(filter: IntentFilter, { action, categories, data }: Intent): boolean {
  if (action && !filter.actions.includes(action)) return false;
  if (!categories.every((category) => filter.categories.includes(category))) return false;
  if (data === undefined) return filter.schemes.length === 0;
  const url = URL.canParse(data) ? new URL(data) : undefined;
  if (!url || !filter.schemes.includes(url.protocol.slice(0, -1))) return false;
  if (filter.hosts.length > 0 && !filter.hosts.some((host) => sameHost(host, url.hostname))) return false;
  return filter.paths.length === 0 || filter.paths.some((path) => samePath(path, url.pathname));
}

const sameHost = (pattern: string, host: string): boolean =>
  pattern.startsWith('*') ? host.endsWith(pattern.slice(1)) : pattern === host;

function samePath(declared: string, path: string): boolean {
  const [kind, value = ''] = declared.split(/=(.*)/s);
  if (kind === 'path') return path === value;
  if (kind === 'pathPrefix') return path.startsWith(value);
  if (kind === 'pathSuffix') return path.endsWith(value);
  // a simple glob: a dot is any character, a star repeats the one before
  const glob = value.replace(/[\\^$+?()[\]{}|]/g, '\\$&');
  return new RegExp(`^(?:${glob})$`).test(path);
}
