import { z } from 'zod';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';

const dataSchema = z.strictObject({
  place: z.string(),
  found: z.string(),
  expected: z.string(),
  remedy: z.string(),
  isCapture: z.boolean(),
  isOdd: z.boolean(),
});
type Data = z.infer<typeof dataSchema>;

/** A part that cannot be read may hold what other checks look for, so they prove less than they seem to. */
export const unreadPart = defineCheck({
  id: 'unread-part',
  area: 'candidate',
  priority: 'harder',
  standard: 'The formats of both platforms',
  basis: 'estimated',
  needs: 'package',
  reads: ['unread-part'],
  data: dataSchema,
  words: ({ expected, found, isCapture, isOdd, place, remedy }) => ({
    what: isCapture
      ? `Picture and tree of a capture do not belong together: ${place}`
      : isOdd
        ? `The package holds a part that no build tool writes so: ${place}`
        : `A part of the package could not be read: ${place}`,
    measured: found,
    required: expected || (isOdd ? 'a name inside of the package' : 'a part that can be read'),
    why: isOdd
      ? 'Readers differ on such a part: one device or store may see another package than the one that was checked.'
      : 'What it would show is not known, so checks that look at it prove less than they seem to.',
    remedy: remedy || 'Build the package again, or look at this part by hand and rule on it.',
  }),

  *run(facts): Iterable<Assertion<Data>> {
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

  doc: {
    looksAt: 'Every part of the package; of captures, whether the picture shows the texts of the tree',
    against:
      'That it can be read, and is written as packers write it; that picture and tree are of one moment. Always estimated',
    matters:
      'What stands in a part that cannot be read is not known, so other checks prove less than they seem to.',
    measured:
      'Every part that a reader could not take, with file, place and what was found; parts that no build tool writes so; pictures that do not show the texts of their tree.',
    errs: 'Always estimated. A part that is encrypted or packed on purpose is told as well.',
    fixes: [
      {
        where: 'Any',
        language: 'text',
        code: 'Build the package again; take captures again in which the screen had come to rest.',
      },
    ],
  },
});
