/** What logs and crash reports tell of an app: kept in a dossier without anything that other apps wrote. */
import { z } from 'zod';
import { thrownSchema } from './stack.ts';

const troubleSorts = [
  'crash',
  'native-crash',
  'not-responding',
  'thread-policy',
  'leak',
  'skipped-frames',
] as const;

const troubleSchema = z.strictObject({
  sort: z.enum(troubleSorts),
  /** As the log writes it, with its own time zone or none. */
  at: z.string(),
  /** Where it happened: `main`, the name of a thread. */
  thread: z.string(),
  /**
   * What was thrown and its causes. Of an app that did not answer: what it was doing, with no exception. Of a policy or a leak: its
   * name, and where it was broken or made.
   */
  thrown: z.array(thrownSchema),
  /** What the system says besides: the reason, the signal, what was leaked. */
  about: z.string(),
  /** Frames that were left out; 0 elsewhere. */
  frames: z.number().int(),
  /** How often this one is in the log. */
  count: z.number().int(),
  /** Of native code: the file's build id or UUID and the address in it, a line each frame, for symbols. */
  addresses: z
    .array(z.strictObject({ image: z.string(), uuid: z.string(), offset: z.number().int() }))
    .optional(),
});
export type Trouble = z.infer<typeof troubleSchema>;
export type TroubleSort = Trouble['sort'];

/** One log or report, as far as it is about the app. */
export const deviceLogSchema = z.strictObject({
  /** Lines of a log; 0 where it is a report of one crash. */
  lines: z.number().int(),
  /** The app was running while it was written. */
  sawApp: z.boolean(),
  /** The version in it, where it tells one. */
  version: z.string(),
  /** The app's own binary, by which reports name its frames; empty where classes tell. */
  program: z.string(),
  /** Of drills, whose runs tell of crashes themselves: none is in it. */
  withoutCrashes: z.literal(true).optional(),
  /** Activities of the app that were made, and that ended, by their full names; none where the log has no events. */
  made: z.array(z.string()),
  ended: z.array(z.string()),
  troubles: z.array(troubleSchema),
});
export type DeviceLog = z.infer<typeof deviceLogSchema>;
