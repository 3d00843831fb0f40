/** A release's candidates one after the other: whether it goes towards green, what stays open, and what comes back. */
import { type Area, areas } from '../model/checklist.ts';
import { type Finding, type Priority, rankOfPriority } from '../model/finding.ts';
import type { Judgement, Verdict } from '../model/judgement.ts';
import type { Outcome } from '../model/outcome.ts';
import { outcomeOf } from './apply-rulings.ts';
import { Look, whyNotLooked } from './compare/looked-again.ts';

/** A candidate by the name that it is kept under, in the order of keeping. */
interface TrendInput {
  name: string;
  judgement: Judgement;
}

export interface Trend {
  candidates: {
    name: string;
    build: string;
    judgedAt: string;
    verdict: Verdict;
    counts: Record<Outcome, number>;
  }[];
  /** Items by area and outcome, in the order of the candidates; areas without items are left out. */
  areas: { area: Area; counts: Record<Outcome, number>[] }[];
  /** From the first candidate to the first one after it that is clear; none where none is. */
  toGreen?: { candidates: number; days: number };
  /** Findings that are open in the last candidate, the longest open first. */
  oldest: { id: string; what: string; since: string; candidates: number }[];
  /** Findings that came back after they were looked at and gone, the most often first. */
  returning: { id: string; what: string; times: number; isOpen: boolean }[];
}

const OLDEST = 6;

export function trendOf(candidates: readonly TrendInput[]): Trend {
  const histories = historiesOf(candidates);
  const used = areas.filter((area) =>
    candidates.some(({ judgement }) => judgement.items.some((item) => item.area === area)),
  );
  const green = timeToGreen(candidates);
  return {
    candidates: candidates.map(({ judgement: { candidate, counts, judgedAt, verdict }, name }) => ({
      name,
      build: candidate.build.build,
      judgedAt,
      verdict,
      counts: countsOf((outcome) => counts[outcome] ?? 0),
    })),
    areas: used.map((area) => ({
      area,
      counts: candidates.map(({ judgement }) =>
        countsOf(
          (outcome) =>
            judgement.items.filter((item) => item.area === area && item.outcome === outcome).length,
        ),
      ),
    })),
    ...(green && { toGreen: green }),
    oldest: histories
      .filter(({ states }) => states.at(-1) === 'open')
      .map(({ states, ...of }) => ({ ...of, first: states.indexOf('open', states.lastIndexOf('gone') + 1) }))
      .sort(
        (a, b) =>
          a.first - b.first ||
          rankOfPriority(a.priority) - rankOfPriority(b.priority) ||
          (a.id < b.id ? -1 : 1),
      )
      .slice(0, OLDEST)
      .map(({ first, id, what }) => ({
        id,
        what,
        since: candidates[first]!.name,
        candidates: candidates.length - first,
      })),
    returning: histories
      .map(({ id, states, what }) => ({
        id,
        what,
        times: returnsIn(states),
        isOpen: states.at(-1) === 'open',
      }))
      .filter(({ times }) => times > 0)
      .sort((a, b) => b.times - a.times || (a.id < b.id ? -1 : 1)),
  };
}

const countsOf = (count: (outcome: Outcome) => number): Record<Outcome, number> => ({
  failed: count('failed'),
  cantTell: count('cantTell'),
  untested: count('untested'),
  passed: count('passed'),
  inapplicable: count('inapplicable'),
});

interface History {
  id: string;
  what: string;
  priority: Priority;
  /** In each candidate: open, gone where it was looked at again, or not known. */
  states: ('open' | 'gone' | 'unknown')[];
}

function historiesOf(candidates: readonly TrendInput[]): History[] {
  const looks = candidates.map(({ judgement: { looked } }) => looked && new Look(looked));
  const last = new Map<string, { finding: Finding; at: number; open: Set<number> }>();
  candidates.forEach(({ judgement: { findings, strict } }, at) => {
    for (const finding of findings) {
      if (outcomeOf(finding, strict) === 'passed') continue;
      const open = last.get(finding.id)?.open ?? new Set();
      last.set(finding.id, { finding, at, open: open.add(at) });
    }
  });
  return [...last.values()].map(({ at, finding, open }) => ({
    id: finding.id,
    what: finding.words.what,
    priority: finding.priority,
    states: looks.map((look, i) => {
      if (open.has(i)) return 'open';
      const own = looks[at];
      return look && own && !whyNotLooked(finding, own, look) ? 'gone' : 'unknown';
    }),
  }));
}

/** How often it was there again after it had gone. */
function returnsIn(states: History['states']): number {
  const known = states.filter((state) => state !== 'unknown');
  return known.filter(
    (state, i) => state === 'open' && known[i - 1] === 'gone' && known.slice(0, i).includes('open'),
  ).length;
}

function timeToGreen(candidates: readonly TrendInput[]): Trend['toGreen'] {
  const at = candidates.findIndex(({ judgement }) => judgement.verdict === 'clear');
  if (at < 1) return undefined;
  const time = (i: number) => Date.parse(candidates[i]!.judgement.judgedAt);
  return { candidates: at, days: Math.max(0, Math.round((time(at) - time(0)) / 86_400_000)) };
}
