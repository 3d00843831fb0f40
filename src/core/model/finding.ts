import { z } from 'zod';
import { cellSchema } from './cell.ts';
import { areaSchema } from './checklist.ts';
import { boxSchema } from './geometry.ts';
import { basisSchema } from './outcome.ts';

/** Plain values that the message table turns into words. */
const findingDataSchema = z.record(
  z.string(),
  z.union([z.string(), z.number(), z.boolean(), z.array(z.string())]),
);
export type FindingData = z.infer<typeof findingDataSchema>;

/** One place where a finding was seen. */
const occurrenceSchema = z.strictObject({
  evidence: z.string(),
  cell: cellSchema.optional(),
  boundsPx: boxSchema.optional(),
  shown: z.string().default(''),
  data: findingDataSchema,
});
export type Occurrence = z.infer<typeof occurrenceSchema>;

/** What a person reads of a finding. */
const wordsSchema = z.strictObject({
  what: z.string(),
  measured: z.string(),
  required: z.string(),
  why: z.string(),
  remedy: z.string(),
});
export type Words = z.infer<typeof wordsSchema>;

/** What a finding costs, by its check: what is told first where there is much to tell. The worst comes first. */
export const priorities = [
  // the build cannot be shipped, is not the one that was meant, or puts the team's account at risk
  'cannot-ship',
  // the app ends; money is taken twice, or given back by the store
  'app-ends',
  // people cannot do something at all
  'cannot-use',
  // something is lost, wrong, or open to others
  'wrong',
  // it is hard to use, or untidy
  'harder',
] as const;
export type Priority = (typeof priorities)[number];
export const prioritySchema = z.enum(priorities);

/** What a finding is about, for tables to join by. */
const targetSchema = z.strictObject({
  kind: z.enum(['route', 'host', 'component', 'message', 'payload', 'product', 'placement', 'network']),
  /** As the intent file or the package names it. */
  id: z.string(),
  /** Of a message the state of the app, of a placement the network, of a network what is missing, of a product the matter. */
  part: z.string().optional(),
});
export type Target = z.infer<typeof targetSchema>;

/** One failure. Its identity says *what* fails, its digest *how*; raw evidence is in neither. */
export const findingSchema = z.strictObject({
  /** Short name made from the identity, `xxxx-xxxx`. */
  id: z.string(),
  check: z.string(),
  area: areaSchema,
  /** That of its check. */
  priority: prioritySchema.default('harder'),
  identity: z.strictObject({
    screen: z.string().optional(),
    /** Language-free element key, resource key or component. */
    subject: z.string(),
    /** Tells apart failures of one subject that are fixed apart, such as the theme of a colour. */
    aspect: z.string().optional(),
    /** Its place in a list, from 1, where rows share their key and not their values. */
    row: z.number().int().positive().optional(),
  }),
  target: targetSchema.optional(),
  digest: z.string(),
  /** What it was called before, or its row together with others, by which earlier rulings name it. */
  former: z.strictObject({ id: z.string(), digest: z.string() }).optional(),
  /** Findings of one check on one screen with the same cause and remedy are fixed at once. */
  cause: z.string().optional(),
  basis: basisSchema,
  /** Worst first; higher is worse. Comparable within one check. */
  severity: z.number(),
  /** The worst one first. */
  occurrences: z.array(occurrenceSchema).min(1),
  words: wordsSchema,
  ruling: z
    .strictObject({ ruling: z.enum(['false-alarm', 'accepted', 'real']), why: z.string(), by: z.string() })
    .optional(),
});
export type Finding = z.infer<typeof findingSchema>;

/** Findings with one cause, told and decided together: the places of one card. */
export const cardSchema = z.strictObject({
  /** The name of its first finding. */
  id: z.string(),
  /** The worst one first. */
  findings: z.array(z.string()).min(1),
});
export type Card = z.infer<typeof cardSchema>;
export type FindingIdentity = Finding['identity'];

/** 0 is the worst. */
export const rankOfPriority = (priority: Priority): number => priorities.indexOf(priority);
