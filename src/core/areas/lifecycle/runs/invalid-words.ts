import type { DrillRunFact } from '../../../model/fact.ts';
import type { Invalid } from './proofs.ts';

// Steps of a drill itself, and not of the way to its screen.
const OWN_WORDS = ['dump', 'permission'];

/** Why a run proves nothing, and how to do it right. */
export function formatInvalid(why: Invalid, run: DrillRunFact): string {
  switch (why) {
    case 'unreached':
      if (run.stopped && OWN_WORDS.includes(run.stopped.step)) return `Invalid: ${run.stopped.why}`;
      return `Invalid: the screen was not reached (${run.stopped?.step}: ${run.stopped?.why}). Correct its \`reach\` steps in fenlok.yaml.`;
    case 'unseen':
      return 'Invalid: no dump could be had afterwards. Switch animations off on the device, and run it again.';
    case 'not-left':
      return 'Invalid: the app was never stopped, so nothing was put to the test. Is another window over it, or did the Home key do nothing?';
    case 'not-suspended':
      return 'Invalid: the system did not suspend the app in time after it was left, so its end would not be that of an app in the background. Does it go on with work there?';
    case 'not-ended':
      return 'Invalid: the app was still there after it was ended, so nothing was put to the test. Run it again.';
    case 'same-process':
      return 'Invalid: the process was not killed: it is the same afterwards. The kill spares an app in front, one not yet stopped and one with a foreground service, and does nothing under a wrong package name.';
    case 'other-process':
      return 'Invalid: the process ended by itself meanwhile, so that this shows what process death does. Free memory on the device, or exempt the app from its battery saver, and run it again.';
    case 'forced-stop':
      return 'Invalid: the app was stopped by force, which throws its saved state away. Use the kill of the background instead.';
    case 'not-destroyed':
      return 'Invalid: the activity was not destroyed. This device reads the setting only at start: flip the switch for it by hand in its developer options, and run it again.';
    case 'not-turned':
      return 'Invalid: the screen did not change its shape. Is it locked to one orientation by the device?';
    case 'not-covered':
      return 'Invalid: nothing came over the screen. Does this device let its shade be opened by a command?';
    case 'not-switched-back':
      return run.drill === 'recents'
        ? 'Invalid: the recent apps did not bring the app back. Those of some makers do not switch when their key is pressed twice, and an app may be kept out of them: try it by hand.'
        : 'Invalid: going back from the other app did not lead to this one. Where it goes is the phone’s own: try it by hand.';
    case 'setting-not-taken': {
      const { reads, setting, wanted } = run.borrowed.find((one) => one.reads !== one.wanted) ?? {};
      return `Invalid: the device did not take the setting${setting ? `: ${setting} was to be ${wanted}, and reads ${reads}` : ''}.`;
    }
    case 'command-failed': {
      const failed = run.commands.find(({ code }) => code !== 0);
      return `Invalid: the device refused "${failed?.line}" (exit code ${failed?.code})${failed?.said ? `: ${failed.said}` : '.'}`;
    }
    default:
      return why satisfies never;
  }
}
