import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { cellSchema } from './cell.ts';
import { areaSchema } from './checklist.ts';
import { cardSchema, findingSchema } from './finding.ts';
import { lookedSchema } from './looked.ts';
import { outcomeSchema } from './outcome.ts';
import { rulingSchema, signOffSchema } from './ruling.ts';

const itemOutcomeSchema = z.strictObject({
  id: z.string(),
  area: areaSchema,
  shows: z.string(),
  level: z.enum(['blocking', 'advisory']),
  outcome: outcomeSchema,
  /** Why it came out so, in one sentence. */
  why: z.string(),
  findings: z.array(z.string()),
  by: z.strictObject({
    checks: z.array(z.string()),
    drill: z.string().optional(),
    procedures: z.array(z.string()).default([]),
    person: z.boolean(),
  }),
});
export type ItemOutcome = z.infer<typeof itemOutcomeSchema>;

const coverageCellSchema = z.strictObject({
  cell: cellSchema.omit({ device: true }),
  /** Whether the intent file wants it, or it was captured besides. */
  planned: z.boolean(),
  outcome: outcomeSchema,
  /** Why nothing can be said: a run that proves nothing, and how to do it right. */
  why: z.string().optional(),
  findings: z.array(z.string()),
  /** Digests of the captures and traces of it. */
  evidence: z.array(z.string()).default([]),
});
export type CoverageCell = z.infer<typeof coverageCellSchema>;

/** What stands at a row and a column: an outcome, and what led to it. */
const tableCellSchema = z.strictObject({
  outcome: outcomeSchema,
  why: z.string().optional(),
  findings: z.array(z.string()),
});
export type TableCell = z.infer<typeof tableCellSchema>;

/** Rows by columns, for what is tried in the same ways many times. */
const outcomeTableSchema = z.strictObject({
  columns: z.array(z.string()),
  rows: z.array(z.strictObject({ name: z.string(), note: z.string(), cells: z.array(tableCellSchema) })),
});
export type OutcomeTable = z.infer<typeof outcomeTableSchema>;

/** Which form of a resource each listed device gets, where that is not as it should be. */
const variantMatrixSchema = z.strictObject({
  devices: z.array(z.strictObject({ name: z.string(), densityDpi: z.number() })),
  rows: z.array(
    z.strictObject({
      resource: z.string(),
      /** By device; the worst of all languages and themes. */
      cells: z.array(
        z.strictObject({
          variant: z.string(),
          /** Of a picture made of pixels: above 1 it is scaled up. */
          scale: z.number().optional(),
          /** The language and theme in which it is so, where not in all. */
          where: z.string().optional(),
        }),
      ),
    }),
  ),
});
export type VariantMatrix = z.infer<typeof variantMatrixSchema>;

/** Contrast of one text in one theme; without a ratio where the picture does not show it. */
const themeSideSchema = z.strictObject({
  outcome: outcomeSchema,
  finding: z.string().optional(),
  ratio: z.number().optional(),
  foreground: z.string().optional(),
  background: z.string().optional(),
});

/** The texts of one screen in light and in dark, the worst first; a theme that was not captured is left out. */
const themePairSchema = z.strictObject({
  screen: z.string(),
  rows: z.array(
    z.strictObject({
      subject: z.string(),
      shown: z.string(),
      light: themeSideSchema.optional(),
      dark: themeSideSchema.optional(),
    }),
  ),
  /** Rows that are left out. */
  more: z.number().int(),
});
export type ThemePair = z.infer<typeof themePairSchema>;

export const verdictSchema = z.enum(['clear', 'blocked', 'open']);
export type Verdict = z.infer<typeof verdictSchema>;

/** The whole of what was decided about one candidate: `fenlok judge --json`. */
export const judgementSchema = z.strictObject({
  fenlok: z.literal('judgement/1'),
  candidate: z.strictObject({ platform: platformSchema, name: z.string(), build: buildKeySchema }),
  judgedAt: z.iso.datetime(),
  /** Where the clock has gone back: the latest time that this dossier or its rulings know of, by which rulings lapse. */
  latestKnown: z.iso.datetime().optional(),
  checklist: z.string(),
  strict: z.boolean(),
  verdict: verdictSchema,
  counts: z.record(outcomeSchema, z.number().int()),
  items: z.array(itemOutcomeSchema),
  findings: z.array(findingSchema),
  /** Every finding is on one card. */
  cards: z.array(cardSchema).default([]),
  switchedOff: z.array(z.strictObject({ item: z.string(), why: z.string() })),
  lapsed: z.array(z.strictObject({ ruling: rulingSchema, why: z.string() })),
  lapsedSignOffs: z.array(z.strictObject({ signOff: signOffSchema, why: z.string() })),
  coverage: z.array(coverageCellSchema),
  /** Screens by drills that were run on a device, or should be. */
  drills: z.array(coverageCellSchema),
  /** The app's routes: in the package, with its sites, and on a device. */
  routes: outcomeTableSchema,
  /** The app's messages: as payloads, shown and tapped in each state of the app. */
  messages: outcomeTableSchema,
  /** The app's products: each situation that a purchase must be seen in. */
  purchases: outcomeTableSchema,
  /** Placements by ad networks: what each needs. */
  ads: outcomeTableSchema,
  /** What a store offered, once in each currency; judgements of before have none. */
  offers: z
    .array(
      z.strictObject({
        product: z.string(),
        /** ISO 4217. */
        currency: z.string(),
        amount: z.number(),
        /** As the store writes it. */
        price: z.string(),
      }),
    )
    .optional(),
  variants: variantMatrixSchema,
  /** By screen, from the captures in the source language at 100 %. */
  themePairs: z.array(themePairSchema),
  /** Evidence bound to the build only by a person's word. */
  assertedEvidence: z.number().int(),
  /** What was looked at, for a later comparison; judgements of before have none. */
  looked: lookedSchema.optional(),
  /** Checks that are none of Fenlok's, and the module that each is from. */
  ownChecks: z.array(z.strictObject({ check: z.string(), module: z.string() })).default([]),
});
export type Judgement = z.infer<typeof judgementSchema>;
