import type { Assertion, Check } from '../check.ts';

/** A part that cannot be read may hold what other checks look for, so they prove less than they seem to. */
export const unreadPart = {
  id: 'unread-part',
  area: 'candidate',
  needs: ['package', 'unread-part'],
  *run(facts): Iterable<Assertion> {
    const parts = facts.of('unread-part');
    if (parts.length === 0) yield { outcome: 'passed' };
    for (const { cell, evidence, expected, found, isOdd = false, place, remedy } of parts)
      yield {
        outcome: 'cantTell',
        draft: {
          identity: cell ? { screen: cell.screen, subject: place } : { subject: place },
          basis: 'estimated',
          severity: 1,
          digest: found,
          occurrence: {
            evidence,
            ...(cell && { cell }),
            shown: place,
            data: { place, found, expected, remedy, isCapture: cell !== undefined, isOdd },
          },
        },
      };
  },
} satisfies Check;
