/**
 * A token comes, in the form that servers expect; the production gateway knows it; another one takes its place after the
 * app was installed anew (Apple developer documentation, *Registering your app with APNs*).
 */
import type { PushTokenFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastOf } from './last-push-runs.ts';

type Fault = 'none' | 'form' | 'environment' | 'refused' | 'none-again' | 'not-renewed' | 'old-accepted';

export const pushToken = {
  id: 'push-token',
  area: 'push',
  needs: ['push-token'],
  *run(facts): Iterable<Assertion> {
    for (const token of lastOf(facts.of('push-token'), () => '')) {
      const faults = faultsOf(token);
      if (faults.length === 0) yield { outcome: 'passed', cell: token.cell };
      for (const fault of faults) yield { outcome: 'failed', cell: token.cell, draft: draftOf(token, fault) };
    }
  },
} satisfies Check;

function faultsOf({ answers, reinstalled, token }: PushTokenFact): Fault[] {
  if (!token) return ['none'];
  const answerOf = (environment: string) => answers.find((one) => one.environment === environment)?.status;
  const [production, development] = [answerOf('production'), answerOf('development')];
  const isTaken = production === 200 || development === 200;
  const faults: [Fault, boolean][] = [
    // what a gateway takes has the right form, whatever it looks like
    ['form', !token.isHex && !isTaken],
    ['environment', production !== undefined && production !== 200 && development === 200],
    ['refused', answers.length > 0 && !isTaken],
    ['none-again', reinstalled !== undefined && !reinstalled.isToken],
    ['not-renewed', reinstalled?.isToken === true && !reinstalled.isRenewed],
    ['old-accepted', reinstalled !== undefined && reinstalled.oldStatus === 200],
  ];
  return faults.flatMap(([fault, holds]) => (holds ? [fault] : []));
}

const SEVERITY: Record<Fault, number> = {
  none: 5,
  refused: 4,
  environment: 4,
  'none-again': 3,
  'not-renewed': 2,
  'old-accepted': 2,
  form: 1,
};

const draftOf = ({ answers, cell, evidence }: PushTokenFact, fault: Fault) => ({
  identity: { subject: 'token', aspect: fault },
  basis: 'measured' as const,
  severity: SEVERITY[fault],
  digest: fault,
  occurrence: {
    evidence,
    cell,
    shown: fault,
    data: {
      fault,
      answers: answers.map(({ environment, reason = '', status }) =>
        `${environment}: ${status} ${reason}`.trim(),
      ),
    },
  },
});
