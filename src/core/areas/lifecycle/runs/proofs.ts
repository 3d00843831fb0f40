/**
 * What shows that a drill did to the app what its name says. Without it the run is invalid, and proves nothing.
 * Android developers, *The activity lifecycle* and *Save UI states*; tags of the events log from the platform's
 * EventLogTags.logtags.
 */

import type { ScreenDrillId, StateDrillId } from '../../../model/drill.ts';
import type { DrillRunFact } from '../../../model/fact.ts';
import { SAME_SCREEN } from '../state/screen-state.ts';

/** Why a run proves nothing. Words stand in `words.ts`. */
export type Invalid =
  | 'unreached'
  | 'unseen'
  | 'not-left'
  | 'not-suspended'
  | 'not-ended'
  | 'same-process'
  | 'other-process'
  | 'forced-stop'
  | 'not-destroyed'
  | 'not-turned'
  | 'not-covered'
  | 'not-switched-back'
  | 'setting-not-taken'
  | 'command-failed';

type Proof = (run: DrillRunFact) => Invalid | undefined;

const told = (run: DrillRunFact, tag: string): boolean => (run.lifecycle[tag] ?? 0) > 0;

/** The activity in front was stopped; the process goes on. */
const left: Proof = (run) => {
  const isLeft = run.states ? AWAY.includes(run.states.left ?? '') : told(run, 'wm_on_stop_called');
  return isLeft ? undefined : 'not-left';
};
const AWAY = ['background', 'suspended', 'not-running'];
const turned: Proof = (run) => (run.wasTurned ? undefined : 'not-turned');
const covered: Proof = ({ similarityAway }) =>
  similarityAway !== undefined && similarityAway < SAME_SCREEN ? undefined : 'not-covered';
/** The way back is the phone's own: recent apps of a maker's work otherwise, and an app may be kept out of them. */
const switchedBack: Proof = ({ landed }) => (landed && !landed.inApp ? 'not-switched-back' : undefined);
/** What the drill set was so: read from the device, not taken from the command's word. */
const took: Proof = ({ borrowed }) =>
  borrowed.length > 0 && borrowed.every(({ reads, wanted }) => reads === wanted)
    ? undefined
    : 'setting-not-taken';

const sameProcess: Proof = ({ process: { after, before } }) =>
  before && after && (before.pid !== after.pid || before.startTicks !== after.startTicks)
    ? 'other-process'
    : undefined;

/** That the process was gone for a while is a sign; that another one is there afterwards is the proof. */
const killed: Proof = ({ ended, process: { after, before }, states }) => {
  if (states) {
    // iOS keeps the state of an app that was suspended; the process id is the app's own word, where it gives one
    if (states.left !== 'suspended') return 'not-suspended';
    if (states.gone !== 'not-running') return 'not-ended';
    return before && after && before.pid === after.pid && before.startTicks === after.startTicks
      ? 'same-process'
      : undefined;
  }
  if (!before || !after || (before.pid === after.pid && before.startTicks === after.startTicks))
    return 'same-process';
  // a forced stop throws the saved state away, so that coming back from it shows nothing
  return ended === 'stop' || ended?.startsWith('stop ') ? 'forced-stop' : undefined;
};
const destroyed: Proof = (run) =>
  told(run, 'wm_on_destroy_called') || told(run, 'wm_destroy_activity') ? undefined : 'not-destroyed';

export const proofs: Partial<Record<ScreenDrillId, readonly Proof[]>> &
  Record<StateDrillId, readonly Proof[]> = {
  'home-and-return': [left, sameProcess],
  recents: [left, switchedBack, sameProcess],
  covered: [covered, sameProcess],
  interrupted: [left, covered, switchedBack, sameProcess],
  'screen-off': [left, sameProcess],
  rotate: [turned, sameProcess],
  resize: [turned, sameProcess],
  discard: [left, destroyed, sameProcess],
  'process-death': [left, killed],
  'permission-revoked': [took, left, killed],
  'network-lost': [took, left, sameProcess],
  'low-battery': [took, sameProcess],
  'location-off': [took, left, sameProcess],
  offline: [took, left, killed],
};
