/** Once a message was opened nothing of it is left: neither in the shade, nor on the app's icon, which counts the same. */
import type { PushRunFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastPushRuns } from './last-push-runs.ts';

export const pushBadge = {
  id: 'push-badge',
  area: 'push',
  needs: ['push-run'],
  *run(facts): Iterable<Assertion> {
    for (const run of lastPushRuns(facts)) {
      const { cell, left, tapped } = run;
      if (!tapped) continue;
      yield left === 0 ? { outcome: 'passed', cell } : { outcome: 'failed', cell, draft: draftOf(run) };
    }
  },
} satisfies Check;

const draftOf = ({ cell, evidence, left, message }: PushRunFact) => ({
  identity: { subject: `message ${message}` },
  basis: 'measured' as const,
  severity: left,
  digest: String(left),
  occurrence: { evidence, cell, shown: message, data: { message, left } },
});
