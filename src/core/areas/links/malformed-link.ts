/** A malformed or stale link leads to something that can be read, and never to a crash. */
import type { LinkRunFact } from '../../model/facts/links.ts';
import type { Assertion, Check } from '../check.ts';
import { lastLinkRuns } from './last-link-runs.ts';

type Fault = 'crash' | 'not-responding' | 'blank';

export const malformedLink = {
  id: 'malformed-link',
  area: 'links',
  needs: ['link-run'],
  *run(facts): Iterable<Assertion> {
    for (const run of lastLinkRuns(facts)) {
      if (run.probe !== 'hostile') continue;
      const fault = faultOf(run);
      yield fault
        ? { outcome: 'failed', cell: run.cell, draft: draftOf(run, fault) }
        : { outcome: 'passed', cell: run.cell };
    }
  },
} satisfies Check;

function faultOf({ crash, inApp, notResponding, texts }: LinkRunFact): Fault | undefined {
  if (crash) return 'crash';
  if (notResponding) return 'not-responding';
  return inApp && texts.length === 0 ? 'blank' : undefined;
}

const SEVERITY: Record<Fault, number> = { crash: 3, 'not-responding': 2, blank: 1 };

const draftOf = (run: LinkRunFact, fault: Fault) => ({
  identity: { subject: `route ${run.route}`, aspect: `${fault} ${run.crash?.frame ?? ''}`.trim() },
  basis: 'measured' as const,
  severity: SEVERITY[fault],
  digest: `${fault} ${run.crash?.exception ?? ''}`,
  occurrence: {
    evidence: run.evidence,
    cell: run.cell,
    shown: run.url.slice(0, 200),
    data: {
      fault,
      variant: run.variant,
      url: run.url.slice(0, 200),
      exception: run.crash?.exception ?? '',
      message: run.crash?.message ?? '',
      frame: run.crash?.frame ?? '',
    },
  },
});
