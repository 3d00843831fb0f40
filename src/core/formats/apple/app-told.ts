/** Lines that debug code of an app tells a lookout of its own process (docs/ios.md). */
import { z } from 'zod';

const toldSchema = z.discriminatedUnion('kind', [
  z.looseObject({
    kind: z.literal('app.began'),
    pid: z.int(),
    /** ISO 8601. */
    startedAt: z.string(),
    version: z.string().optional(),
    build: z.string().optional(),
    /** The localization that the system picked. */
    language: z.string().optional(),
    /** Without UIKit's prefix: `L`, `AccessibilityXL`. */
    contentSize: z
      .string()
      .transform((name) => name.replace(/^UICTContentSizeCategory/, ''))
      .optional(),
  }),
  z.looseObject({ kind: z.literal('app.drawn'), afterMs: z.number().nonnegative() }),
  z.looseObject({ kind: z.literal('app.advertising-id'), id: z.string().min(1) }),
]);
type Told = z.infer<typeof toldSchema>;
export type BegunApp = Extract<Told, { kind: 'app.began' }>;

/** @returns undefined for a line about anything else, and for one that is not whole */
export function readTold(line: string): Told | undefined {
  if (!line.includes('"app.')) return undefined;
  try {
    return toldSchema.safeParse(JSON.parse(line)).data;
  } catch {
    return undefined;
  }
}
