/** Logs and crash reports of testers and of the field tell of no crash, and of no time without an answer. */

import { z } from 'zod';
import type { TroubleFact } from '../../../model/facts/quality.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { hintOfNames } from '../words.ts';

const dataSchema = z.strictObject({
  sort: z.enum(['crash', 'native-crash', 'not-responding']),
  file: z.string(),
  at: z.string(),
  thread: z.string(),
  exception: z.string(),
  message: z.string(),
  frame: z.string(),
  or: z.array(z.string()),
  frames: z.array(z.string()),
  about: z.string(),
  count: z.number(),
});
type Data = z.infer<typeof dataSchema>;

const isEnd = (fact: TroubleFact): fact is TroubleFact & { sort: Data['sort'] } =>
  fact.sort === 'crash' || fact.sort === 'native-crash' || fact.sort === 'not-responding';

export const loggedCrash = defineCheck({
  id: 'logged-crash',
  area: 'quality',
  priority: 'app-ends',
  standard: 'Android vitals, Crashes and ANRs; Apple, Diagnosing issues using crash reports',
  basis: 'measured',
  needs: 'device-log',
  reads: ['trouble'],
  data: dataSchema,
  words: ({ about, at, count, exception, file, frame, frames, message, or, sort, thread }) => {
    const times = count > 1 ? `, ${count} times` : '';
    const where = frame
      ? `Begin at ${frame}${or.length > 0 ? ` (or ${or.join(', or ')}: they share a name)` : ''}. `
      : '';
    const stack = frames.length > 1 ? ` The stack: ${frames.slice(0, 6).join(' ← ')}.` : '';
    return sort === 'not-responding'
      ? {
          what: `The app stopped answering, says ${file}`,
          measured: `${about || 'the system ended it'}${message ? `; ${message}` : ''}${times}`,
          required: 'an answer to every touch, and a start in time',
          why: `${where}People take an app that stands still for a broken one, and end it.`,
          remedy: `Do the work of that place on another thread.${stack}${hintOfNames(frame)}`,
        }
      : {
          what: `The app crashes, says ${file}`,
          measured: `${exception}${message ? `: ${message}` : ''}${times}${at ? `, at ${at}` : ''}`,
          required: 'no exception that nobody catches',
          why: `${where}Whatever the user was doing is lost.${about ? ` The system says: ${about}.` : ''}`,
          remedy: `Fix the cause, not only the place (thread ${thread}).${stack}${hintOfNames(frame)}`,
        };
  },

  *run(facts): Iterable<Assertion<Data>> {
    const whole = facts.of('device-log').filter(({ sawApp, withoutCrashes }) => sawApp && !withoutCrashes);
    if (whole.length > 0) yield { outcome: 'passed', count: whole.length };
    else yield { outcome: 'untested', because: 'no log of the app was added, apart from those of drills' };
    for (const fact of facts.of('trouble').filter(isEnd)) {
      const { about, at, count, evidence, exception, file, frame, frames, message, or, sort, thread } = fact;
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: frame || exception || about, aspect: exception || sort },
          basis: 'measured',
          severity: (sort === 'not-responding' ? 1 : 2) + Math.min(0.9, count / 1000),
          digest: exception || sort,
          occurrence: {
            evidence,
            shown: exception || about,
            data: { sort, file, at, thread, exception, message, frame, or, frames, about, count },
          },
        },
      };
    }
  },

  doc: {
    looksAt:
      'Logs (`adb logcat -d`), bug reports (`adb bugreport`) and crash reports (`.ips`, `.crash`) that were added',
    against: 'No uncaught exception, no signal, no time without an answer, in the processes of the app',
    matters: 'What testers met, users will meet.',
    measured:
      'Lines are put together by process, thread and tag. Of several causes the innermost counts, and of its stack the first frame that is the app’s own; names are given back by a mapping file or a dSYM that was added.',
    errs: 'Without the mapping file of the very build a frame keeps its short name. A process that the log names nowhere is told by the classes in its stacks alone. Swift names of a dSYM stay as the compiler wrote them.',
    fixes: [
      {
        where: 'A shell',
        language: 'sh',
        code: 'adb logcat -d -b all > logcat.txt\nfenlok add logcat.txt app/build/outputs/mapping/release/mapping.txt',
      },
    ],
  },
});
