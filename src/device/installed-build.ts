/** Which build of the app is on a device: read from its package, since a version number alone names no build. */
import { type BuildKey, formatBuild, sameBuild } from '../core/model/candidate.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { Device, DeviceApp } from './device.ts';

/**
 * The app as it is installed, which must be the candidate: what is seen on another build proves nothing about this one.
 *
 * @throws UnreadableError where it is not installed, or another build is
 */
export async function findCandidate(
  device: Device,
  candidate: BuildKey,
): Promise<{ app: DeviceApp; build: BuildKey; isBuildTold: boolean }> {
  const app = await device.findApp(candidate.appId);
  if (!app)
    throw new UnreadableError({
      code: 'device.not-installed',
      file: device.serial,
      found: `${candidate.appId} is not installed, or has no entry in the launcher`,
      remedy: 'Install the candidate: run again with --install, or  adb install -r app-release.apk',
    });
  const build = await device.buildOf(candidate.appId);
  // where its package cannot be read, the app's own word counts, if it gives one
  const isSilent = build.code === '' && build.version === '' && build.build === '';
  const isSame =
    build.code === ''
      ? sameBuild({ ...build, code: candidate.code }, candidate)
      : sameBuild(build, candidate);
  if (!isSilent && !isSame)
    throw new UnreadableError({
      code: 'device.other-build',
      file: device.serial,
      found: `another build is installed: ${formatBuild(build)}`,
      expected: `the candidate: ${formatBuild(candidate)}`,
      remedy: 'Install the candidate: run again with --install. What is seen on another build is stale.',
    });
  return { app, build: candidate, isBuildTold: !isSilent };
}
