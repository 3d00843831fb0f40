/** Stacks of calls, as logs and crash reports write them. */
import { z } from 'zod';

const stackFrameSchema = z.strictObject({
  /** With its package: `example.kelpline.CartActivity`; of native code the library. */
  className: z.string(),
  method: z.string(),
  /** Empty where the log tells none. */
  file: z.string(),
  line: z.number().int().optional(),
  /** Other methods that it may be as well: several were given the same name. */
  or: z.array(z.string()).optional(),
});
export type StackFrame = z.infer<typeof stackFrameSchema>;

/** An exception, or one of its causes. */
export const thrownSchema = z.strictObject({
  exception: z.string(),
  message: z.string(),
  /** The innermost first. */
  frames: z.array(stackFrameSchema),
});
export type Thrown = z.infer<typeof thrownSchema>;
