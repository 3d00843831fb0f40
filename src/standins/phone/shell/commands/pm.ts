import type { InstalledApp } from '../../os/package-manager.ts';
import type { PhoneOs } from '../../os/phone-os.ts';
import { type Call, lines, type ShellCommand, splitOptions } from '../shell-command.ts';
import { shortComponent } from './am.ts';
import { install, installSession } from './install.ts';

const SESSION_VERBS = ['install-create', 'install-write', 'install-commit', 'install-abandon'];
/** What the shell of a user's build may not do. */
const REFUSED: Readonly<Record<string, string>> = {
  hide: 'android.permission.MANAGE_USERS',
  unhide: 'android.permission.MANAGE_USERS',
  'set-installer': 'android.permission.INSTALL_PACKAGES',
  'create-user': 'android.permission.MANAGE_USERS',
};

/** `pm`, which is `cmd package` under another name. */
export const pm: ShellCommand = async (call) => {
  const [verb = '', ...args] = call.args;
  const { err, os, out } = call;
  if (verb === 'install') return install({ ...call, args });
  if (SESSION_VERBS.includes(verb)) return installSession({ ...call, args }, verb);
  const { options, rest } = splitOptions(args, ['--user', '-i', '-S', '-a', '-c', '-d', '--components']);
  const app = rest[0] ? os.packages.get(rest[0]) : undefined;
  const refused = REFUSED[verb];
  if (refused) return denied(err, verb, `Neither user 2000 nor current process has ${refused}.`);
  if (verb === 'list') return list(call, args, rest);
  if (verb === 'resolve-activity' || verb === 'query-activities') return resolve(call, args, rest);
  if (verb === 'grant' || verb === 'revoke') return changePermission(call, verb, rest);
  if (WITHOUT_APP[verb]) return WITHOUT_APP[verb](call, rest);
  const run = WITH_APP[verb];
  if (!run) return usage(err, `Unknown command: ${verb}`);
  if (app) return run(call, app, options, rest);
  if (verb === 'path') return 1;
  if (verb === 'clear') out('Failed\n');
  else if (verb === 'uninstall') out('Failure [DELETE_FAILED_INTERNAL_ERROR]\n');
  else err(`Unable to find package: ${rest[0] ?? ''}\n`);
  return 1;
};

const WITHOUT_APP: Readonly<Record<string, (call: Call, rest: readonly string[]) => number>> = {
  'get-install-location': ({ out }) => said(out, '0[auto]'),
  'get-max-users': ({ out }) => said(out, 'Maximum supported users: 4'),
  'has-feature': ({ out }, [name = '']) => {
    const has = FEATURES.includes(name);
    out(`${has}\n`);
    return Number(!has);
  },
  'trim-caches': () => 0,
  'reset-permissions': ({ os }) => {
    for (const { granted } of os.packages.all()) granted.clear();
    return 0;
  },
};

type WithApp = (
  call: Call,
  app: InstalledApp,
  options: ReadonlyMap<string, string[]>,
  rest: readonly string[],
) => number | Promise<number>;

const WITH_APP: Readonly<Record<string, WithApp>> = {
  path: ({ out }, { apkPath, splits }) =>
    said(
      out,
      `package:${apkPath}`,
      ...splits.map((name) => `package:${apkPath.replace('base.apk', `split_${name}.apk`)}`),
    ),
  clear: ({ os, out }, { appId }) => {
    os.clearApp(appId);
    return said(out, 'Success');
  },
  'get-app-links': ({ err, os, out }, { appId, hosts, opened }) => {
    if (os.shape.sdk < 31) return usage(err, 'Unknown command: get-app-links');
    return said(
      out,
      `  ${appId}:`,
      '    ID: 0b7e52c4-2f4b-4d0c-8a35-5d2f0a6c9d11',
      `    Signatures: [${opened.app.signing.certificates[0]!.sha256.toUpperCase().replace(/(..)(?=.)/g, '$1:')}]`,
      '    Domain verification state:',
      ...[...hosts].map(([host, state]) => `      ${host}: ${state}`),
    );
  },
  'verify-app-links': () => 0,
  uninstall: ({ os, out }, { appId }, options) => {
    if (options.has('-k')) os.activities.forceStop(appId);
    os.uninstall(appId);
    return said(out, 'Success');
  },
  dump: ({ run }, { appId }) => run(['dumpsys', 'package', appId]),
  enable: (call, app) => setEnabled(call, app, true, 'enabled'),
  'disable-user': (call, app) => setEnabled(call, app, false, 'disabled-user'),
  disable: ({ err }, { appId }) =>
    denied(err, 'disable', `Shell cannot change component state for ${appId} to 2`),
  suspend: ({ out }, { appId }) => said(out, `Package ${appId} new suspended state: true`),
  unsuspend: ({ out }, { appId }) => said(out, `Package ${appId} new suspended state: false`),
  compile: ({ out }) => said(out, 'Success'),
  'install-existing': ({ out }, { appId }) => said(out, `Package ${appId} installed for user: 0`),
};

function said(out: Call['out'], ...all: string[]): number {
  out(lines(...all));
  return 0;
}

function denied(err: Call['err'], verb: string, why: string): number {
  err(lines('', `Exception occurred while executing '${verb}':`, `java.lang.SecurityException: ${why}`));
  return 255;
}

function setEnabled({ os, out }: Call, app: InstalledApp, isEnabled: boolean, state: string): number {
  app.isEnabled = isEnabled;
  if (!isEnabled) os.activities.forceStop(app.appId);
  return said(out, `Package ${app.appId} new state: ${state}`);
}

const FEATURES = [
  'android.hardware.touchscreen',
  'android.hardware.wifi',
  'android.hardware.camera',
  'android.software.webview',
];

function list(call: Call, args: readonly string[], [what = '', ...words]: readonly string[]): number {
  const { err, os, out } = call;
  switch (what) {
    case 'packages':
      out(lines(...listPackages(os, args, words.find((word) => !word.startsWith('-')) ?? '')));
      return 0;
    case 'features':
      return said(out, ...FEATURES.map((name) => `feature:${name}`));
    case 'users':
      return said(out, 'Users:', '\tUserInfo{0:Owner:c13} running');
    case 'libraries':
      return said(out, 'library:android.test.base', 'library:org.apache.http.legacy');
    case 'instrumentation':
      return 0;
    case 'permissions': {
      const declared = os.packages
        .all()
        .flatMap(({ opened }) => opened.app.android!.manifest.declaredPermissions);
      return said(out, 'All Permissions:', '', ...declared.map(({ name }) => `+ permission:${name}`));
    }
    case 'permission-groups':
      return said(
        out,
        'permission group:android.permission-group.NOTIFICATIONS',
        'permission group:android.permission-group.LOCATION',
      );
    default:
      return usage(err, `unknown list type '${what}'`);
  }
}

/** By component, or by what an intent would find. */
function resolve({ os, out }: Call, args: readonly string[], rest: readonly string[]): number {
  const { options } = splitOptions(args, ['--user', '-a', '-c', '-d', '-p']);
  const data = options.get('-d')?.[0];
  const action = options.get('-a')?.[0] ?? (data === undefined ? undefined : 'android.intent.action.VIEW');
  const named = os.packages.get(rest.at(-1) ?? '');
  let component: string | undefined;
  if (action === undefined || action === 'android.intent.action.MAIN') {
    const launcher = named && os.packages.launcherOf(named.appId);
    component = launcher && shortComponent(named.appId, launcher);
  } else {
    const intent = {
      action,
      categories: options.get('-c') ?? [],
      data,
      extras: {},
      appId: options.get('-p')?.[0],
    };
    const found = os.packages.resolve(intent, os.shape.sdk);
    component = typeof found === 'string' ? undefined : shortComponent(found.app.appId, found.className);
  }
  if (component === undefined) return said(out, 'No activity found');
  return args.includes('--brief')
    ? said(out, 'priority=0 preferredOrder=0 match=0x108000 specificIndex=-1 isDefault=false', component)
    : said(out, 'priority=0', component);
}

function usage(err: Call['err'], why: string): number {
  err(`Error: ${why}\n`);
  return 255;
}

const SYSTEM_PACKAGES = ['android', 'com.android.launcher', 'com.android.settings', 'com.android.systemui'];

function listPackages(os: PhoneOs, args: readonly string[], filter: string): string[] {
  const has = (letter: string) => args.includes(letter);
  const system = SYSTEM_PACKAGES.map((appId) => ({
    appId,
    apkPath: `/system/${appId}.apk`,
    isEnabled: true,
    uid: 1000,
    build: '34',
    channel: 'local',
  }));
  const own = os.packages.all().map((app) => ({ ...app, build: app.opened.app.build.build }));
  return [...(has('-3') ? [] : system), ...(has('-s') ? [] : own)]
    .filter(
      ({ appId, isEnabled }) =>
        appId.includes(filter) && !(has('-e') && !isEnabled) && !(has('-d') && isEnabled),
    )
    .map(({ apkPath, appId, build, channel, uid }) =>
      [
        `package:${has('-f') ? `${apkPath}=` : ''}${appId}`,
        // a store that installs it is named, and not which of its tracks
        has('-i') && ` installer=${channel === 'local' ? 'null' : 'com.android.vending'}`,
        has('--show-versioncode') && `versionCode:${build}`,
        has('-U') && `uid:${uid}`,
      ]
        .filter(Boolean)
        .join(' '),
    );
}

function changePermission(
  { err, os }: Call,
  verb: 'grant' | 'revoke',
  [appId = '', permission = '']: string[],
): number {
  const app = os.packages.get(appId);
  const asked = app?.opened.app.permissions.includes(permission);
  if (!app || !asked) {
    err(
      lines(
        `Exception occurred while executing '${verb}':`,
        app
          ? `java.lang.SecurityException: Package ${appId} has not requested permission ${permission}`
          : `java.lang.IllegalArgumentException: Unknown package: ${appId}`,
      ),
    );
    return 255;
  }
  if (verb === 'grant') app.granted.add(permission);
  // the platform ends an app whose permission is taken back
  else if (app.granted.delete(permission)) os.activities.endForPermission(appId);
  return 0;
}
