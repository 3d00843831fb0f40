/** Closing an ad leads back to where its user was, with everything as it was. */
import type { AdShowFact } from '../../model/facts/ads.ts';
import type { Assertion, Check } from '../check.ts';

export const adReturn = {
  id: 'ad-return',
  area: 'ads',
  needs: ['ad-show'],
  *run(facts, intent): Iterable<Assertion> {
    for (const show of facts.of('ad-show')) {
      const { after, before, cell, isClosed, placement } = show;
      if (!isClosed || before === '' || after === '') {
        yield { outcome: 'untested', cell, lacking: `the screen before and after ${placement}` };
        continue;
      }
      const lost = show.lost.filter(({ key }) => !intent.drills.ignore.includes(key));
      yield before === after && lost.length === 0
        ? { outcome: 'passed', cell }
        : { outcome: 'failed', cell, draft: draftOf(show, lost) };
    }
  },
} satisfies Check;

const draftOf = ({ after, at, before, cell, evidence, placement }: AdShowFact, lost: AdShowFact['lost']) => ({
  identity: { subject: `placement ${placement}`, aspect: before === after ? 'state' : 'screen' },
  basis: 'measured' as const,
  severity: before === after ? 1 : 2,
  digest: before === after ? lost.map(({ key, what }) => `${key} ${what}`).join(', ') : after,
  occurrence: {
    evidence,
    cell,
    shown: placement,
    data: { placement, before, after, at, lost: lost.map(({ key, what }) => `${key} (${what})`) },
  },
});
