import type { DataValue } from '../words.ts';

/** What the drill does, after "after". */
export const DRILLS: Record<string, string> = {
  'home-and-return': 'going home and returning',
  recents: 'a switch over the recent apps',
  covered: 'the notification shade',
  'screen-off': 'switching the screen off and on',
  rotate: 'rotating',
  resize: 'resizing',
  discard: 'the activity was discarded',
  'process-death': 'process death',
  'permission-revoked': 'a permission was taken back',
  interrupted: 'another app lay on top',
  'network-lost': 'losing the network',
  'low-battery': 'a low battery',
  'location-off': 'location was off',
};

export const formatDrill = (drill: DataValue): string => DRILLS[String(drill)] ?? String(drill);

export const SAVE =
  'Keep it in what the system saves of a screen, and read it from there (Android: onSaveInstanceState, SavedStateHandle, rememberSaveable; iOS: stateRestorationActivity, @SceneStorage).';

export const REMEDIES: Record<string, string> = {
  rotate: 'Keep it while the screen turns: on Android in a view model, or in the saved instance state.',
  resize: 'Keep it over a change of configuration: in a view model, or in the saved instance state.',
  discard: SAVE,
  'process-death': `${SAVE} A view model does not outlive the process.`,
};
