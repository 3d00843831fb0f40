/** Stores and devices take an update only with a higher build number (Android developers, *Version your app*; Apple, *CFBundleVersion*). */
import type { PackageFact } from '../../model/fact.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';

export const versionNotRaised = {
  id: 'version-not-raised',
  area: 'candidate',
  needs: ['package'],
  *run(facts, intent) {
    for (const fact of facts.of('package')) yield judgeVersion(fact, intent.app.shipped);
  },
} satisfies Check;

function judgeVersion({ build, evidence }: PackageFact, shipped: Intent['app']['shipped']): Assertion {
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
