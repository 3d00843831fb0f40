/** What users write in a store, as the store hands it out: a table of theirs, one review a row. */
import { z } from 'zod';

/** What of a review is used; a table has its own names for them. */
export const reviewColumns = ['text', 'version', 'device', 'stars'] as const;
export type ReviewColumn = (typeof reviewColumns)[number];

export const reviewsSchema = z.strictObject({
  /** Each row by the names that its table has. */
  rows: z.array(z.record(z.string(), z.string())).max(200_000),
});
export type Reviews = z.infer<typeof reviewsSchema>;

/** How far a bug has come that users have written of. */
export const bugStates = ['open', 'fixed', 'answered', 'cannot-reproduce'] as const;
