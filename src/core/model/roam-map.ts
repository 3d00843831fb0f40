import { z } from 'zod';
import { buildKeySchema } from './candidate.ts';
import { stepSchema } from './intent-parts.ts';

/** One screen that a roam has seen, or a dialog on one. */
const roamScreenSchema = z.strictObject({
  /** Made from the activity's name: `booking`, `tickets-details`. */
  id: z.string(),
  activity: z.string(),
  /** Ids of what does not scroll: what it is known again by. */
  outline: z.array(z.string()),
  title: z.string(),
  /** The shortest way that was found, from the app's first screen. */
  way: z.array(stepSchema),
  /** Taps from the first screen. */
  depth: z.number().int(),
  /** File name of its picture, beside the map. */
  picture: z.string().optional(),
  /** What can be touched there; typed in before are the given inputs. */
  actions: z.array(
    z.strictObject({
      name: z.string(),
      /** Words on it, for people. */
      shown: z.string(),
      outcome: z.enum(['untried', 'avoided', 'stayed', 'moved', 'left', 'crashed', 'failed']),
      to: z.string().optional(),
    }),
  ),
});
export type RoamScreen = z.infer<typeof roamScreenSchema>;

/** What an explorer found that walked an app by itself. */
export const roamMapSchema = z.strictObject({
  fenlok: z.literal('roam/1'),
  build: buildKeySchema,
  device: z.string(),
  deviceId: z.string(),
  screens: z.array(roamScreenSchema),
  crashes: z.array(
    z.strictObject({ screen: z.string(), action: z.string(), exception: z.string(), frame: z.string() }),
  ),
  /** Activities of the manifest that were never in front. */
  neverReached: z.array(z.string()),
  /** Acts so far, over all runs. */
  stepsTaken: z.number().int(),
  /** Nothing is left to try. */
  finished: z.boolean(),
});
export type RoamMap = z.infer<typeof roamMapSchema>;
