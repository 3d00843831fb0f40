import { z } from 'zod';
import { themeSchema } from './cell.ts';
import {
  adsSchema,
  catalogueSyntaxSchema,
  coverageRow,
  drillsSchema,
  iosIntentSchema,
  linksSchema,
  localeTag,
  purchasesSchema,
  pushSchema,
  ratingsSchema,
  reviewsIntentSchema,
  screenSchema,
} from './intent-parts.ts';
import { limitsSchema } from './limits.ts';

const intentFields = z.strictObject({
  fenlok: z.literal('intent/1').describe('What this file is, and the version of its form.'),
  app: z
    .strictObject({
      id: z.string().min(1).describe('Application id (Android) or bundle id (iOS).'),
      suffixes: z
        .array(z.string().regex(/^\.[\w.-]+$/, 'a dot and a word, such as ".beta"'))
        .default([])
        .describe('What the ids of other variants of the app have after it: ".beta", ".staging".'),
      shipped: z
        .strictObject({
          version: z.string().describe('Version name, such as "2.3.1".'),
          build: z.string().describe('Version code (Android) or build number (iOS).'),
        })
        .optional()
        .describe("The build that users have now: the candidate's version must be higher."),
    })
    .describe('Which app this is.'),
  checklist: z
    .strictObject({
      base: z.literal('mobile-release').default('mobile-release').describe('The list to start from.'),
      own: z
        .string()
        .optional()
        .describe('A list file beside this one that adds items, or changes the level of some.'),
    })
    .prefault({})
    .describe("The shipped list to start from, and the team's own list file beside this one."),
  extensions: z
    .array(z.string().min(1))
    .default([])
    .describe("Modules of the team's own beside this file: checks, networks, report formats."),
  sourceLocale: localeTag
    .default('en')
    .describe('The language in which texts are written first, as a BCP 47 tag.'),
  locales: z.array(localeTag).default([]).describe('Every language that ships, as BCP 47 tags.'),
  catalogues: z
    .array(catalogueSyntaxSchema)
    .default([])
    .describe(
      'Catalogues of JSON, YAML, .resx, PO and XLIFF whose syntax is to be named; the first row that fits counts.',
    ),
  untranslated: z
    .array(z.string())
    .default([])
    .describe('Keys that are the same in every language on purpose.'),
  themes: z
    .array(themeSchema)
    .default(['light', 'dark'])
    .describe('Leave out "dark" where the app has no dark theme.'),
  screens: z
    .array(screenSchema)
    .default([])
    .describe('Every screen: its name, how it is reached, and what is changed on it before a drill.'),
  drills: drillsSchema.prefault({}).describe('What drills run, and what they leave alone.'),
  coverage: z
    .array(coverageRow)
    .default([])
    .describe('What must be captured: each row is screens × languages × themes × text sizes × orientations.'),
  devices: z
    .array(
      z.strictObject({
        name: z.string().min(1).describe('As the report calls it.'),
        densityDpi: z
          .number()
          .int()
          .min(72)
          .max(1280)
          .describe('Dots per inch, as the system counts them: 160, 240, 320, 480 …'),
        widthDp: z.number().int().min(100).default(411).describe('Width in dp, held upright.'),
        heightDp: z.number().int().min(100).default(891).describe('Height in dp, held upright.'),
      }),
    )
    .default([])
    .describe('Devices that resources are picked for; without any, a phone and a tablet of every density.'),
  links: linksSchema.prefault({}).describe('Links that open the app.'),
  push: pushSchema.prefault({}).describe('Push messages: channels, categories, and what is sent.'),
  ios: iosIntentSchema.prefault({}).describe('iOS devices: what is done with them from this computer.'),
  purchases: purchasesSchema.prefault({}).describe('What the app sells, and the way to it.'),
  ratings: ratingsSchema.prefault({}).describe('When the app asks for a rating, and how it goes on.'),
  reviews: reviewsIntentSchema.prefault({}).describe('What users write in the store, and what became of it.'),
  ads: adsSchema.prefault({}).describe('Where ads are shown, and which networks are asked.'),
  limits: limitsSchema.prefault({}).describe("Limits of the team's own, in the place of the standards'."),
});

/** `fenlok.yaml`: what *should* be, kept beside the app's source. */
export const intentSchema = intentFields.superRefine(
  ({ ads, coverage, links, purchases, push, screens }, context) => {
    const known = screens.map((screen) => screen.id);
    for (const [i, { actions, screen }] of push.messages.entries())
      for (const wanted of [screen, ...actions.map((action) => action.screen)])
        if (wanted !== undefined && !known.includes(wanted))
          context.addIssue({
            code: 'custom',
            path: ['push', 'messages', i],
            message: `"${wanted}" is not among the screens: ${known.join(', ') || 'there are none'}`,
          });
    for (const [i, { screen }] of ads.placements.entries())
      if (screen !== undefined && !known.includes(screen))
        context.addIssue({
          code: 'custom',
          path: ['ads', 'placements', i, 'screen'],
          message: `"${screen}" is not among the screens: ${known.join(', ') || 'there are none'}`,
        });
    for (const [i, { screen }] of purchases.products.entries())
      if (screen !== undefined && !known.includes(screen))
        context.addIssue({
          code: 'custom',
          path: ['purchases', 'products', i, 'screen'],
          message: `"${screen}" is not among the screens: ${known.join(', ') || 'there are none'}`,
        });
    for (const [i, { screen }] of links.routes.entries())
      if (!known.includes(screen))
        context.addIssue({
          code: 'custom',
          path: ['links', 'routes', i, 'screen'],
          message: `"${screen}" is not among the screens: ${known.join(', ') || 'there are none'}`,
        });
    for (const [i, { parent }] of screens.entries())
      if (parent !== undefined && !known.includes(parent))
        context.addIssue({
          code: 'custom',
          path: ['screens', i, 'parent'],
          message: `"${parent}" is not among the screens: ${known.join(', ')}`,
        });
    for (const [row, { screens: wanted = [] }] of coverage.entries())
      for (const [i, screen] of wanted.entries())
        if (!known.includes(screen))
          context.addIssue({
            code: 'custom',
            path: ['coverage', row, 'screens', i],
            message: `"${screen}" is not among the screens above: ${known.join(', ') || 'there are none'}`,
          });
  },
);
export type Intent = z.infer<typeof intentSchema>;

/** What is assumed of an app that has no intent file yet. */
export const emptyIntent = (appId: string): Intent =>
  intentSchema.parse({ fenlok: 'intent/1', app: { id: appId } });
