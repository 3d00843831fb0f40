/**
 * From where a link lands, back leads to where the user was: the screen that was in front, or out of the app to whoever
 * had the link (Android developers, *Principles of navigation*).
 */

import { z } from 'zod';
import type { LinkRunFact } from '../../../model/facts/links.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { cut, lastPart } from '../../words.ts';
import { lastLinkRuns } from '../last-link-runs.ts';
import { HOW } from '../words.ts';

type Fault = 'trap' | 'twice' | 'lost-place';

const dataSchema = z.strictObject({
  fault: z.enum(['trap', 'twice', 'lost-place']),
  how: z.enum(['cold', 'warm', 'front']),
  url: z.string(),
  from: z.string(),
  chain: z.array(z.string()),
});
type Data = z.infer<typeof dataSchema>;

export const linkBack = defineCheck({
  id: 'link-back',
  area: 'links',
  priority: 'harder',
  standard: 'Android developers, Principles of navigation',
  basis: 'measured',
  needs: 'link-run',
  data: dataSchema,
  words: ({ chain, fault, from, how, url }) => {
    const said: Record<string, string> = {
      trap: 'Back never leads out of the app from where a link lands',
      twice: 'The screen that a link opens is there twice',
      'lost-place': 'A link takes the place of what the user was at',
    };
    return {
      what: said[fault]!,
      measured: `${cut(url)} ${HOW[how]}, then back: ${chain.join(' > ')}`,
      required:
        fault === 'lost-place' ? `back to ${lastPart(from)}` : 'each screen once, then out of the app',
      why: 'Who followed a link wants to go back to where it stood.',
      remedy:
        fault === 'twice'
          ? 'Give the activity the launch mode singleTop, and take the new link in onNewIntent.'
          : 'Start the screen on top of what is there, without clearing the task.',
    };
  },

  *run(facts): Iterable<Assertion<Data>> {
    for (const run of lastLinkRuns(facts)) {
      const { backChain, cell, inApp } = run;
      if (!inApp) continue;
      if (!backChain) {
        if (run.platform === 'ios' && run.probe === 'good')
          yield {
            outcome: 'untested',
            because: 'the way back from where a link lands, which no drill walks on iOS',
          };
        continue;
      }
      const fault = faultOf(run, backChain);
      yield fault
        ? { outcome: 'failed', cell, draft: draftOf(run, backChain, fault) }
        : { outcome: 'passed', cell };
    }
  },

  doc: {
    looksAt: 'Back, from where a link landed',
    against: 'Each screen once, then out of the app; in front first where the user was',
    matters: 'Who followed a link wants to go back to where it stood.',
    measured: 'Each screen that back leads to from where a link landed.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'AndroidManifest.xml',
        language: 'xml',
        code: '<activity android:name=".SailingActivity" android:launchMode="singleTop" />',
      },
    ],
  },
});

function faultOf({ from, how, landed }: LinkRunFact, chain: readonly string[]): Fault | undefined {
  if (chain.at(-1) !== '') return 'trap';
  const walked = [landed, ...chain];
  if (walked.some((activity, i) => activity !== '' && activity === walked[i + 1])) return 'twice';
  // where the link was for the very screen that was in front, there is nothing in between
  return how === 'front' && landed !== from && chain[0] !== from ? 'lost-place' : undefined;
}

const SEVERITY: Record<Fault, number> = { trap: 3, twice: 2, 'lost-place': 1 };

const draftOf = (run: LinkRunFact, chain: readonly string[], fault: Fault) => ({
  identity: { subject: `route ${run.route}`, aspect: fault },
  target: { kind: 'route' as const, id: run.route },
  basis: 'measured' as const,
  severity: SEVERITY[fault],
  digest: `${fault}: ${chain.join(' > ')}`,
  occurrence: {
    evidence: run.evidence,
    cell: run.cell,
    shown: run.url,
    data: {
      fault,
      how: run.how,
      url: run.url,
      from: run.from,
      chain: [run.landed, ...chain].map((activity) => activity.split('/').at(-1) || 'out'),
    },
  },
});
