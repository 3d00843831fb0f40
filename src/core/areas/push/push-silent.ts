/** A silent message wakes the app, and shows nothing. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastPushRuns } from './last-push-runs.ts';
import { isSilent } from './push-shown.ts';

type Fault = 'crash' | 'shown' | 'not-woken';

export const pushSilent = {
  id: 'push-silent',
  area: 'push',
  needs: ['push-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastPushRuns(facts)) {
      if (!isSilent(run, intent) || run.status !== 200) continue;
      const { cell, crash, shown, told } = run;
      const fault: Fault | undefined = crash ? 'crash' : shown ? 'shown' : told ? undefined : 'not-woken';
      yield fault ? { outcome: 'failed', cell, draft: draftOf(run, fault) } : { outcome: 'passed', cell };
    }
  },
} satisfies Check;

const draftOf = ({ cell, crash, evidence, message, state }: PushRunFact, fault: Fault) => ({
  identity: { subject: `message ${message}`, aspect: `${fault} ${state}` },
  basis: 'measured' as const,
  severity: fault === 'crash' ? 2 : 1,
  digest: `${fault} ${crash?.exception ?? ''}`,
  occurrence: {
    evidence,
    cell,
    shown: message,
    data: { message, state, fault, exception: crash?.exception ?? '' },
  },
});
