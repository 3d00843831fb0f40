import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { areaSchema } from './checklist.ts';
import { verdictSchema } from './judgement.ts';
import { outcomeSchema } from './outcome.ts';

const sideSchema = z.strictObject({
  outcome: outcomeSchema,
  /** Why it came out so, in one sentence. */
  why: z.string(),
});

const headSchema = z.strictObject({
  name: z.string(),
  build: buildKeySchema,
  verdict: verdictSchema,
  judgedAt: z.iso.datetime(),
});

const differenceSchema = z.strictObject({
  kind: z.enum(['version', 'price', 'screen', 'route', 'finding']),
  /** The one on which it is so, fails, or costs more. */
  on: platformSchema,
  /** A screen, a link with how it was fired, what a finding says; of versions and prices the whole sentence. */
  what: z.string(),
  /** The name of a finding there; empty where there is none. */
  finding: z.string(),
});
export type JointDifference = z.infer<typeof differenceSchema>;

/** A release of both platforms: `fenlok judge DOSSIER DOSSIER --json`. */
export const jointSchema = z.strictObject({
  fenlok: z.literal('joint/1'),
  android: headSchema,
  ios: headSchema,
  /** The worse of the two. */
  verdict: verdictSchema,
  /** What fails on either first. */
  items: z.array(
    z.strictObject({
      id: z.string(),
      area: areaSchema,
      level: z.enum(['blocking', 'advisory']),
      shows: z.string(),
      android: sideSchema,
      ios: sideSchema,
    }),
  ),
  differences: z.array(differenceSchema),
});
export type JointJudgement = z.infer<typeof jointSchema>;
