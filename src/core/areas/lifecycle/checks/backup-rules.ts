/**
 * Auto Backup (Android developers, *Back up user data with Auto Backup*). Devices up to Android 11 go by one set of
 * rules, later ones by another: what only one of them leaves out or takes along is leaked, or lost, on the others.
 */

import { z } from 'zod';
import type { BackupPath, BackupSection } from '../../../model/app-package.ts';
import type { BackupFact } from '../../../model/fact.ts';
import type { Words } from '../../../model/finding.ts';
import type { Assertion, Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

// The first level whose devices go by the data extraction rules.
const FIRST_SDK_OF_NEW_RULES = 31;

const differenceSchema = z.strictObject({
  flaw: z.enum(['leaks', 'loses']),
  /** On which devices: those of the new rules, or those before. */
  since: z.enum(['new', 'old']),
  domain: z.string(),
  path: z.string(),
});
const dataSchema = z.union([z.strictObject({ flaw: z.enum(['off', 'no-rules']) }), differenceSchema]);
type Data = z.infer<typeof dataSchema>;

export const backupRules = defineCheck({
  id: 'backup-rules',
  area: 'lifecycle',
  priority: 'wrong',
  standard: 'Android developers, Back up user data with Auto Backup',
  basis: 'either',
  needs: 'package',
  reads: ['backup'],
  data: dataSchema,
  words: (data) => {
    if ('since' in data) return differenceWords(data);
    if (data.flaw === 'off')
      return {
        what: 'Nothing of the app is backed up',
        measured: 'android:allowBackup="false"',
        required: 'state that comes back on a new device, unless nobody would miss it',
        why: 'Who changes the phone begins from nothing, signed out and with empty settings.',
        remedy: 'Allow backup with rules that leave secrets out, or rule that this is meant.',
      };
    return {
      what: 'Everything is backed up: no rules say what is left out',
      measured: 'neither android:dataExtractionRules nor android:fullBackupContent',
      required: 'rules that leave out sign-in tokens and what belongs to one device',
      why: 'Tokens that are restored on another device sign it in as this user, or no longer work there.',
      remedy: 'Write data extraction rules (and full backup content for Android 11 and earlier).',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const fact of facts.of('backup')) yield* judgeBackup(fact);
  },

  doc: {
    looksAt: 'Full backup content and data extraction rules',
    against:
      'Each other: what one set leaves out or takes along, the other does too. Estimated where nothing is said, or nothing is backed up',
    matters: 'What is left out for one version of the system and not for another is leaked there, or lost.',
    measured: 'The paths of both sets of rules, as each version of the system reads them.',
    errs: "Where nothing is said, or nothing is backed up, it may be meant, so that it is estimated. A backup agent of the app's own is not looked into.",
    fixes: [
      {
        where: 'res/xml/data_extraction_rules.xml',
        language: 'xml',
        code: `<data-extraction-rules>
  <cloud-backup><exclude domain="sharedpref" path="session.xml" /></cloud-backup>
  <device-transfer><exclude domain="sharedpref" path="session.xml" /></device-transfer>
</data-extraction-rules>`,
      },
    ],
  },
});

function* judgeBackup(fact: BackupFact): Generator<Assertion<Data>> {
  const { cloudBackup, deviceTransfer, fullBackup } = fact.rules;
  if (!fact.allowBackup) {
    yield { outcome: 'cantTell', draft: draftOf(fact, 'off', 'estimated', { flaw: 'off' }) };
    return;
  }
  if (fact.hasAgent) {
    yield { outcome: 'inapplicable' };
    return;
  }
  if (!fullBackup && !cloudBackup && !deviceTransfer) {
    yield { outcome: 'cantTell', draft: draftOf(fact, 'no-rules', 'estimated', { flaw: 'no-rules' }) };
    return;
  }
  const bothHold = (fact.minSdk ?? 1) < FIRST_SDK_OF_NEW_RULES && fullBackup && cloudBackup;
  const differences = bothHold ? [...compare(fullBackup, cloudBackup)] : [];
  if (differences.length === 0) yield { outcome: 'passed' };
  for (const { kind, path, since } of differences)
    yield {
      outcome: 'failed',
      draft: draftOf(fact, `${path.domain} ${path.path}`, 'measured', {
        flaw: kind,
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
  { evidence }: BackupFact,
  subject: string,
  basis: Draft<Data>['basis'],
  data: Data,
): Draft<Data> => ({
  identity: { subject },
  basis,
  severity: basis === 'measured' ? (data.flaw === 'leaks' ? 3 : 2) : 1,
  digest: 'since' in data ? `${subject} ${data.flaw} ${data.since}` : `${subject}  `,
  occurrence: { evidence, shown: subject, data },
});

function differenceWords({ domain, flaw, path, since }: z.infer<typeof differenceSchema>): Words {
  const attribute = since === 'new' ? 'android:dataExtractionRules' : 'android:fullBackupContent';
  const devices = DEVICES[since];
  const others = DEVICES[since === 'new' ? 'old' : 'new'];
  return flaw === 'leaks'
    ? {
        what: `${quote(path)} (${domain}) is backed up on ${devices}, though it is left out on the others`,
        measured: `excluded on ${others} only`,
        required: 'the same exclusions in both sets of rules',
        why: `${devices} go by ${attribute}, which does not leave it out: what was to stay on the device is sent along.`,
        remedy: `Add <exclude domain="${domain}" path="${path}" /> to the file that ${attribute} names.`,
      }
    : {
        what: `${quote(path)} (${domain}) is lost on ${devices}, though it is backed up on the others`,
        measured: `included on ${others} only`,
        required: 'the same inclusions in both sets of rules',
        why: `${devices} go by ${attribute}, which leaves it out: it does not come back on a new device.`,
        remedy: `Add <include domain="${domain}" path="${path}" /> to the file that ${attribute} names.`,
      };
}

const DEVICES: Record<'new' | 'old', string> = {
  new: 'Android 12 and later',
  old: 'Android 11 and earlier',
};
