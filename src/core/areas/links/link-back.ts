/**
 * From where a link lands, back leads to where the user was: the screen that was in front, or out of the app to whoever
 * had the link (Android developers, *Principles of navigation*).
 */
import type { LinkRunFact } from '../../model/facts/links.ts';
import type { Assertion, Check } from '../check.ts';
import { lastLinkRuns } from './last-link-runs.ts';

type Fault = 'trap' | 'twice' | 'lost-place';

export const linkBack = {
  id: 'link-back',
  area: 'links',
  needs: ['link-run'],
  *run(facts): Iterable<Assertion> {
    for (const run of lastLinkRuns(facts)) {
      const { backChain, cell, inApp } = run;
      if (!backChain || !inApp) continue;
      const fault = faultOf(run, backChain);
      yield fault
        ? { outcome: 'failed', cell, draft: draftOf(run, backChain, fault) }
        : { outcome: 'passed', cell };
    }
  },
} satisfies Check;

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
