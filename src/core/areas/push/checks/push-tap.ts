/** A tap on a message lands on its screen, from each state of the app. */

import { z } from 'zod';
import type { PushRunFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { landingOf, namedLanding, unknownScreen } from '../landing.ts';
import { lastPushRuns } from '../last-push-runs.ts';
import { STATES } from '../words.ts';

const dataSchema = z.strictObject({
  message: z.string(),
  state: z.enum(['background', 'front', 'not-running']),
  landed: z.string(),
  wanted: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const pushTap = defineCheck({
  id: 'push-tap',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Android developers, Start an Activity from a Notification; Apple, Handling notifications',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ landed, message, state, wanted }) => ({
    what: `A tap on the message ${message} lands elsewhere, sent ${STATES[state]}`,
    measured: `in front afterwards: ${landed || 'nothing of the app'}`,
    required: wanted,
    why: 'The user wanted to see what the message is about.',
    remedy:
      state === 'not-running'
        ? 'Read where it leads from the intent that starts the app, and wait for what the screen needs to be loaded.'
        : 'Start the screen itself from the message, with its arguments.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastPushRuns(facts)) {
      const { action, cell, tapped } = run;
      const wanted = intent.push.messages.find(({ id }) => id === run.message)?.screen;
      if (!tapped || action !== undefined || wanted === undefined) continue;
      const landing = landingOf(run, wanted, intent);
      if (landing === 'unknown') yield { outcome: 'untested', because: unknownScreen(wanted) };
      else
        yield landing === 'there'
          ? { outcome: 'passed', cell }
          : { outcome: 'failed', cell, draft: draftOf(run, wanted) };
    }
  },

  doc: {
    looksAt: 'A tap on each, from each of these states',
    against: 'The screen that the intent file names',
    matters: 'The user wanted to see what the message is about.',
    measured:
      'Each message is tapped in each state of the app, and the screen in front is read; on iOS, where nothing names a screen, it is held against the one that was reached by its steps.',
    errs: 'On iOS screens are told apart by what stands on them: two that look the same stay untested.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'TaskStackBuilder.create(this).addNextIntentWithParentStack(sailing).getPendingIntent(0, FLAG_IMMUTABLE)',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'func userNotificationCenter(_ c: UNUserNotificationCenter, didReceive r: UNNotificationResponse) async { router.open(r.notification.request.content.userInfo) }',
      },
    ],
  },
});

function draftOf(run: PushRunFact, wanted: string) {
  const { cell, evidence, inApp, message, state } = run;
  const landed = namedLanding(run);
  return {
    identity: { screen: wanted, subject: `message ${message}`, aspect: state },
    target: { kind: 'message' as const, id: message, part: state },
    basis: 'measured' as const,
    severity: inApp ? 1 : 2,
    digest: landed,
    occurrence: {
      evidence,
      cell: { ...cell, screen: wanted },
      shown: message,
      data: { message, state, landed, wanted },
    },
  };
}
