/** Every button of a message leads where it says. */

import { z } from 'zod';
import type { PushRunFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { type Landing, landingOf, namedLanding, unknownScreen } from '../landing.ts';
import { lastPushRuns } from '../last-push-runs.ts';

type Fault = 'missing' | 'no-effect' | 'other-screen';

const dataSchema = z.strictObject({
  message: z.string(),
  action: z.string(),
  fault: z.enum(['missing', 'other-screen', 'no-effect']),
  landed: z.string(),
  wanted: z.string(),
  actions: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const pushAction = defineCheck({
  id: 'push-action',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Android developers, Create a notification, “Add action buttons”; Apple, UNNotificationAction',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ action, actions, fault, landed, message, wanted }) => ({
    what:
      fault === 'missing'
        ? `The message ${message} has no button ${quote(action)}`
        : `The button ${quote(action)} of the message ${message} ${fault === 'no-effect' ? 'does nothing' : 'leads elsewhere'}`,
    measured:
      fault === 'missing'
        ? `its buttons: ${actions.join(', ') || 'none'}`
        : `in front afterwards: ${landed || 'nothing of the app'}`,
    required: wanted,
    why: 'Who touches a button believes that it is done.',
    remedy:
      fault === 'missing'
        ? 'Add the action to the message (on iOS: to its category), or take it out of fenlok.yaml.'
        : 'Give the action an intent of its own, and handle it also when the app is not running.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastPushRuns(facts)) {
      const { action, cell, shown, tapped } = run;
      if (action === undefined || !shown) continue;
      const message = intent.push.messages.find(({ id }) => id === run.message);
      const wanted = message?.actions.find(({ label }) => label === action)?.screen;
      if (wanted === undefined) continue;
      const landing = landingOf(run, wanted, intent);
      if (tapped && landing === 'unknown') {
        yield { outcome: 'untested', because: unknownScreen(wanted) };
        continue;
      }
      const fault: Fault | undefined = !tapped ? 'missing' : FAULTS[landing];
      yield fault
        ? { outcome: 'failed', cell, draft: draftOf(run, action, wanted, fault) }
        : { outcome: 'passed', cell };
    }
  },

  doc: {
    looksAt: 'Each button that the intent file names',
    against: 'It is there, and leads where it says',
    matters: 'Who touches a button believes that it is done.',
    measured: 'Each button that the intent file names is touched on a device, from each state of the app.',
    errs: 'On iOS screens are told apart by what stands on them: two that look the same stay untested.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'builder.addAction(0, label, PendingIntent.getActivity(this, id, rebook, FLAG_IMMUTABLE))',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'func userNotificationCenter(_ c: UNUserNotificationCenter, didReceive r: UNNotificationResponse) async { router.open(r.actionIdentifier) }',
      },
    ],
  },
});

const FAULTS: Record<Landing, Fault | undefined> = {
  there: undefined,
  unknown: undefined,
  elsewhere: 'other-screen',
  'not-in-app': 'no-effect',
};

function draftOf(run: PushRunFact, action: string, wanted: string, fault: Fault) {
  const { cell, evidence, message, shown } = run;
  const landed = namedLanding(run);
  return {
    identity: { screen: wanted, subject: `message ${message}`, aspect: action },
    target: { kind: 'message' as const, id: message, part: action },
    basis: 'measured' as const,
    severity: 1,
    digest: `${fault} ${landed}`,
    occurrence: {
      evidence,
      cell: { ...cell, screen: wanted },
      shown: action,
      data: { message, action, fault, landed, wanted, actions: shown?.actions ?? [] },
    },
  };
}
