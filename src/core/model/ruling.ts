import { z } from 'zod';
import { buildKeySchema } from './candidate.ts';

const dateSchema = z.iso.date();

/** A person's decision on one finding. It holds for later candidates until the evidence under it changes. */
export const rulingSchema = z.strictObject({
  /** The finding's short name, `xxxx-xxxx`. */
  finding: z.string().regex(/^[0-9a-z]{4}-[0-9a-z]{4}$/, 'a finding\'s name, such as "k3f9-02ab"'),
  /** The same in words, for those who read the file. */
  about: z.string().default(''),
  /** What was measured when the ruling was made; another digest makes the ruling lapse. */
  digest: z.string().min(1),
  ruling: z.enum(['false-alarm', 'accepted', 'real']),
  why: z.string().min(1),
  by: z.string().min(1),
  at: dateSchema,
  /** Last day on which an acceptance holds. */
  until: dateSchema.optional(),
  /** Build number up to which an acceptance holds. */
  untilBuild: z.string().optional(),
});
export type Ruling = z.infer<typeof rulingSchema>;

/** What a sign-off may rest on besides the build: it holds for later ones until that changes. */
export const signOffBases = ['texts', 'screens', 'code'] as const;
export type SignOffBasis = (typeof signOffBases)[number];

/** A person's outcome for an item that no machine can decide, for one build. */
export const signOffSchema = z.strictObject({
  item: z.string().min(1),
  outcome: z.enum(['passed', 'failed', 'inapplicable']),
  why: z.string().min(1),
  by: z.string().min(1),
  at: dateSchema,
  build: buildKeySchema,
  /** Last day on which it holds. */
  until: dateSchema.optional(),
  /** With the digest of it when it was signed. */
  restsOn: z.strictObject({ what: z.enum(signOffBases), digest: z.string().min(1) }).optional(),
  /** Files of the dossier that show it. */
  attached: z.array(z.string().min(1)).optional(),
});
export type SignOff = z.infer<typeof signOffSchema>;

/** `rulings.yaml`, kept beside the intent file. */
export const rulingsFileSchema = z.strictObject({
  fenlok: z.literal('rulings/1'),
  rulings: z.array(rulingSchema).default([]),
  signOffs: z.array(signOffSchema).default([]),
});
export type RulingsFile = z.infer<typeof rulingsFileSchema>;
