import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { areaSchema } from './checklist.ts';
import { prioritySchema } from './finding.ts';
import { verdictSchema } from './judgement.ts';
import { basisSchema, outcomeSchema } from './outcome.ts';
import { rulingSchema } from './ruling.ts';

/** What became of a finding from one candidate to the next; those that ask for something come first. */
export const changes = [
  'new',
  'worse',
  // it passed before, and is an estimate now that a person must look at
  'undecided',
  // the candidate before was not looked at there, so that nobody knows since when it fails
  'first-look',
  // it is not found any more, and nobody looked there again: neither fixed nor unchanged
  'not-looked-again',
  // what it asks is another limit now, so that it came or went without a change of the app
  'other-limit',
  // the same on an element or a resource that has another name now
  'moved',
  'unchanged',
  'better',
  // it was an estimate, and is fine now
  'cleared',
  'fixed',
] as const;
export type Change = (typeof changes)[number];

const comparedFindingSchema = z.strictObject({
  change: z.enum(changes),
  check: z.string(),
  area: areaSchema,
  priority: prioritySchema,
  /** What it is about: `booking, passengers_minus`. */
  where: z.string(),
  what: z.string(),
  /** Its name in either judgement, and what was measured there; a name that is missing is not found there. */
  before: z.strictObject({ id: z.string(), measured: z.string(), basis: basisSchema }).optional(),
  after: z
    .strictObject({
      id: z.string(),
      measured: z.string(),
      required: z.string(),
      remedy: z.string(),
      basis: basisSchema,
      outcome: outcomeSchema,
    })
    .optional(),
  /** Why nothing more can be said; or what makes it the same finding. */
  why: z.string().optional(),
});
export type ComparedFinding = z.infer<typeof comparedFindingSchema>;

const sideSchema = z.strictObject({
  platform: platformSchema,
  name: z.string(),
  build: buildKeySchema,
  judgedAt: z.iso.datetime(),
  verdict: verdictSchema,
});

const ruledSchema = rulingSchema.pick({ about: true, by: true, finding: true, ruling: true, why: true });

/** Two candidates, the later one against the earlier: `fenlok compare --json`. */
export const comparisonSchema = z.strictObject({
  fenlok: z.literal('comparison/1'),
  before: sideSchema,
  after: sideSchema,
  /** Something measured is new or worse, or an item fails that did not. */
  isWorse: z.boolean(),
  counts: z.record(z.enum(changes), z.number().int()),
  findings: z.array(comparedFindingSchema),
  /** Items whose outcome changed; one that the other list does not hold has none there. */
  items: z.array(
    z.strictObject({
      id: z.string(),
      area: areaSchema,
      shows: z.string(),
      before: outcomeSchema.optional(),
      after: outcomeSchema.optional(),
    }),
  ),
  /** What was looked at in one candidate alone, in words. */
  coverage: z.strictObject({ gained: z.array(z.string()), lost: z.array(z.string()) }),
  rulings: z.strictObject({
    carried: z.array(ruledSchema),
    /** With why, and what the finding is called now where it goes by another name. */
    lapsed: z.array(ruledSchema.extend({ because: z.string(), now: z.string().optional() })),
    notNeeded: z.array(ruledSchema),
  }),
  /** Sign-offs that held for the candidate before, and not for this one. */
  signOffsToRenew: z.array(z.strictObject({ item: z.string(), by: z.string(), because: z.string() })),
});
export type Comparison = z.infer<typeof comparisonSchema>;
