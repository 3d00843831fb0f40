/** A message is shown in front, in background, and when the app is not running. */

import { z } from 'zod';
import type { PushRunFact } from '../../../model/facts/push.ts';
import type { Assertion, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPushRuns } from '../last-push-runs.ts';
import { STATES } from '../words.ts';

const dataSchema = z.strictObject({
  message: z.string(),
  state: z.enum(['background', 'front', 'not-running']),
  told: z.boolean(),
  exception: z.string(),
  frame: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const pushShown = defineCheck({
  id: 'push-shown',
  area: 'push',
  priority: 'cannot-use',
  standard: 'Firebase, Receive messages in an Android app; Apple, Handling notifications',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ exception, frame, message, state, told }) => ({
    what: `The message ${message} is not shown ${STATES[state]}`,
    measured: exception
      ? `the app crashed: ${exception}${frame ? `, in ${frame}` : ''}`
      : `it was taken, and nothing is in the shade${told ? '; the app told its log that it got it' : ''}`,
    required: 'a message in the shade',
    why:
      state === 'front'
        ? 'While the app is in front the system hands the message to it and shows nothing by itself.'
        : 'The user never learns of it.',
    remedy:
      state === 'front'
        ? 'Show it in the code that gets messages, also while the app is in front (or say so to the user in the app).'
        : 'Look at the channel, at the priority of the message, and at what the code does that gets it.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const runs = lastPushRuns(facts);
    const isShadeRead = runs.some(({ platform, shown }) => platform !== 'ios' || shown);
    for (const run of runs) {
      if (run.action !== undefined || isSilent(run, intent)) continue;
      if (!isShadeRead && !run.crash) {
        yield {
          outcome: 'untested',
          because:
            'no message was ever seen in the shade, so nobody knows whether it can be read on this device',
        };
        continue;
      }
      const { cell, crash, shown, status } = run;
      // what the gateway refused is told of the token
      if (status !== 200) yield { outcome: 'inapplicable', cell };
      else
        yield shown && !crash
          ? { outcome: 'passed', cell }
          : { outcome: 'failed', cell, draft: draftOf(run) };
    }
  },

  doc: {
    looksAt: 'Each message, sent with the app in front, in background and not running',
    against: 'It is in the shade',
    matters: 'A message that is not shown is not there for the user.',
    measured:
      'Each message is sent with the app in front, in background and not running, and the shade is read.',
    errs: "A message that the user's do-not-disturb keeps back is told as not shown.",
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onMessageReceived(message: RemoteMessage) { notify(message) }  // also while the app is in front',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'func userNotificationCenter(_ c: UNUserNotificationCenter, willPresent n: UNNotification) async -> UNNotificationPresentationOptions { [.banner, .list] }',
      },
    ],
  },
});

/** A message without a screen wakes the app, and shows nothing. */
export const isSilent = ({ message }: PushRunFact, { push }: IntentWith): boolean =>
  push.messages.find(({ id }) => id === message)?.screen === undefined;

const draftOf = ({ cell, crash, evidence, message, state, told }: PushRunFact) => ({
  identity: { subject: `message ${message}`, aspect: state },
  target: { kind: 'message' as const, id: message, part: state },
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
