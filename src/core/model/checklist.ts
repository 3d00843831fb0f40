import { z } from 'zod';
import { platformSchema } from './candidate.ts';
import { currentDrillName } from './drill.ts';

export const areas = [
  'candidate',
  'accessibility',
  'contrast',
  'localization',
  'resources',
  'lifecycle',
  'links',
  'push',
  'purchases',
  'ads',
  'ratings',
  'quality',
  'listing',
] as const;
export const areaSchema = z.enum(areas);
export type Area = z.infer<typeof areaSchema>;

/** How an item is shown: by checks, by a drill on a device, by a person's sign-off. */
const shownBySchema = z.strictObject({
  checks: z.array(z.string()).default([]),
  drill: z.string().transform(currentDrillName).optional(),
  /** Of a capture sweep: settings that captures must have been taken under, each of them. */
  procedures: z.array(z.string()).default([]),
  person: z.boolean().default(false),
});

const itemSchema = z.strictObject({
  id: z.string().regex(/^[a-z0-9]+(?:[.-][a-z0-9]+)*$/, 'lower case, dots and dashes'),
  area: areaSchema,
  /** One plain sentence: what must be shown. */
  shows: z.string().min(1),
  level: z.enum(['blocking', 'advisory']),
  platforms: z.array(platformSchema).default(['android', 'ios']),
  by: shownBySchema,
  /** What a person does, and what to look for, before signing. */
  steps: z.array(z.string().min(1)).default([]),
});
export type Item = z.infer<typeof itemSchema>;

/** A list as shipped, or a team's own: the latter may switch items off and change their level. */
export const checklistSchema = z.strictObject({
  fenlok: z.literal('checklist/1'),
  name: z.string().min(1),
  items: z.array(itemSchema).default([]),
  off: z.array(z.strictObject({ item: z.string(), why: z.string().min(1) })).default([]),
  levels: z
    .array(
      z.strictObject({ item: z.string(), level: z.enum(['blocking', 'advisory']), why: z.string().min(1) }),
    )
    .default([]),
});
export type Checklist = z.infer<typeof checklistSchema>;
