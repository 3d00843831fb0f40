/** The app asks before it sends anything, and stands both answers (Android developers, *Notification runtime permission*). */

import { z } from 'zod';
import type { PushPermissionFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { lastOf } from '../last-push-runs.ts';

type Fault = 'not-asked' | 'crash' | 'not-taken' | 'shown-anyway';

const dataSchema = z.strictObject({
  fault: z.enum(['crash', 'not-asked', 'not-taken', 'shown-anyway']),
  answer: z.enum(['allow', 'refuse']),
  exception: z.string(),
  frame: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const pushPermission = defineCheck({
  id: 'push-permission',
  area: 'push',
  priority: 'cannot-use',
  standard:
    'Android developers, Notification runtime permission; Apple, Asking permission to use notifications',
  basis: 'measured',
  needs: 'push-permission',
  data: dataSchema,
  words: ({ answer, exception, fault, frame }) => {
    const said: Record<string, [what: string, measured: string, remedy: string]> = {
      'not-asked': [
        'The app does not ask whether it may send messages',
        'no question of the system after the steps of push.ask',
        'Ask with requestPermission where the user sees what for; or correct the steps of push.ask in fenlok.yaml.',
      ],
      crash: [
        `The app crashes when the permission is ${answer === 'refuse' ? 'refused' : 'given'}`,
        `${exception}${frame ? `, in ${frame}` : ''}`,
        'Handle both answers.',
      ],
      'not-taken': [
        'The answer to the question for the permission has no effect',
        `the device reads it otherwise after ${quote(answer)}`,
        'Declare android.permission.POST_NOTIFICATIONS, and ask for this very permission.',
      ],
      'shown-anyway': [
        'Messages are shown although the user refused them',
        'one in the shade after “refuse”',
        'Do not show messages by another way.',
      ],
    };
    const [what, measured, remedy] = said[fault]!;
    return {
      what,
      measured,
      required: 'the question, and both answers stood',
      why: 'Who refuses must be able to go on, and who allows must get messages.',
      remedy,
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const asked of lastOf(facts.of('push-permission'), ({ answer }) => answer)) {
      const fault = faultOf(asked);
      const { cell } = asked;
      yield fault ? { outcome: 'failed', cell, draft: draftOf(asked, fault) } : { outcome: 'passed', cell };
    }
  },

  doc: {
    looksAt: "The system's question for the permission, answered in both ways on a device",
    against: 'It is asked, taken as answered, and stood; what was refused is not shown',
    matters: 'Who refuses must be able to go on, and who allows must get messages.',
    measured:
      "The system's question is answered in both ways on a device, and what the app does then is read.",
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'registerForActivityResult(RequestPermission()) { isGranted -> show(isGranted) }.launch(POST_NOTIFICATIONS)',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'let isGranted = try await UNUserNotificationCenter.current().requestAuthorization(options: [.alert, .badge, .sound])',
      },
    ],
  },
});

function faultOf({ answer, asked, crash, granted, shown }: PushPermissionFact): Fault | undefined {
  if (crash) return 'crash';
  if (!asked) return 'not-asked';
  if (granted !== undefined && granted !== (answer === 'allow')) return 'not-taken';
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
