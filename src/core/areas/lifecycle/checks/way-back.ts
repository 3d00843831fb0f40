/**
 * Back leads from every screen to its parent and at last out of the app, also after the system took the app away and brought it
 * back (Android developers, *Principles of navigation*).
 */

import { z } from 'zod';
import type { BackStep, DrillRunFact } from '../../../model/fact.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { isFilled } from '../../words.ts';
import { classOfRun, lastRuns } from '../runs/class-of-run.ts';
import { SAME_SCREEN, similarity } from '../state/screen-state.ts';
import { formatDrill } from '../words.ts';

type Fault = 'trap' | 'out' | 'other-parent' | 'changed';

const dataSchema = z.strictObject({
  drill: z.string(),
  fault: z.enum(['out', 'trap', 'other-parent', 'changed']),
  chain: z.array(z.string()),
  plain: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const wayBack = defineCheck({
  id: 'way-back',
  area: 'lifecycle',
  priority: 'wrong',
  standard: 'Android developers, Principles of navigation',
  basis: 'measured',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ chain, drill, fault, plain }) => {
    const ways: Record<string, string> = {
      trap: 'Back never leads out of the app',
      out: 'Back leads out of the app from deep inside',
      'other-parent': 'Back leads to another screen than the parent',
      changed: `The way back is another one after ${formatDrill(drill)}`,
    };
    return {
      what: ways[fault]!,
      measured: `back, and back again: ${chain.join(' > ')}`,
      required: isFilled(plain) ? plain.join(' > ') : 'first its parent, at last out of the app',
      why: 'People rely on back without looking; where it leads elsewhere they lose their place.',
      remedy:
        fault === 'changed'
          ? 'Let the system restore the back stack: do not start activities again, or clear the task, when an activity is restored.'
          : 'Keep the parent on the back stack, and do not swallow back without a way out.',
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const runs = lastRuns(facts);
    const undisturbed = runs.filter(({ backChain, drill }) => drill === 'back' && backChain);
    for (const run of runs) {
      const { cell, deviceId, drill } = run;
      const backChain = chainBeyond(run);
      // where the screen itself was lost, or the app crashed, that is the finding
      const isThere = ['restored', 'partly-restored'].includes(classOfRun(run).kind);
      if (!backChain || !isThere) continue;
      const counterpart = undisturbed.find(
        (one) => one.deviceId === deviceId && one.cell.screen === cell.screen,
      );
      const plain = counterpart && chainBeyond(counterpart);
      const isChanged = plain && !sameChain(plain, backChain);
      const fault = drill === 'back' ? faultOf(run, backChain, intent) : isChanged ? 'changed' : undefined;
      yield fault
        ? { outcome: 'failed', cell, draft: draftOf(run, backChain, fault, plain) }
        : { outcome: 'passed', cell };
    }
  },

  doc: {
    looksAt: 'The screens that back leads to, until the app is left',
    against:
      '`parent` of the intent file; after process death and discarding, the way back of an undisturbed run',
    matters: 'People rely on back without looking. Where it leads elsewhere they lose their place.',
    measured:
      'The screens that back leads to, until the app is left; after process death against an undisturbed run. On iOS by a swipe from the edge, until nothing is behind; there only the second counts.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'onBackPressedDispatcher.addCallback(this) { if (!closePanel()) { isEnabled = false; onBackPressedDispatcher.onBackPressed() } }',
      },
    ],
  },
});

/** Closing a dialog, or leaving a field, is no step of the way yet. */
function chainBeyond({ backChain, landed }: DrillRunFact): BackStep[] | undefined {
  const from = backChain?.findIndex(({ activity }) => activity !== landed?.activity) ?? -1;
  return from < 0 ? backChain : backChain?.slice(from);
}

function faultOf(
  { cell, platform }: DrillRunFact,
  chain: readonly BackStep[],
  { screens }: IntentWith,
): Fault | undefined {
  // there back never leads out, and which screens have it is the app's own choice
  if (platform === 'ios') return undefined;
  if (chain.at(-1)!.activity !== '') return 'trap';
  const parent = screens.find(({ id }) => id === cell.screen)?.parent;
  if (!parent) return undefined;
  const activity = screens.find(({ id }) => id === parent)?.activity;
  if (chain[0]!.activity === '') return 'out';
  return activity && !chain[0]!.activity.endsWith(activity) ? 'other-parent' : undefined;
}

const sameChain = (a: readonly BackStep[], b: readonly BackStep[]): boolean =>
  a.length === b.length &&
  a.every(
    (step, i) => step.activity === b[i]!.activity && similarity(step.outline, b[i]!.outline) >= SAME_SCREEN,
  );

const SEVERITY: Record<Fault, number> = { trap: 3, out: 2, 'other-parent': 1, changed: 1 };

const draftOf = (
  { cell, drill, evidence }: DrillRunFact,
  chain: readonly BackStep[],
  fault: Fault,
  plain: readonly BackStep[] | undefined,
) => {
  const say = (steps: readonly BackStep[]) =>
    steps.map(({ activity }) => activity.split('/').at(-1) || 'out');
  return {
    identity: { screen: cell.screen, subject: 'back', aspect: drill },
    basis: 'measured' as const,
    severity: SEVERITY[fault],
    digest: `${fault}: ${say(chain).join(' > ')}`,
    occurrence: {
      evidence,
      cell,
      shown: cell.screen,
      data: { drill, fault, chain: say(chain), plain: plain ? say(plain) : [] },
    },
  };
};
