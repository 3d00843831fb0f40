import type { PhoneOs } from '../../os/phone-os.ts';
import { type Call, lines, readAll, type ShellCommand, splitOptions } from '../shell-command.ts';
import { shortComponent } from './am.ts';

const APK_LIMIT_BYTES = 2 ** 30;

/** `pm`, which is `cmd package` under another name. */
export const pm: ShellCommand = async (call) => {
  const [verb, ...args] = call.args;
  const { err, os, out } = call;
  const { options, rest } = splitOptions(args, ['--user', '-i', '-S', '-a', '-c', '-d', '--components']);
  const app = rest[0] ? os.packages.get(rest[0]) : undefined;
  const unknown = () => {
    err(`Unable to find package: ${rest[0] ?? ''}\n`);
    return 1;
  };
  switch (verb) {
    case 'list':
      if (rest[0] !== 'packages') return usage(err, `unknown list type '${rest[0] ?? ''}'`);
      out(
        lines(
          ...listPackages(
            os,
            options.has('-f'),
            args.includes('-3'),
            rest.find((word, i) => i > 0 && word !== '-3') ?? '',
          ),
        ),
      );
      return 0;
    case 'path':
      if (!app) return 1;
      out(`package:${app.apkPath}\n`);
      return 0;
    case 'clear':
      if (!app) {
        out('Failed\n');
        return 1;
      }
      os.clearApp(app.appId);
      out('Success\n');
      return 0;
    case 'grant':
    case 'revoke':
      return changePermission(call, verb, rest);
    case 'get-app-links':
      if (os.shape.sdk < 31) return usage(err, 'Unknown command: get-app-links');
      if (!app) return unknown();
      out(
        lines(
          `  ${app.appId}:`,
          '    ID: 0b7e52c4-2f4b-4d0c-8a35-5d2f0a6c9d11',
          `    Signatures: [${app.opened.app.signing.certificates[0]!.sha256.toUpperCase().replace(/(..)(?=.)/g, '$1:')}]`,
          '    Domain verification state:',
          ...[...app.hosts].map(([host, state]) => `      ${host}: ${state}`),
        ),
      );
      return 0;
    case 'install':
      return install(call, options, rest);
    case 'uninstall': {
      if (!app) {
        out('Failure [DELETE_FAILED_INTERNAL_ERROR]\n');
        return 1;
      }
      os.uninstall(app.appId);
      out('Success\n');
      return 0;
    }
    case 'resolve-activity': {
      const launcher = app && os.packages.launcherOf(app.appId);
      out(launcher ? lines('priority=0', shortComponent(app.appId, launcher)) : 'No activity found\n');
      return 0;
    }
    default:
      return usage(err, `Unknown command: ${verb ?? ''}`);
  }
};

function usage(err: Call['err'], why: string): number {
  err(`Error: ${why}\n`);
  return 255;
}

const SYSTEM_PACKAGES = ['android', 'com.android.launcher', 'com.android.settings', 'com.android.systemui'];

function listPackages(os: PhoneOs, withPath: boolean, onlyThird: boolean, filter: string): string[] {
  const system = onlyThird
    ? []
    : SYSTEM_PACKAGES.map((appId) => ({ appId, apkPath: `/system/${appId}.apk` }));
  return [...system, ...os.packages.all()]
    .filter(({ appId }) => appId.includes(filter))
    .map(({ apkPath, appId }) => `package:${withPath ? `${apkPath}=` : ''}${appId}`);
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
  else if (app.granted.delete(permission)) os.activities.forceStop(appId);
  return 0;
}

/** From a file on the phone, or with `-S BYTES` from what is sent. */
async function install(call: Call, options: Map<string, string[]>, [path]: string[]): Promise<number> {
  const { err, input, os, out } = call;
  const sizeBytes = Number(options.get('-S')?.[0]);
  let apk: Uint8Array | undefined;
  if (path) apk = os.files.get(path)?.bytes;
  else if (sizeBytes > 0 && sizeBytes <= APK_LIMIT_BYTES) apk = await readExactly(input, sizeBytes);
  if (!apk) {
    err(
      path ? `Error: failed to open ${path}\n` : 'Error: must either specify a package size or an APK file\n',
    );
    return 1;
  }
  const installed = await os.packages.install(apk, { replace: !options.has('-R') });
  if (typeof installed === 'string') {
    out(`Failure [${installed}]\n`);
    return 1;
  }
  os.activities.forceStop(installed.appId);
  out('Success\n');
  return 0;
}

async function readExactly(input: AsyncIterable<Uint8Array>, sizeBytes: number): Promise<Uint8Array> {
  let got = 0;
  async function* untilThere() {
    for await (const piece of input) {
      got += piece.length;
      yield piece;
      if (got >= sizeBytes) return;
    }
  }
  return readAll(untilThere(), sizeBytes);
}
