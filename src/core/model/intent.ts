import { z } from 'zod';
import { adFormatSchema, adNetworkSchema } from './ad-network.ts';
import { textSyntaxes } from './catalogue.ts';
import { orientationSchema, themeSchema } from './cell.ts';
import { screenDrills } from './drill.ts';
import { productKindSchema } from './ledger.ts';
import { limitsSchema } from './limits.ts';
import { isLocaleTag } from './locale.ts';

const id = z.string().regex(/^[a-z0-9][a-z0-9._-]*$/i, 'letters, digits, dot, dash and underscore');
const localeTag = z.string().refine(isLocaleTag, 'a BCP 47 language tag, such as "de" or "pt-BR"');

/**
 * A set of cells that must be covered: every screen (or the ones named) under each combination, in the
 * source language and all the app's themes where none are named.
 */
const coverageRow = z.strictObject({
  procedure: z.string().default('as-is'),
  screens: z.array(id).optional(),
  locales: z.array(localeTag).optional(),
  themes: z.array(themeSchema).optional(),
  textScales: z.array(z.number()).default([1]),
  orientations: z.array(orientationSchema).default(['portrait']),
});

/** One act on the way to a screen, or on it. Elements are named by id, or by what stands on them. */
export const stepSchema = z.union([
  z.strictObject({ tap: z.string().min(1) }),
  z.strictObject({ type: z.string().min(1), into: z.string().min(1) }),
  z.strictObject({ scroll: z.enum(['down', 'up']) }),
  z.strictObject({ press: z.enum(['back', 'home']) }),
  /** A link, addressed to the app. */
  z.strictObject({ open: z.string().min(1) }),
]);
export type Step = z.infer<typeof stepSchema>;

const screenSchema = z.strictObject({
  id,
  /** End of the name of its activity: `BookingActivity`. */
  activity: z.string().min(1).optional(),
  /** The screen that back leads to. */
  parent: id.optional(),
  /** From the app's first screen to this one; `[]` where it is the first. */
  reach: z.array(stepSchema).optional(),
  /** What is changed on it before a drill, so that there is something to lose. */
  change: z.array(stepSchema).default([]),
});
export type IntentScreen = z.infer<typeof screenSchema>;

const drillsSchema = z.strictObject({
  /** Which ones every screen must stand. */
  run: z.array(z.enum(screenDrills)).default([...screenDrills]),
  /** Elements that change by themselves, by their keys. */
  ignore: z.array(z.string()).default([]),
  /** Services that may run on after the user has gone home: ends of their class names. */
  services: z.array(z.string()).default([]),
  /** What roaming types, by id of the field; and words on things that it must not touch. */
  inputs: z.record(z.string(), z.string()).default({}),
  avoid: z.array(z.string()).default([]),
});

const argumentSchema = z.strictObject({
  type: z.enum(['text', 'integer', 'date']).default('text'),
  /** What a probe fills in; without it, something of the type. */
  example: z.string().optional(),
});

const routeSchema = z.strictObject({
  id,
  /**
   * `/sailings/{sailing}?day={day?}` on every host of the app, or whole: `kelpline://tickets`. An argument with a
   * question mark may be left out.
   */
  url: z.string().regex(/^(\/|[a-z][a-z0-9+.-]*:)/i, 'a path that begins with a slash, or a whole URL'),
  arguments: z.record(z.string(), argumentSchema).default({}),
  /** Where it lands. */
  screen: id,
  /** Texts that stand on that screen when the arguments of the examples have arrived. */
  shows: z.array(z.string()).default([]),
});
export type IntentRoute = z.infer<typeof routeSchema>;

const linksSchema = z.strictObject({
  /** Private schemes that a browser must be able to open. */
  schemes: z.array(z.string()).default([]),
  /** Sites whose links are the app's. */
  hosts: z.array(z.string().min(1)).default([]),
  /** Which web schemes a link may come with. */
  webSchemes: z.array(z.enum(['https', 'http'])).default(['https', 'http']),
  /** SHA-256 of the certificate that the installed app is signed with, where a store signs again. */
  certificates: z.array(z.string()).default([]),
  routes: z.array(routeSchema).default([]),
  /** URLs of the same sites that must stay in the browser. */
  browser: z.array(z.string()).default([]),
});
export type IntentLinks = z.infer<typeof linksSchema>;

const pushMessageSchema = z.strictObject({
  id,
  /** The payload, in a file beside this one. */
  payload: z.string().min(1),
  /** Where a tap on it lands; none for a silent one. */
  screen: id.optional(),
  /** Its buttons, by what stands on them, and where each leads. */
  actions: z.array(z.strictObject({ label: z.string().min(1), screen: id })).default([]),
});
export type IntentPushMessage = z.infer<typeof pushMessageSchema>;

const pushSchema = z.strictObject({
  /** From the app's first screen to where it asks whether it may send messages. */
  ask: z.array(stepSchema).default([]),
  /** Ids of the channels that the app makes (Android). */
  channels: z.array(z.string()).default([]),
  /** Categories that the app registers (iOS). */
  categories: z.array(z.string()).default([]),
  messages: z.array(pushMessageSchema).default([]),
});

const intentProductSchema = z.strictObject({
  /** As the store knows it. */
  id: z.string().min(1),
  kind: productKindSchema,
  /** ISO 8601, of a subscription or of something for a fixed term: `P1M`. */
  period: z
    .string()
    .regex(/^P\d{1,3}[DWMY]$/, 'a period such as P1W, P1M or P1Y')
    .optional(),
  /** From the app's first screen to the button that buys it, which is the last. */
  buy: z.array(stepSchema).default([]),
  /** Where it is offered. */
  screen: id.optional(),
});
export type IntentProduct = z.infer<typeof intentProductSchema>;

const purchasesSchema = z.strictObject({
  products: z.array(intentProductSchema).default([]),
  /** The tester who is signed in to the store on the test devices. */
  account: z.string().min(1).default('tester'),
  /** What stands on the buttons of the store's own sheet, or their ids. */
  sheet: z
    .strictObject({ buy: z.string().min(1), cancel: z.string().min(1) })
    .default({ buy: 'store_buy_button', cancel: 'store_cancel_button' }),
  /** From the app's first screen to the button that restores purchases, which is the last. */
  restore: z.array(stepSchema).default([]),
});

const waterfallEntrySchema = z.strictObject({
  /** Id of a network. */
  network: id,
  /** Where the platforms have parameters of their own, by `android` and `ios` in the place of a text. */
  parameters: z
    .record(z.string(), z.union([z.string(), z.strictObject({ android: z.string(), ios: z.string() })]))
    .default({}),
});
export type WaterfallEntry = z.infer<typeof waterfallEntrySchema>;

const placementSchema = z.strictObject({
  id,
  format: adFormatSchema,
  /** Where it is shown. */
  screen: id.optional(),
  /** From the app's first screen to where it is loaded. */
  load: z.array(stepSchema).optional(),
  /** From there to where it fills the screen; none where it is shown as it loads. */
  show: z.array(stepSchema).default([]),
  /** Networks in the order in which they are asked. */
  waterfall: z.array(waterfallEntrySchema).min(1),
});
export type AdPlacement = z.infer<typeof placementSchema>;

const adsSchema = z.strictObject({
  /** What each network needs: files beside this one, or written out here. */
  networks: z.array(z.union([z.string().min(1), adNetworkSchema])).default([]),
  placements: z.array(placementSchema).default([]),
  /** The product that removes ads. */
  removedBy: z.string().min(1).optional(),
});

const catalogueSyntaxSchema = z.strictObject({
  /** The name of the files, or their folder and name, with `*` for any part: `locales/*.json`. */
  files: z.string().regex(/^[^/]+(\/[^/]+)?$/, 'a name, or a folder and a name, such as "locales/*.json"'),
  /** How their texts are filled in, where what they hold does not show it. */
  syntax: z.enum(textSyntaxes),
});
export type CatalogueSyntax = z.infer<typeof catalogueSyntaxSchema>;

const intentFields = z.strictObject({
  fenlok: z.literal('intent/1'),
  app: z.strictObject({
    id: z.string().min(1),
    /** The build that users have now: the candidate's version must be higher. */
    shipped: z.strictObject({ version: z.string(), build: z.string() }).optional(),
  }),
  /** The shipped list to start from, and the team's own list file beside this one. */
  checklist: z
    .strictObject({ base: z.literal('mobile-release').default('mobile-release'), own: z.string().optional() })
    .prefault({}),
  /** Modules of the team's own beside this file: checks, networks, report formats. */
  extensions: z.array(z.string().min(1)).default([]),
  sourceLocale: localeTag.default('en'),
  locales: z.array(localeTag).default([]),
  /** Catalogues of JSON, YAML, .resx, PO and XLIFF whose syntax is to be named; the first row that fits counts. */
  catalogues: z.array(catalogueSyntaxSchema).default([]),
  /** Keys that are the same in every language on purpose. */
  untranslated: z.array(z.string()).default([]),
  themes: z.array(themeSchema).default(['light', 'dark']),
  screens: z.array(screenSchema).default([]),
  drills: drillsSchema.prefault({}),
  coverage: z.array(coverageRow).default([]),
  /** Devices that resources are picked for; without any, a phone and a tablet of every density. */
  devices: z
    .array(
      z.strictObject({
        name: z.string().min(1),
        densityDpi: z.number().int().min(72).max(1280),
        widthDp: z.number().int().min(100).default(411),
        heightDp: z.number().int().min(100).default(891),
      }),
    )
    .default([]),
  links: linksSchema.prefault({}),
  push: pushSchema.prefault({}),
  purchases: purchasesSchema.prefault({}),
  ads: adsSchema.prefault({}),
  limits: limitsSchema.prefault({}),
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
