/** The limits that a team may change in its intent file, each with its default and where that comes from. */
import { z } from 'zod';

export const limitsSchema = z.strictObject({
  /** Minimum ratio of ordinary text. WCAG 2.2, 1.4.3 Contrast (Minimum). */
  textContrast: z.number().min(1).max(21).default(4.5),
  /** Minimum ratio of large text. WCAG 2.2, 1.4.3 Contrast (Minimum). */
  largeTextContrast: z.number().min(1).max(21).default(3),
  /** What 18 and 14 bold are counted in: mobile practice says dp, WCAG 2.2 says points (24 and 18.66 CSS px). */
  largeTextCountedIn: z.enum(['dp', 'pt']).default('dp'),
  /** Minimum ratio of icons and meaningful pictures. WCAG 2.2, 1.4.11 Non-text Contrast. */
  iconContrast: z.number().min(1).max(21).default(3),
  /** Least side of what can be tapped. Android developers, Make apps more accessible, “Increase touch target size”. */
  androidTargetDp: z.number().min(1).default(48),
  /** Least side of what can be tapped. Apple, Human Interface Guidelines, Accessibility, “Mobility”. */
  iosTargetPt: z.number().min(1).default(44),
  /** Stops from which on a screen is long enough to need headings. WCAG 2.2, 2.4.6 gives no number; this one is ours. */
  longScreenStops: z.number().int().min(2).default(15),
  /** How far a picture may be scaled up before it counts as blurred: one step of the densities, 480 to 640 dpi. */
  upscale: z.number().min(1).default(1.34),
  /** Times the width that a translation is expected to have at most (W3C, Text size in translation): 1.2 allows a fifth more. */
  textGrowth: z.number().min(0.1).default(1),
  /** Milliseconds from a cold start to the first frame. Android vitals calls five seconds excessive; two are ours. */
  startMs: z.number().positive().default(2000),
});
export type Limits = z.infer<typeof limitsSchema>;
