/** Without network the app shows what it keeps on the device, and nobody waits for ever. */

import { z } from 'zod';
import type { DrillRunFact } from '../../../model/fact.ts';
import { type Assertion, defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';
import { classOfRun, lastRuns } from '../runs/class-of-run.ts';
import { SAME_SCREEN } from '../state/screen-state.ts';

const dataSchema = z.strictObject({
  fault: z.enum(['waiting', 'empty', 'other', 'outside']),
  kept: z.number(),
  of: z.number(),
  shown: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

// What a screen shows is there when most of it is: a time or a greeting may be another one.
const MOST = 0.5;

export const stuckOffline = defineCheck({
  id: 'stuck-offline',
  area: 'lifecycle',
  priority: 'cannot-use',
  standard: 'Android developers, Build an offline-first app',
  basis: 'estimated',
  needs: 'drill-run',
  data: dataSchema,
  words: ({ fault, kept, of, shown }, { occurrences }) => {
    const screen = occurrences[0]!.cell!.screen;
    return {
      what: {
        waiting: `Without network ${screen} waits, and does not say for how long`,
        empty: `Without network ${screen} is empty`,
        other: `Without network ${screen} does not show what it had`,
        outside: `Without network the app does not come to ${screen}`,
      }[fault],
      measured: `${kept} of ${of} texts are still there${shown.length > 0 ? `; it shows ${shown.slice(0, 3).map(quote).join(', ')}` : ''}`,
      required: 'what is on the device already, or a word on what is missing and a way on',
      why: 'On a ship, in a lift, abroad: who has seen it once expects to find it there.',
      remedy:
        'Keep on the device what was loaded, show it first, and say how old it is. Where it cannot be shown, say so, with a way to try again.',
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const run of lastRuns(facts)) {
      if (run.drill !== 'offline' || classOfRun(run, intent.drills.ignore).kind !== 'restored') continue;
      const { away, cell, evidence, landed } = run;
      const found = away && faultOf(away);
      if (!away) yield { outcome: 'untested', cell, missingEvidence: 'what was in front without network' };
      // nothing was written on it; or it is not there with network either, which process death shows
      else if (away.before.length === 0 || (away.inApp && (landed?.likeBefore ?? 0) < SAME_SCREEN))
        yield { outcome: 'inapplicable', cell };
      else if (!found) yield { outcome: 'passed', cell };
      else
        yield {
          outcome: 'cantTell',
          cell,
          draft: {
            identity: { screen: cell.screen, subject: 'screen', aspect: run.drill },
            basis: 'estimated',
            severity: { outside: 3, waiting: 3, empty: 2, other: 1 }[found.fault],
            digest: `${found.fault} ${found.shown.slice(0, 3).join(' | ')}`,
            occurrence: { evidence, cell, shown: cell.screen, data: found },
          },
        };
    }
  },

  doc: {
    looksAt:
      'What is in front after the drill `offline`: the app was left, its process killed, and the app opened again without network',
    against: 'Half of the texts that the screen showed before, and the app in front',
    matters: 'Who has seen something once expects to find it there, without network too.',
    measured:
      'The texts before and then, exactly as they are, and whether something says that it is at work.',
    errs: 'Some screens can show nothing without network, and say so well: a person rules on it. A run counts only with proof that the network was off and the process another one.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'val sailings = database.sailings().asFlow()  // shown at once\nscope.launch { runCatching { refresh() }.onFailure { notice.value = Notice.Offline } }',
      },
    ],
  },
});

function faultOf({ before, inApp, isWaiting, texts }: NonNullable<DrillRunFact['away']>): Data | undefined {
  const there = before.filter((text) => texts.includes(text)).length;
  const of = (fault: Data['fault']): Data => ({
    fault,
    kept: there,
    of: before.length,
    shown: texts.filter((text) => !before.includes(text)),
  });
  if (!inApp) return of('outside');
  if (there / before.length >= MOST) return undefined;
  if (isWaiting) return of('waiting');
  return of(texts.length > there ? 'other' : 'empty');
}
