/** A tap on a message lands on its screen, from each state of the app. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastPushRuns } from './last-push-runs.ts';

export const pushTap = {
  id: 'push-tap',
  area: 'push',
  needs: ['push-run'],
  *run(facts, intent): Iterable<Assertion> {
    for (const run of lastPushRuns(facts)) {
      const { action, cell, tapped } = run;
      const wanted = intent.push.messages.find(({ id }) => id === run.message)?.screen;
      if (!tapped || action !== undefined || wanted === undefined) continue;
      const activity = intent.screens.find(({ id }) => id === wanted)?.activity ?? '';
      yield run.inApp && run.landed.endsWith(activity)
        ? { outcome: 'passed', cell }
        : { outcome: 'failed', cell, draft: draftOf(run, wanted) };
    }
  },
} satisfies Check;

const draftOf = ({ cell, evidence, inApp, landed, message, state }: PushRunFact, wanted: string) => ({
  identity: { screen: wanted, subject: `message ${message}`, aspect: state },
  basis: 'measured' as const,
  severity: inApp ? 1 : 2,
  digest: landed,
  occurrence: {
    evidence,
    cell: { ...cell, screen: wanted },
    shown: message,
    data: { message, state, landed, wanted },
  },
});
