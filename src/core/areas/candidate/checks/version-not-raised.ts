/** Stores and devices take an update only with a higher build number (Android developers, *Version your app*; Apple, *CFBundleVersion*). */

import { z } from 'zod';
import type { PackageFact } from '../../../model/fact.ts';
import type { Intent } from '../../../model/intent.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  version: z.string(),
  build: z.string(),
  shippedVersion: z.string(),
  shippedBuild: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const versionNotRaised = defineCheck({
  id: 'version-not-raised',
  area: 'candidate',
  priority: 'cannot-ship',
  standard: 'Android developers, Version your app; Apple, CFBundleVersion',
  basis: 'either',
  needs: 'package',
  data: dataSchema,
  words: ({ build, shippedBuild, shippedVersion, version }) =>
    shippedBuild
      ? {
          what: 'The version is not higher than that of the shipped build',
          measured: `${version} (${build})`,
          required: `above ${shippedVersion} (${shippedBuild}), as fenlok.yaml names the shipped build`,
          why: 'Stores refuse it, and devices do not install it over what they have.',
          remedy: `Raise the build number above ${shippedBuild}${shippedVersion === version ? '' : `, and keep the version at ${shippedVersion} or above`}.`,
        }
      : {
          what: 'Whether the version was raised cannot be told',
          measured: `${version} (${build})`,
          required: 'above the build that users have now',
          why: 'The intent file does not say which build was shipped before.',
          remedy: 'Write it under app.shipped in fenlok.yaml: version and build.',
        },

  *run(facts, intent) {
    for (const fact of facts.of('package')) yield judgeVersion(fact, intent.app.shipped);
  },

  doc: {
    looksAt: 'Version and build number',
    against: '`app.shipped` of the intent file: above it. Estimated where the file does not say it',
    matters: 'Stores refuse it, and devices do not install it over what they have.',
    measured: 'Version and build number of the package against app.shipped of the intent file.',
    errs: 'Where the intent file does not say what was shipped, it is estimated.',
    fixes: [
      {
        where: 'fenlok.yaml',
        language: 'yaml',
        code: 'app: { id: example.kelpline, shipped: { version: 2.3.0, build: "41" } }',
      },
      { where: 'build.gradle.kts', language: 'kotlin', code: 'defaultConfig { versionCode = 42 }' },
    ],
  },
});

function judgeVersion({ build, evidence }: PackageFact, shipped: Intent['app']['shipped']): Assertion<Data> {
  const data = {
    version: build.version,
    build: build.build,
    shippedVersion: shipped?.version ?? '',
    shippedBuild: shipped?.build ?? '',
  };
  const draft = {
    identity: { subject: build.appId },
    digest: `${data.version} (${data.build}) after ${data.shippedVersion} (${data.shippedBuild})`,
    occurrence: { evidence, shown: '', data },
  };
  if (!shipped) return { outcome: 'cantTell', draft: { ...draft, basis: 'estimated', severity: 1 } };
  const raised =
    compareVersions(build.build, shipped.build) > 0 && compareVersions(build.version, shipped.version) >= 0;
  return raised
    ? { outcome: 'passed' }
    : { outcome: 'failed', draft: { ...draft, basis: 'measured', severity: 2 } };
}

/** Number by number: 2.10 is higher than 2.9. What follows a dash is not compared. */
function compareVersions(a: string, b: string): number {
  const [left, right] = [a, b].map((text) =>
    text
      .split('-')[0]!
      .split('.')
      .map((part) => Number.parseInt(part, 10) || 0),
  ) as [number[], number[]];
  for (let i = 0; i < Math.max(left.length, right.length); i++) {
    const difference = (left[i] ?? 0) - (right[i] ?? 0);
    if (difference !== 0) return difference;
  }
  return 0;
}
