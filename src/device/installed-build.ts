/** Which build of the app is on a device: read from its package, since a version number alone names no build. */
import { readPackage } from '../core/formats/package.ts';
import { type BuildKey, formatBuild, sameBuild } from '../core/model/candidate.ts';
import { bytesSource, sha256Hex } from '../core/model/ports.ts';
import { UnreadableError, unwrap } from '../core/model/problem.ts';
import { nodePorts } from '../node/ports.ts';
import type { Device } from './bridge/device.ts';
import { type DeviceApp, findApp } from './phone/app.ts';

const APK_LIMIT_BYTES = 2 ** 30;

/**
 * The app as it is installed, which must be the candidate: what is seen on another build proves nothing about this one.
 *
 * @throws UnreadableError where it is not installed, or another build is
 */
export async function findCandidate(
  device: Device,
  candidate: BuildKey,
): Promise<{ app: DeviceApp; build: BuildKey }> {
  const app = await findApp(device, candidate.appId);
  if (!app)
    throw new UnreadableError({
      code: 'device.not-installed',
      file: device.serial,
      found: `${candidate.appId} is not installed, or has no entry in the launcher`,
      remedy: 'Install the candidate: run again with --install, or  adb install -r app-release.apk',
    });
  const build = await installedBuild(device, candidate.appId);
  if (!sameBuild(build, candidate))
    throw new UnreadableError({
      code: 'device.other-build',
      file: device.serial,
      found: `another build is installed: ${formatBuild(build)}`,
      expected: `the candidate: ${formatBuild(candidate)}`,
      remedy: 'Install the candidate: run again with --install. What is seen on another build is stale.',
    });
  return { app, build };
}

async function installedBuild(device: Device, appId: string): Promise<BuildKey> {
  const { out } = await device.run(`pm path ${appId}`);
  const paths = out.split(/\r?\n/).flatMap((line) => /^package:(.+)$/.exec(line.trim())?.[1] ?? []);
  // of a split app the first one holds the code
  const path = paths.find((one) => one.endsWith('/base.apk')) ?? paths[0];
  if (!path)
    throw new UnreadableError({ code: 'device.no-path', file: device.serial, found: `no path of ${appId}` });
  const apk = new Uint8Array(await device.pull(path, APK_LIMIT_BYTES));
  const digest = await sha256Hex(nodePorts, apk);
  return unwrap(await readPackage(`${device.serial}:${path}`, bytesSource(apk), digest, nodePorts)).app.build;
}
