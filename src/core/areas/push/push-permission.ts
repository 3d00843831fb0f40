/** The app asks before it sends anything, and stands both answers (Android developers, *Notification runtime permission*). */
import type { PushPermissionFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastOf } from './last-push-runs.ts';

type Fault = 'not-asked' | 'crash' | 'not-taken' | 'shown-anyway';

export const pushPermission = {
  id: 'push-permission',
  area: 'push',
  needs: ['push-permission'],
  *run(facts): Iterable<Assertion> {
    for (const asked of lastOf(facts.of('push-permission'), ({ answer }) => answer)) {
      const fault = faultOf(asked);
      const { cell } = asked;
      yield fault ? { outcome: 'failed', cell, draft: draftOf(asked, fault) } : { outcome: 'passed', cell };
    }
  },
} satisfies Check;

function faultOf({ answer, asked, crash, granted, shown }: PushPermissionFact): Fault | undefined {
  if (crash) return 'crash';
  if (!asked) return 'not-asked';
  if (granted !== (answer === 'allow')) return 'not-taken';
  return answer === 'refuse' && shown > 0 ? 'shown-anyway' : undefined;
}

const draftOf = ({ answer, cell, crash, evidence }: PushPermissionFact, fault: Fault) => ({
  identity: { subject: 'permission', aspect: `${fault} ${answer}` },
  basis: 'measured' as const,
  severity: { crash: 3, 'not-asked': 2, 'not-taken': 1, 'shown-anyway': 2 }[fault],
  digest: `${fault} ${crash?.exception ?? ''}`,
  occurrence: {
    evidence,
    cell,
    shown: answer,
    data: { fault, answer, exception: crash?.exception ?? '', frame: crash?.frame ?? '' },
  },
});
