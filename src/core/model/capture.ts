import { z } from 'zod';
import { buildKeySchema, platformSchema } from './candidate.ts';
import { cellSchema } from './cell.ts';
import { uiNodeSchema } from './ui-tree.ts';

const unprovenSettingSchema = z.enum(['locale', 'textScale']);
export type UnprovenSetting = z.infer<typeof unprovenSettingSchema>;

/**
 * One screen at one moment. The file lies beside its picture and, on Android, beside the OS's own
 * UI hierarchy dump; a capture from elsewhere can carry its `tree` inline instead.
 */
export const captureSchema = z
  .strictObject({
    fenlok: z.literal('capture/1'),
    platform: platformSchema,
    /** The build that was on the device; without it the capture is taken in as *asserted*. */
    build: buildKeySchema.optional(),
    cell: cellSchema,
    /** Settings of the cell of which nothing said that they took: arguments of a run, where the app tells nothing of itself. */
    unproven: z.array(unprovenSettingSchema).optional(),
    /** ISO 8601. */
    at: z.iso.datetime({ offset: true }).optional(),
    /** Dots per inch of the device's logical density: 160, 240, 320, 480 … */
    densityDpi: z.number().int().min(72).max(1280),
    /** File name of the screenshot, beside this file. */
    picture: z.string().min(1),
    /** File name of the UI hierarchy XML, beside this file. */
    hierarchy: z.string().min(1).optional(),
    tree: uiNodeSchema.optional(),
    /**
     * What the tree carries beyond the OS's own dump. What is not named here is untested on this capture, never passed
     * or failed.
     */
    carries: z
      .array(z.enum(['traits', 'values', 'headings', 'label-for', 'actions', 'gestures']))
      .default([]),
  })
  .refine((capture) => (capture.hierarchy === undefined) !== (capture.tree === undefined), {
    message: 'a capture names either a hierarchy file or carries a tree, not both and not neither',
  });
export type Capture = z.infer<typeof captureSchema>;
