/** Who comes back to the app finds the screen that was left, not the first one. */

import { z } from 'zod';
import { isStateDrill, stateDrills } from '../../../model/drill.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { classOfRun, lastRuns } from '../runs/class-of-run.ts';
import { formatDrill, REMEDIES, SAVE } from '../words.ts';

const dataSchema = z.strictObject({
  drill: z.enum(stateDrills),
  at: z.enum(['first', 'elsewhere', 'outside']),
  activity: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const lostScreen = defineCheck({
  id: 'lost-screen',
  area: 'lifecycle',
  priority: 'cannot-use',
  standard: "Android developers, Saving UI states; Apple, Restoring your app's state",
  basis: 'measured',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ activity, at, drill }, { occurrences }) => {
    const { screen } = occurrences[0]!.cell!;
    return {
      what: `The screen does not come back after ${formatDrill(drill)}: ${WHERE[at]}`,
      measured: `in front afterwards: ${activity || 'nothing of the app'}`,
      required: `${screen}, as it was left`,
      why: 'Who was in the middle of something begins again, and what was done there is lost.',
      remedy: REMEDIES[drill] ?? SAVE,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastRuns(facts)) {
      if (!isStateDrill(run.drill)) continue;
      const { cell, drill, evidence, landed } = run;
      const found = classOfRun(run, intent.drills.ignore);
      if (found.kind === 'restored' || found.kind === 'partly-restored') yield { outcome: 'passed', cell };
      if (found.kind !== 'restarted') continue;
      const data = { drill, at: found.at, activity: landed?.activity ?? '' };
      yield {
        outcome: 'failed',
        cell,
        draft: {
          identity: { screen: cell.screen, subject: 'screen', aspect: drill },
          basis: 'measured',
          severity: found.at === 'outside' ? 2 : 1,
          digest: `${found.at} ${data.activity}`,
          occurrence: { evidence, cell, boundsPx: landed?.boundsPx, shown: cell.screen, data },
        },
      };
    }
  },

  doc: {
    looksAt: 'What is in front after such a drill',
    against: 'The screen that was left, not the first one, another one or none',
    matters: 'Who was in the middle of something begins again.',
    measured:
      'What is in front after the drill, against the screen that was left. A run counts only with proof that the drill did what its name says.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: `// let the system restore the back stack: no startActivity of the first screen in onCreate
if (savedInstanceState == null) showStart()`,
      },
      { where: 'iOS, SwiftUI', language: 'swift', code: '@SceneStorage("path") private var path: Data?' },
    ],
  },
});

const WHERE: Record<string, string> = {
  first: 'the app begins again at its first screen',
  elsewhere: 'another screen is there',
  outside: 'the app is gone',
};
