/** A message is shown in front, in background, and when the app is not running. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { Intent } from '../../model/intent.ts';
import type { Assertion, Check } from '../check.ts';
import { lastPushRuns } from './last-push-runs.ts';

export const pushShown = {
  id: 'push-shown',
  area: 'push',
  needs: ['push-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastPushRuns(facts)) {
      if (run.action !== undefined || isSilent(run, intent)) continue;
      const { cell, crash, shown, status } = run;
      // what the gateway refused is told of the token
      if (status !== 200) yield { outcome: 'inapplicable', cell };
      else
        yield shown && !crash
          ? { outcome: 'passed', cell }
          : { outcome: 'failed', cell, draft: draftOf(run) };
    }
  },
} satisfies Check;

/** A message without a screen wakes the app, and shows nothing. */
export const isSilent = ({ message }: PushRunFact, { push }: Intent): boolean =>
  push.messages.find(({ id }) => id === message)?.screen === undefined;

const draftOf = ({ cell, crash, evidence, message, state, told }: PushRunFact) => ({
  identity: { subject: `message ${message}`, aspect: state },
  basis: 'measured' as const,
  severity: crash ? 3 : state === 'front' ? 1 : 2,
  digest: crash?.exception ?? 'not shown',
  occurrence: {
    evidence,
    cell,
    shown: message,
    data: { message, state, told, exception: crash?.exception ?? '', frame: crash?.frame ?? '' },
  },
});
