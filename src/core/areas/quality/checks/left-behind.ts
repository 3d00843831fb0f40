/** Windows, receivers, connections and open files end with the screen that made them. */

import { z } from 'zod';
import type { TroubleFact } from '../../../model/facts/quality.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { screensInLogs } from '../screens-in-logs.ts';

const dataSchema = z.strictObject({
  what: z.enum(['window', 'receiver', 'connection', 'open', 'instances', 'other']),
  about: z.string(),
  frame: z.string(),
  file: z.string(),
  count: z.number(),
});
type Data = z.infer<typeof dataSchema>;

const NAMES: Record<Data['what'], [what: string, remedy: string]> = {
  window: ['A dialog or window outlives its screen', 'Dismiss it in onDestroy, or show a DialogFragment.'],
  receiver: ['A receiver outlives its screen', 'Unregister it where its counterpart registered it.'],
  connection: ['A connection to a service outlives its screen', 'Unbind it in onStop or onDestroy.'],
  open: ['A file, stream or cursor is never closed', 'Close it with use { }, also when something fails.'],
  instances: [
    'Screens stay in memory after they were closed',
    'Find who still holds it: a listener, a static field.',
  ],
  other: ['Something is left behind', 'End it where it was made.'],
};

function whatOf({ about, exception, sort }: TroubleFact): Data['what'] | undefined {
  if (sort === 'leak') {
    if (about.includes(' has leaked window ')) return 'window';
    return about.includes(' IntentReceiver ') ? 'receiver' : 'connection';
  }
  if (sort !== 'thread-policy') return undefined;
  const name = exception.split('.').at(-1)!;
  if (/^(?:LeakedClosable|SqliteObjectLeaked)/.test(name)) return 'open';
  if (/^IntentReceiverLeaked/.test(name)) return 'receiver';
  if (/^ServiceConnectionLeaked/.test(name)) return 'connection';
  return /^InstanceCount/.test(name) ? 'instances' : undefined;
}

export const leftBehind = defineCheck({
  id: 'left-behind',
  area: 'quality',
  priority: 'harder',
  standard: 'Android developers, Activity lifecycle; StrictMode.VmPolicy',
  basis: 'measured',
  needs: 'device-log',
  reads: ['trouble', 'component', 'package'],
  data: dataSchema,
  words: ({ about, count, file, frame, what }) => ({
    what: NAMES[what][0],
    measured: `${about || frame}${count > 1 ? `, ${count} times` : ''}, says ${file}`,
    required: 'nothing outlives the screen that made it',
    why: `${frame ? `Made in ${frame}. ` : ''}Memory is not given back, and what is left behind acts on a screen that is gone.`,
    remedy: NAMES[what][1],
  }),

  *run(facts): Iterable<Assertion<Data>> {
    yield* screensInLogs(facts, 'ended');
    for (const fact of facts.of('trouble')) {
      const what = whatOf(fact);
      if (!what) continue;
      const { count, evidence, file, frame } = fact;
      // the address of the object differs from run to run
      const about = fact.about.replace(/@[0-9a-f]+/g, '').replace(/ that was originally .*$/s, '');
      yield {
        outcome: 'failed',
        draft: {
          identity: { subject: frame || about, aspect: what },
          basis: 'measured',
          severity: Math.min(10, count),
          digest: what,
          occurrence: { evidence, shown: frame, data: { what, about, frame, file, count } },
        },
      };
    }
  },

  doc: {
    looksAt: 'What the system’s log says of windows, receivers, service connections, open files and screens',
    against: 'None is left behind',
    matters: 'Memory is not given back until the system ends the app.',
    measured: 'The lines that the system writes when it finds one, with the place where it was made.',
    errs: 'Open files and screens in memory are told only to builds that set a `StrictMode.VmPolicy`.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onStop() { unregisterReceiver(receiver); unbindService(connection); super.onStop() }',
      },
    ],
  },
});
