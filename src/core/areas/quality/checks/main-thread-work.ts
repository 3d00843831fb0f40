/** The thread that draws reads no disk and waits for no network (Android, `StrictMode.ThreadPolicy`). */

import { z } from 'zod';
import type { TroubleFact } from '../../../model/facts/quality.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { screensInLogs } from '../screens-in-logs.ts';
import { hintOfNames } from '../words.ts';

const dataSchema = z.strictObject({
  policy: z.string(),
  duration: z.string(),
  frame: z.string(),
  frames: z.array(z.string()),
  file: z.string(),
  count: z.number(),
});
type Data = z.infer<typeof dataSchema>;

const DOES = new Map([
  ['DiskReadViolation', 'reads from the disk'],
  ['DiskWriteViolation', 'writes to the disk'],
  ['NetworkViolation', 'waits for the network'],
  ['CustomViolation', 'makes a call that it calls slow itself'],
  ['ResourceMismatchViolation', 'reads a resource as another type'],
  ['UnbufferedIoViolation', 'reads or writes byte by byte'],
  ['ExplicitGcViolation', 'asks for memory to be cleared'],
]);

const ASKS = new Set(['android.os.StrictMode.setThreadPolicy', 'android.os.StrictMode.enableDefaults']);

const policyOf = ({ exception }: TroubleFact): string => exception.split('.').at(-1)!;
/** Of the thread's policy; others are about what is left behind. */
const isThread = (fact: TroubleFact): boolean => fact.sort === 'thread-policy' && DOES.has(policyOf(fact));

export const mainThreadWork = defineCheck({
  id: 'main-thread-work',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, StrictMode.ThreadPolicy',
  basis: 'either',
  needs: 'device-log',
  reads: ['trouble', 'platform-calls', 'component', 'package'],
  data: dataSchema,
  words: ({ count, duration, file, frame, frames, policy }) => ({
    what: `The app ${DOES.get(policy) ?? policy} on a thread that forbids it`,
    measured: `${count === 1 ? 'once' : `${count} times`} in ${file}${duration ? `, ${duration}` : ''}${frame ? `, in ${frame}` : ''}`,
    required: 'no disk and no network on the thread that draws',
    why: 'On a slow or full device the screen stands still as long as this takes.',
    remedy: `Move it to another thread (Dispatchers.IO, an executor).${frames.length > 1 ? ` The stack: ${frames.slice(0, 6).join(' ← ')}.` : ''}${hintOfNames(frame)}`,
  }),

  *run(facts): Iterable<Assertion<Data>> {
    const warned = facts.of('trouble').filter(isThread);
    for (const fact of warned) {
      const { count, evidence, file, frame, frames, isOwn, message } = fact;
      const policy = policyOf(fact);
      yield {
        outcome: isOwn ? 'failed' : 'cantTell',
        draft: {
          identity: { subject: frame || policy, aspect: policy },
          basis: isOwn ? 'measured' : 'estimated',
          severity: Math.min(10, (Number.parseInt(message, 10) || 16) / 16),
          digest: policy,
          occurrence: {
            evidence,
            shown: frame,
            data: { policy, duration: message, frame, frames, file, count },
          },
        },
      };
    }
    // only a build that asks for these warnings gets them: silence of another one tells nothing
    const asks = facts.of('platform-calls').some(({ calls }) => calls.some((call) => ASKS.has(call)));
    const logs = facts.of('device-log').filter(({ sawApp }) => sawApp);
    if (logs.length === 0) return;
    if (logs.every(({ lines }) => lines === 0))
      yield { outcome: 'untested', because: 'a crash report tells of one moment: add a whole log' };
    else if (asks || warned.length > 0) yield* screensInLogs(facts, 'made');
    else
      yield {
        outcome: 'untested',
        because: 'this build sets no thread policy, so its log cannot warn: set one in a build for testers',
      };
  },

  doc: {
    looksAt: 'Lines of `StrictMode` in logs that were added, grouped by policy and by frame',
    against: 'None of the thread’s policy',
    matters: 'The screen stands still while the thread that draws waits for a disk or a network.',
    measured:
      'The violation and the first frame of the app’s own, with the names that a mapping file gives back.',
    errs: 'A log without warnings passes only where the build sets a policy, which its code tells, and once each activity was opened. A stack without a frame of the app’s own is estimated.',
    fixes: [
      {
        where: 'Application.onCreate, in builds for testers',
        language: 'kotlin',
        code: 'StrictMode.setThreadPolicy(StrictMode.ThreadPolicy.Builder().detectAll().penaltyLog().build())',
      },
      {
        where: 'Where it is slow',
        language: 'kotlin',
        code: 'lifecycleScope.launch { val cart = withContext(Dispatchers.IO) { store.readCart() } }',
      },
    ],
  },
});
