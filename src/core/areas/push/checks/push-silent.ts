/** A silent message wakes the app, and shows nothing. */

import { z } from 'zod';
import type { PushRunFact } from '../../../model/facts/push.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { lastPushRuns } from '../last-push-runs.ts';
import { STATES } from '../words.ts';
import { isSilent } from './push-shown.ts';

type Fault = 'crash' | 'shown' | 'not-woken';

const dataSchema = z.strictObject({
  message: z.string(),
  state: z.enum(['background', 'front', 'not-running']),
  fault: z.enum(['shown', 'crash', 'not-woken']),
  exception: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const pushSilent = defineCheck({
  id: 'push-silent',
  area: 'push',
  priority: 'harder',
  standard: 'Firebase, data messages; Apple, Pushing background updates to your app',
  basis: 'measured',
  needs: 'push-run',
  data: dataSchema,
  words: ({ exception, fault, message, state }) => ({
    what: `The silent message ${message} ${SILENT[fault]} ${STATES[state]}`,
    measured:
      fault === 'crash'
        ? exception
        : fault === 'shown'
          ? 'a message in the shade'
          : 'no word of it in the log of the app',
    required: 'the app wakes, tells its log {"kind":"push.received"}, and shows nothing',
    why: 'What it should fetch is missing, or the user is disturbed for nothing.',
    remedy:
      'Send it with data alone (on iOS: content-available, priority 5, type background), and handle it without a screen.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastPushRuns(facts)) {
      if (!isSilent(run, intent) || run.status !== 200) continue;
      const { cell, crash, platform, shown, state, told } = run;
      const fault: Fault | undefined = crash ? 'crash' : shown ? 'shown' : told ? undefined : 'not-woken';
      // iOS lets few of them through, and none where it saves power (Apple, *Pushing background updates to your App*)
      if (fault === 'not-woken' && platform === 'ios' && state !== 'front') {
        yield {
          outcome: 'untested',
          because: 'the app told of no message, and iOS may keep back those that only wake it',
        };
        continue;
      }
      yield fault ? { outcome: 'failed', cell, draft: draftOf(run, fault) } : { outcome: 'passed', cell };
    }
  },

  doc: {
    looksAt: 'Messages without a screen',
    against: 'The app logs that it got them, and nothing is shown',
    matters: 'What it should fetch is missing, or people are disturbed for nothing.',
    measured:
      "Messages without a screen are sent in each state; the app's log says whether it got them, the shade whether something is shown.",
    errs: 'An app that tells its log nothing counts as not woken.',
    fixes: [
      { where: 'A message for iOS', language: 'json', code: '{ "aps": { "content-available": 1 } }' },
      {
        where: 'A message for Android',
        language: 'json',
        code: '{ "message": { "token": "…", "data": { "kind": "timetable" }, "android": { "priority": "high" } } }',
      },
    ],
  },
});

const draftOf = ({ cell, crash, evidence, message, state }: PushRunFact, fault: Fault) => ({
  identity: { subject: `message ${message}`, aspect: `${fault} ${state}` },
  target: { kind: 'message' as const, id: message, part: state },
  basis: 'measured' as const,
  severity: fault === 'crash' ? 2 : 1,
  digest: `${fault} ${crash?.exception ?? ''}`,
  occurrence: {
    evidence,
    cell,
    shown: message,
    data: { message, state, fault, exception: crash?.exception ?? '' },
  },
});

const SILENT: Record<string, string> = {
  crash: 'ends the app',
  shown: 'is shown',
  'not-woken': 'does not wake the app',
};
