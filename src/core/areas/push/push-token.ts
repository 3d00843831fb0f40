/**
 * A token comes, in the form that servers expect; the service of the release knows it; another one takes its place after
 * the app was installed anew (Apple developer documentation, *Registering your app with APNs*; Firebase documentation, *Best
 * practices for registration token management*).
 */
import type { PushTokenFact } from '../../model/facts/push.ts';
import type { Assertion, Check } from '../check.ts';
import { lastOf } from './last-push-runs.ts';

type Fault =
  | 'none'
  | 'form'
  | 'environment'
  | 'sender'
  | 'refused'
  | 'none-again'
  | 'not-renewed'
  | 'old-accepted';

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

function faultsOf({ answers, reinstalled, service, token }: PushTokenFact): Fault[] {
  if (!token) return ['none'];
  const answerOf = (environment: string) => answers.find((one) => one.environment === environment)?.status;
  const [production, development] = [answerOf('production'), answerOf('development')];
  const isTaken = production === 200 || development === 200;
  const isMessages = service === 'messages';
  const isOfOther = answers.some(
    ({ environment, reason }) => environment === 'production' && reason === 'SENDER_ID_MISMATCH',
  );
  const isMalformed = answers.every(({ reason }) => reason === 'INVALID_ARGUMENT');
  const faults: [Fault, boolean][] = [
    // what is taken has the right form, whatever it looks like
    ['form', !isTaken && (isMessages ? answers.length > 0 && isMalformed : !token.isHex)],
    ['environment', !isMessages && production !== undefined && production !== 200 && development === 200],
    ['sender', isMessages && isOfOther],
    ['refused', answers.length > 0 && !isTaken && !isOfOther],
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
  sender: 4,
  'none-again': 3,
  'not-renewed': 2,
  'old-accepted': 2,
  form: 1,
};

const draftOf = ({ answers, cell, evidence, service }: PushTokenFact, fault: Fault) => ({
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
      service,
      answers: answers.map(({ environment, reason = '', status }) =>
        `${environment}: ${status} ${reason}`.trim(),
      ),
    },
  },
});
