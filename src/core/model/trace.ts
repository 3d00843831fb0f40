import { z } from 'zod';

/** One timed event, one object a line. Anything may stand beside `at` and `kind`. */
export const traceLineSchema = z.looseObject({
  /** ISO 8601 with offset or Z. */
  at: z.iso.datetime({ offset: true }),
  kind: z.string().regex(/^[a-z][a-z0-9.-]*$/, 'a kind is lower case, such as "link.opened"'),
});
export type TraceLine = z.infer<typeof traceLineSchema>;
