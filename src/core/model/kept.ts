import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { verdictSchema } from './judgement.ts';

const digestSchema = z.string().regex(/^[0-9a-f]{64}$/, 'a SHA-256 digest');

/** One candidate of a release's memory: which files it is made of, each named by what is in it. */
export const keptSchema = z.strictObject({
  fenlok: z.literal('kept/1'),
  /** As people call it: a tag, a version. */
  name: z.string().regex(/^[\w][\w.+-]{0,79}$/, 'letters, digits, dots, dashes, at most 80'),
  /** Its place among the candidates that are kept, from 1. */
  order: z.number().int().positive(),
  platform: platformSchema,
  build: buildKeySchema,
  judgedAt: z.iso.datetime(),
  verdict: verdictSchema,
  /** By their paths: the digest of what is in each, before it is packed. */
  files: z.record(z.string(), z.strictObject({ digest: digestSchema, bytes: z.number().int() })),
});
export type Kept = z.infer<typeof keptSchema>;
