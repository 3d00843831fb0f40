/**
 * An activity that the launcher starts and that may stand only once, at the bottom of its task, ends all that lies above it when
 * somebody comes back through the icon (Android developers, *Tasks and the back stack*, "Define launch modes").
 */

import { z } from 'zod';
import { defineCheck } from '../../check.ts';
import { lastPart } from '../../words.ts';

const ENDS_OTHERS = new Set(['singleTask', 'singleInstance', 'singleInstancePerTask']);

const dataSchema = z.strictObject({ activity: z.string(), mode: z.string() });

export const launchMode = defineCheck({
  id: 'launch-mode',
  area: 'lifecycle',
  priority: 'harder',
  standard: 'Android developers, Tasks and the back stack',
  basis: 'estimated',
  needs: 'package',
  reads: ['manifest'],
  data: dataSchema,
  words: ({ activity, mode }) => ({
    what: 'Coming back through the icon closes every screen above the first',
    measured: `android:launchMode="${mode}" on ${lastPart(activity)}, which the launcher starts`,
    required: 'the standard mode, or singleTop',
    why:
      mode === 'singleTask'
        ? 'The system ends what lies above it when it is started again, so who left in the middle of something starts over.'
        : 'Other screens open in a task of their own, which the icon does not lead back to.',
    remedy: 'Take the launch mode away, and use FLAG_ACTIVITY_CLEAR_TOP where a call needs it.',
  }),

  *run(facts) {
    for (const { activities, evidence } of facts.of('manifest')) {
      const launchers = activities.filter(({ isLauncher }) => isLauncher);
      // an alias starts another activity, in that one's mode
      const started = launchers.map(
        (one) => activities.find(({ name }) => name === one.targetActivity) ?? one,
      );
      const own = started.map(({ name }) => beginningOf(name));
      const others = activities.filter(
        (one) => own.includes(beginningOf(one.name)) && !one.targetActivity && !started.includes(one),
      );
      const found = started.filter(({ launchMode: mode = '' }) => ENDS_OTHERS.has(mode));
      if (others.length === 0) yield { outcome: 'inapplicable' };
      else if (found.length === 0) yield { outcome: 'passed' };
      else
        for (const { launchMode: mode = '', name } of new Set(found))
          yield {
            outcome: 'cantTell',
            draft: {
              identity: { subject: name },
              basis: 'estimated',
              severity: 1,
              digest: mode,
              occurrence: { evidence, shown: name, data: { activity: name, mode } },
            },
          };
    }
  },

  doc: {
    looksAt: 'The mode of the activity that the launcher starts, where the app has others',
    against: 'Standard or singleTop. Always estimated',
    matters: 'Who left in the middle of something and comes back through the icon starts over.',
    measured: 'The launch mode of the activity that the launcher starts, where the app has other activities.',
    errs: 'An app of one activity, and code that saves its place, are not harmed; always estimated.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<activity android:name=".MainActivity" android:launchMode="standard" />',
      },
    ],
  },
});

/** What classes of one team begin with; activities of libraries come and go by themselves. */
const beginningOf = (className: string): string => className.split('.').slice(0, 2).join('.');
