/** The limits that a team may change in its intent file, each with its default and where that comes from. */
import { z } from 'zod';
import { standardLimits } from './standard-limits.ts';

export const limitsSchema = z.strictObject({
  textContrast: z
    .number()
    .min(1)
    .max(21)
    .default(standardLimits.textContrast)
    .describe('Minimum ratio of ordinary text. WCAG 2.2, 1.4.3 Contrast (Minimum).'),
  largeTextContrast: z
    .number()
    .min(1)
    .max(21)
    .default(standardLimits.largeTextContrast)
    .describe('Minimum ratio of large text. WCAG 2.2, 1.4.3 Contrast (Minimum).'),
  largeTextCountedIn: z
    .enum(['dp', 'pt'])
    .default(standardLimits.largeTextCountedIn)
    .describe(
      'What 18 and 14 bold are counted in: mobile practice says dp, WCAG 2.2 says points (24 and 18.66 CSS px).',
    ),
  iconContrast: z
    .number()
    .min(1)
    .max(21)
    .default(standardLimits.iconContrast)
    .describe('Minimum ratio of icons and meaningful pictures. WCAG 2.2, 1.4.11 Non-text Contrast.'),
  androidTargetDp: z
    .number()
    .min(1)
    .default(standardLimits.androidTargetDp)
    .describe(
      'Least side of what can be tapped. Android developers, Make apps more accessible, “Increase touch target size”.',
    ),
  iosTargetPt: z
    .number()
    .min(1)
    .default(standardLimits.iosTargetPt)
    .describe(
      'Least side of what can be tapped. Apple, Human Interface Guidelines, Accessibility, “Mobility”.',
    ),
  longScreenStops: z
    .number()
    .int()
    .min(2)
    .default(standardLimits.longScreenStops)
    .describe(
      'Stops from which on a screen is long enough to need headings. WCAG 2.2, 2.4.6 gives no number; this one is ours.',
    ),
  upscale: z
    .number()
    .min(1)
    .default(standardLimits.upscale)
    .describe(
      'How far a picture may be scaled up before it counts as blurred: one step of the densities, 480 to 640 dpi.',
    ),
  textGrowth: z
    .number()
    .min(0.1)
    .default(standardLimits.textGrowth)
    .describe(
      'Times the width that a translation is expected to have at most (W3C, Text size in translation): 1.2 allows a fifth more.',
    ),
  startMs: z
    .number()
    .positive()
    .default(standardLimits.startMs)
    .describe(
      'Milliseconds from a cold start to the first frame. Android vitals calls five seconds excessive; two are ours.',
    ),
});
export type Limits = z.infer<typeof limitsSchema>;
