import { type AreaWords, quote } from '../words.ts';

const DEVICES: Record<string, string> = {
  new: 'Android 12 and later',
  old: 'Android 11 and earlier',
};

export const lifecycleWords: AreaWords = {
  'backup-rules': ({ domain, kind, path, since, subject }) => {
    if (subject === 'off')
      return {
        what: 'Nothing of the app is backed up',
        measured: 'android:allowBackup="false"',
        required: 'state that comes back on a new device, unless nobody would miss it',
        why: 'Who changes the phone begins from nothing, signed out and with empty settings.',
        remedy: 'Allow backup with rules that leave secrets out, or rule that this is meant.',
      };
    if (subject === 'no-rules')
      return {
        what: 'Everything is backed up: no rules say what is left out',
        measured: 'neither android:dataExtractionRules nor android:fullBackupContent',
        required: 'rules that leave out sign-in tokens and what belongs to one device',
        why: 'Tokens that are restored on another device sign it in as this user, or no longer work there.',
        remedy: 'Write data extraction rules (and full backup content for Android 11 and earlier).',
      };
    const attribute = since === 'new' ? 'android:dataExtractionRules' : 'android:fullBackupContent';
    const devices = DEVICES[String(since)]!;
    const others = DEVICES[since === 'new' ? 'old' : 'new']!;
    return kind === 'leaks'
      ? {
          what: `${quote(String(path))} (${domain}) is backed up on ${devices}, though it is left out on the others`,
          measured: `excluded on ${others} only`,
          required: 'the same exclusions in both sets of rules',
          why: `${devices} go by ${attribute}, which does not leave it out: what was to stay on the device is sent along.`,
          remedy: `Add <exclude domain="${domain}" path="${path}" /> to the file that ${attribute} names.`,
        }
      : {
          what: `${quote(String(path))} (${domain}) is lost on ${devices}, though it is backed up on the others`,
          measured: `included on ${others} only`,
          required: 'the same inclusions in both sets of rules',
          why: `${devices} go by ${attribute}, which leaves it out: it does not come back on a new device.`,
          remedy: `Add <include domain="${domain}" path="${path}" /> to the file that ${attribute} names.`,
        };
  },
};
