import { type AreaWords, type DataValue, isFilled, lastPart, quote, textsOf } from '../words.ts';

const DEVICES: Record<string, string> = {
  new: 'Android 12 and later',
  old: 'Android 11 and earlier',
};

export const lifecycleWords: AreaWords = {
  'lost-state': ({ after, before, drill, key, what }) => {
    const loss = LOSSES[String(what)]!;
    return {
      what: `${loss.what(String(key), String(before))} after ${sayDrill(drill)}`,
      measured:
        what === 'scroll' ? `${after} than before` : `before: ${say(before)}; afterwards: ${say(after)}`,
      required: 'the same as before',
      why: loss.why,
      remedy: REMEDIES[String(drill)] ?? SAVE,
    };
  },

  'launch-mode': ({ activity, mode }) => ({
    what: 'Coming back through the icon closes every screen above the first',
    measured: `android:launchMode="${mode}" on ${lastPart(String(activity))}, which the launcher starts`,
    required: 'the standard mode, or singleTop',
    why:
      mode === 'singleTask'
        ? 'The system ends what lies above it when it is started again, so who left in the middle of something starts over.'
        : 'Other screens open in a task of their own, which the icon does not lead back to.',
    remedy: 'Take the launch mode away, and use FLAG_ACTIVITY_CLEAR_TOP where a call needs it.',
  }),

  'lost-screen': ({ activity, at, drill }, { occurrences }) => {
    const { screen } = occurrences[0]!.cell!;
    return {
      what: `The screen does not come back after ${sayDrill(drill)}: ${WHERE[String(at)]}`,
      measured: `in front afterwards: ${activity || 'nothing of the app'}`,
      required: `${screen}, as it was left`,
      why: 'Who was in the middle of something begins again, and what was done there is lost.',
      remedy: REMEDIES[String(drill)] ?? SAVE,
    };
  },

  'way-back': ({ chain, drill, fault, plain }) => {
    const ways: Record<string, string> = {
      trap: 'Back never leads out of the app',
      out: 'Back leads out of the app from deep inside',
      'other-parent': 'Back leads to another screen than the parent',
      changed: `The way back is another one after ${sayDrill(drill)}`,
    };
    return {
      what: ways[String(fault)]!,
      measured: `back, and back again: ${textsOf(chain).join(' > ')}`,
      required: isFilled(plain) ? textsOf(plain).join(' > ') : 'first its parent, at last out of the app',
      why: 'People rely on back without looking; where it leads elsewhere they lose their place.',
      remedy:
        fault === 'changed'
          ? 'Let the system restore the back stack: do not start activities anew, or clear the task, when an activity is restored.'
          : 'Keep the parent on the back stack, and do not swallow back without a way out.',
    };
  },

  'running-service': ({ service }, { occurrences }) => ({
    what: `${lastPart(String(service))} runs on after the app was left`,
    measured: `seen running after going home from ${[...new Set(occurrences.map(({ cell }) => cell!.screen))].join(', ')}`,
    required: 'nothing, unless the user would miss it',
    why: 'It costs battery and data while nobody looks, and the system may end the app for it. Whether it is needed cannot be seen from here.',
    remedy:
      'Stop it when the screen is left; or name it under drills.services in fenlok.yaml, or rule that it is needed.',
  }),

  'setting-left': ({ deviceId, now, setting, was }) => ({
    what: `The setting ${setting} of ${deviceId} was not put back`,
    measured: String(now),
    required: `${was}, as it was before`,
    why: 'A phone that is left in test settings surprises whoever uses it next, and spoils what is measured on it.',
    remedy: 'Run  fenlok drill --put-back  with the device attached.',
  }),

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

const say = (value: DataValue): string =>
  value === '' || value === undefined ? 'nothing' : quote(String(value));

/** What the drill does, after "after". */
const DRILLS: Record<string, string> = {
  'home-and-return': 'going home and returning',
  recents: 'a switch over the recent apps',
  covered: 'the notification shade',
  'screen-off': 'switching the screen off and on',
  rotate: 'rotating',
  resize: 'resizing',
  discard: 'the activity was discarded',
  'process-death': 'process death',
  'network-lost': 'losing the network',
  'low-battery': 'a low battery',
  'location-off': 'location was off',
};
const sayDrill = (drill: DataValue): string => DRILLS[String(drill)] ?? String(drill);

const WHERE: Record<string, string> = {
  first: 'the app begins again at its first screen',
  elsewhere: 'another screen is there',
  outside: 'the app is gone',
};

const LOSSES: Record<string, { what: (key: string, before: string) => string; why: string }> = {
  typed: {
    what: (key, before) => `${quote(before)} in ${key} is lost`,
    why: 'The user typed it, and has to type it again.',
  },
  text: {
    what: (key) => `${key} shows another text`,
    why: 'What the screen showed rests on state that was not kept.',
  },
  checked: {
    what: (key) => `${key} is no longer as it was set`,
    why: 'The user set it, and is not told that it changed.',
  },
  selected: {
    what: (key) => `The choice of ${key} is lost`,
    why: 'The user chose it, and is not told that it changed.',
  },
  focused: {
    what: (key) => `The focus on ${key} is lost`,
    why: 'Who was typing, or walks by keys or switches, begins again at the top.',
  },
  scroll: {
    what: (key) => `${key} is no longer scrolled to where it was`,
    why: 'The user has to find the place again.',
  },
  content: { what: (key) => `${key} shows other content`, why: 'The user has to find the place again.' },
  gone: {
    what: (key, before) => `${before ? `${quote(before)} (${key})` : key} is gone`,
    why: 'What was open or shown is not there any more: a dialog, a message, a part of the screen.',
  },
};

const SAVE =
  'Keep it in the saved instance state (onSaveInstanceState, SavedStateHandle, rememberSaveable), and read it from there.';
const REMEDIES: Record<string, string> = {
  rotate: 'Keep it over a change of configuration: in a view model, or in the saved instance state.',
  resize: 'Keep it over a change of configuration: in a view model, or in the saved instance state.',
  discard: SAVE,
  'process-death': `${SAVE} A view model does not outlive the process.`,
};
