/** What came of a run: what a person would say who had watched it. */

import { isScreenDrill, isStateDrill } from '../../../model/drill.ts';
import type { DrillRunFact, StateChange } from '../../../model/fact.ts';
import type { FactIndex } from '../../check.ts';
import { SAME_SCREEN } from '../state/screen-state.ts';
import { type Invalid, proofs } from './proofs.ts';

export type RunClass =
  | { kind: 'restored' }
  | { kind: 'partly-restored'; lost: StateChange[] }
  /** At the first screen of the app, at another one, or out of the app. */
  | { kind: 'restarted'; at: 'first' | 'elsewhere' | 'outside' }
  | { kind: 'crashed' }
  | { kind: 'invalid'; why: Invalid };

export function classOfRun(run: DrillRunFact, ignored: readonly string[] = []): RunClass {
  if (run.crash || run.notResponding) return { kind: 'crashed' };
  if (run.stopped) return { kind: 'invalid', why: 'unreached' };
  if (!isScreenDrill(run.drill)) return { kind: 'restored' };
  const shown = proofs[run.drill];
  // back, and what runs on in the background: what they show is told by their own checks
  if (!shown) return { kind: 'restored' };
  if (run.commands.some(({ code }) => code !== 0)) return { kind: 'invalid', why: 'command-failed' };
  for (const proof of shown) {
    const why = proof(run);
    if (why) return { kind: 'invalid', why };
  }
  if (!isStateDrill(run.drill)) return { kind: 'restored' };
  const { landed } = run;
  if (!landed) return { kind: 'invalid', why: 'unseen' };
  if (!landed.inApp) return { kind: 'restarted', at: 'outside' };
  const isSame = landed.isSameActivity && landed.likeBefore >= SAME_SCREEN;
  // the screen is there, and what was open on it is not
  if (!isSame && landed.isSameActivity && landed.likeReached >= SAME_SCREEN && run.window)
    return {
      kind: 'partly-restored',
      lost: [
        {
          key: run.window.key,
          what: 'gone',
          before: run.window.title,
          after: '',
          boundsPx: run.window.boundsPx,
        },
      ],
    };
  if (!isSame) return { kind: 'restarted', at: landed.likeFirst >= SAME_SCREEN ? 'first' : 'elsewhere' };
  const lost = run.changes.filter((change) => !ignored.includes(change.key) && !isGivenUp(run, change));
  return lost.length === 0 ? { kind: 'restored' } : { kind: 'partly-restored', lost };
}

/** A new process of iOS shows no keyboard: what has the focus is no part of the state that is restored (UIKit). */
const isGivenUp = ({ platform, process: { after, before } }: DrillRunFact, { what }: StateChange): boolean =>
  platform === 'ios' && what === 'focused' && before?.pid !== after?.pid;

/** Of each drill, device and screen the last run; earlier ones are history. */
export function lastRuns(facts: FactIndex<'drill-run'>): DrillRunFact[] {
  const last = new Map<string, DrillRunFact>();
  const crashes: DrillRunFact[] = [];
  for (const run of facts.of('drill-run')) {
    // a roam writes a run for each crash
    if (run.drill === 'roam') {
      crashes.push(run);
      continue;
    }
    const key = [run.drill, run.deviceId, run.cell.screen].join('|');
    const before = last.get(key);
    if (!before || before.at < run.at) last.set(key, run);
  }
  return [...last.values(), ...crashes];
}
