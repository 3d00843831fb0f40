/** Every button of a message leads where it says. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastPushRuns } from './last-push-runs.ts';

type Fault = 'missing' | 'no-effect' | 'other-screen';

export const pushAction = {
  id: 'push-action',
  area: 'push',
  needs: ['push-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastPushRuns(facts)) {
      const { action, cell, inApp, landed, shown, tapped } = run;
      if (action === undefined || !shown) continue;
      const message = intent.push.messages.find(({ id }) => id === run.message);
      const wanted = message?.actions.find(({ label }) => label === action)?.screen;
      if (wanted === undefined) continue;
      const activity = intent.screens.find(({ id }) => id === wanted)?.activity ?? '';
      const fault: Fault | undefined = !tapped
        ? 'missing'
        : !inApp
          ? 'no-effect'
          : landed.endsWith(activity)
            ? undefined
            : 'other-screen';
      yield fault
        ? { outcome: 'failed', cell, draft: draftOf(run, action, wanted, fault) }
        : { outcome: 'passed', cell };
    }
  },
} satisfies Check;

const draftOf = (
  { cell, evidence, landed, message, shown }: PushRunFact,
  action: string,
  wanted: string,
  fault: Fault,
) => ({
  identity: { screen: wanted, subject: `message ${message}`, aspect: action },
  basis: 'measured' as const,
  severity: 1,
  digest: `${fault} ${landed}`,
  occurrence: {
    evidence,
    cell: { ...cell, screen: wanted },
    shown: action,
    data: { message, action, fault, landed, wanted, actions: shown?.actions ?? [] },
  },
});
