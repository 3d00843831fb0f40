/**
 * Auto Backup (Android developers, *Back up user data with Auto Backup*). Devices up to Android 11 go by one set of
 * rules, later ones by another: what only one of them leaves out or takes along is leaked, or lost, on the others.
 */
import type { BackupPath, BackupSection } from '../../model/app-package.ts';
import type { BackupFact } from '../../model/fact.ts';
import type { Assertion, Check, Draft } from '../check.ts';

// The first level whose devices go by the data extraction rules.
const FIRST_SDK_OF_NEW_RULES = 31;

export const backupRules = {
  id: 'backup-rules',
  area: 'lifecycle',
  needs: ['package', 'backup'],
  *run(facts): Iterable<Assertion> {
    for (const fact of facts.of('backup')) yield* judgeBackup(fact);
  },
} satisfies Check;

function* judgeBackup(fact: BackupFact): Generator<Assertion> {
  const { cloudBackup, deviceTransfer, fullBackup } = fact.rules;
  if (!fact.allowBackup) {
    yield { outcome: 'cantTell', draft: draftOf(fact, 'off', 'estimated', {}) };
    return;
  }
  if (fact.hasAgent) {
    yield { outcome: 'inapplicable' };
    return;
  }
  if (!fullBackup && !cloudBackup && !deviceTransfer) {
    yield { outcome: 'cantTell', draft: draftOf(fact, 'no-rules', 'estimated', {}) };
    return;
  }
  const bothHold = (fact.minSdk ?? 1) < FIRST_SDK_OF_NEW_RULES && fullBackup && cloudBackup;
  const differences = bothHold ? [...compare(fullBackup, cloudBackup)] : [];
  if (differences.length === 0) yield { outcome: 'passed' };
  for (const { kind, path, since } of differences)
    yield {
      outcome: 'failed',
      draft: draftOf(fact, `${path.domain} ${path.path}`, 'measured', {
        kind,
        since,
        domain: path.domain,
        path: path.path,
      }),
    };
}

interface Difference {
  kind: 'leaks' | 'loses';
  /** On which devices: those of the new rules, or those before. */
  since: 'new' | 'old';
  path: BackupPath;
}

function* compare(old: BackupSection, now: BackupSection): Generator<Difference> {
  for (const path of old.excludes) if (!leavesOut(now, path)) yield { kind: 'leaks', since: 'new', path };
  for (const path of now.excludes) if (!leavesOut(old, path)) yield { kind: 'leaks', since: 'old', path };
  for (const path of old.includes) if (leavesOut(now, path)) yield { kind: 'loses', since: 'new', path };
  for (const path of now.includes) if (leavesOut(old, path)) yield { kind: 'loses', since: 'old', path };
}

/** Excluded by name, or not among what is included where that is said at all. */
function leavesOut({ excludes, includes }: BackupSection, path: BackupPath): boolean {
  const covers = (of: BackupPath) =>
    of.domain === path.domain &&
    (of.path === '.' || of.path === path.path || path.path.startsWith(`${of.path.replace(/\/$/, '')}/`));
  return excludes.some(covers) || (includes.length > 0 && !includes.some(covers));
}

const draftOf = (
  fact: BackupFact,
  subject: string,
  basis: Draft['basis'],
  data: Draft['occurrence']['data'],
): Draft => ({
  identity: { subject },
  basis,
  severity: basis === 'measured' ? (data.kind === 'leaks' ? 3 : 2) : 1,
  digest: `${subject} ${data.kind ?? ''} ${data.since ?? ''}`,
  occurrence: { evidence: fact.evidence, shown: subject, data: { subject, ...data } },
});
