/** The parts of `fenlok.yaml`, one schema each. Their descriptions are what an editor shows. */
import { z } from 'zod';
import { adFormatSchema, adNetworkSchema } from './ad-network.ts';
import type { Platform } from './candidate.ts';
import { textSyntaxes } from './catalogue.ts';
import { orientationSchema, themeSchema } from './cell.ts';
import { screenDrills } from './drill.ts';
import { productKindSchema } from './ledger.ts';
import { isLocaleTag } from './locale.ts';
import { ratingChannels } from './rating.ts';
import { bugStates, reviewColumns } from './review.ts';

const id = z.string().regex(/^[a-z0-9][a-z0-9._-]*$/i, 'letters, digits, dot, dash and underscore');
export const localeTag = z.string().refine(isLocaleTag, 'a BCP 47 language tag, such as "de" or "pt-BR"');

/**
 * A set of cells that must be covered: every screen (or the ones named) under each combination, in the
 * source language and all the app's themes where none are named.
 */
export const coverageRow = z.strictObject({
  procedure: z
    .string()
    .default('as-is')
    .describe('What is done before the capture: "as-is", "bold-text", or the name of a drill.'),
  screens: z.array(id).optional().describe('Ids of screens; all of them where it is left out.'),
  locales: z.array(localeTag).optional().describe('BCP 47 tags; the source language where it is left out.'),
  themes: z
    .array(themeSchema)
    .optional()
    .describe('"light", "dark"; all the app\'s themes where it is left out.'),
  textScales: z
    .array(z.number())
    .default([1])
    .describe('Text sizes as the user sets them: 1 is ordinary, 2 is 200 %.'),
  orientations: z.array(orientationSchema).default(['portrait']).describe('"portrait", "landscape".'),
});

/** One act on the way to a screen, or on it. Elements are named by id, or by what stands on them. */
export const stepSchema = z.union([
  z.strictObject({ tap: z.string().min(1).describe('Id of an element, or what stands on it.') }),
  z.strictObject({
    type: z.string().min(1).describe('What is typed.'),
    into: z.string().min(1).describe('Id of the field, or what stands on it.'),
  }),
  z.strictObject({ scroll: z.enum(['down', 'up']).describe('By one screen.') }),
  z.strictObject({ press: z.enum(['back', 'home']).describe('The key of the system.') }),
  /** A link, addressed to the app. */
  z.strictObject({ open: z.string().min(1).describe('A link, addressed to the app.') }),
]);
export type Step = z.infer<typeof stepSchema>;

export const screenSchema = z.strictObject({
  id: id.describe('Name of the screen, as captures, drills and routes call it.'),
  activity: z.string().min(1).optional().describe('End of the name of its activity: `BookingActivity`.'),
  parent: id.optional().describe('The screen that back leads to.'),
  reach: z
    .array(stepSchema)
    .optional()
    .describe("From the app's first screen to this one; `[]` where it is the first."),
  change: z
    .array(stepSchema)
    .default([])
    .describe('What is changed on it before a drill, so that there is something to lose.'),
});
export type IntentScreen = z.infer<typeof screenSchema>;

export const drillsSchema = z.strictObject({
  run: z
    .array(z.enum(screenDrills))
    .default([...screenDrills])
    .describe('Which ones every screen must stand.'),
  ignore: z.array(z.string()).default([]).describe('Elements that change by themselves, by their keys.'),
  services: z
    .array(z.string())
    .default([])
    .describe('Services that may run on after the user has gone home: ends of their class names.'),
  inputs: z.record(z.string(), z.string()).default({}).describe('What roaming types, by id of the field.'),
  avoid: z
    .array(z.string())
    .default([])
    .describe('Words on things that roaming must not touch: "Delete", "Pay".'),
});

const argumentSchema = z.strictObject({
  type: z
    .enum(['text', 'integer', 'date'])
    .default('text')
    .describe('What the app expects there; probes send the other sorts, too.'),
  example: z.string().optional().describe('What a probe fills in; without it, something of the type.'),
});

const routeSchema = z.strictObject({
  id: id.describe('Name of the route, as reports call it.'),
  url: z
    .string()
    .regex(/^(\/|[a-z][a-z0-9+.-]*:)/i, 'a path that begins with a slash, or a whole URL')
    .describe(
      '`/sailings/{sailing}?day={day?}` on every host of the app, or whole: `kelpline://tickets`. An argument with a question mark may be left out.',
    ),
  arguments: z.record(z.string(), argumentSchema).default({}).describe('The arguments of the URL, by name.'),
  screen: id.describe('Where it lands.'),
  shows: z
    .array(z.string())
    .default([])
    .describe('Texts that stand on that screen when the arguments of the examples have arrived.'),
});
export type IntentRoute = z.infer<typeof routeSchema>;

export const linksSchema = z.strictObject({
  schemes: z.array(z.string()).default([]).describe('Private schemes that a browser must be able to open.'),
  hosts: z.array(z.string().min(1)).default([]).describe("Sites whose links are the app's."),
  webSchemes: z
    .array(z.enum(['https', 'http']))
    .default(['https', 'http'])
    .describe('Which web schemes a link may come with.'),
  certificates: z
    .array(z.string())
    .default([])
    .describe('SHA-256 of the certificate that the installed app is signed with, where a store signs again.'),
  routes: z.array(routeSchema).default([]).describe('Every link that the app promises to open.'),
  browser: z.array(z.string()).default([]).describe('URLs of the same sites that must stay in the browser.'),
});
export type IntentLinks = z.infer<typeof linksSchema>;

const fileName = z.string().min(1);

const pushMessageSchema = z.strictObject({
  id: id.describe('Name of the message, as reports call it.'),
  payload: z
    .union([
      fileName,
      z
        .strictObject({
          android: fileName.optional().describe('The payload on Android.'),
          ios: fileName.optional().describe('The payload on iOS.'),
        })
        .refine(({ android, ios }) => android ?? ios, 'name the file of android, of ios, or of both'),
    ])
    .describe('The payload, in a file beside this one; one for each platform where they differ.'),
  screen: id.optional().describe('Where a tap on it lands; none for a silent one.'),
  actions: z
    .array(
      z.strictObject({
        label: z.string().min(1).describe('What stands on the button.'),
        screen: id.describe('Where it leads.'),
      }),
    )
    .default([])
    .describe('Its buttons, by what stands on them, and where each leads.'),
});
export type IntentPushMessage = z.infer<typeof pushMessageSchema>;

/** Of a message on a platform; nothing where it is not sent there. */
export const payloadFileOf = ({ payload }: IntentPushMessage, platform: Platform): string | undefined =>
  typeof payload === 'string' ? payload : payload[platform];

const command = z.array(z.string().min(1).max(4096)).min(1).max(100);

/** What no UI test can do on an iOS device, and the tools of a team can. */
export const iosIntentSchema = z.strictObject({
  commands: z
    .strictObject({
      install: command
        .optional()
        .describe('Installs the package: `[xcrun, simctl, install, "{device}", "{package}"]`.'),
      uninstall: command
        .optional()
        .describe('Removes the app and its data: `[xcrun, simctl, uninstall, "{device}", "{app}"]`.'),
      networkOff: command.optional().describe('Takes the network from the device.'),
      networkOn: command.optional().describe('Gives it the network again.'),
      isOnline: command
        .optional()
        .describe('Whether it has a network: its last line is `online` or `offline`.'),
    })
    .default({})
    .describe(
      'Programs of this computer and their arguments, run without a shell; {app} is its bundle id, {package} the package of the dossier, {device} what the lookout calls its device, {address} where the lookout is.',
    ),
});
export type IosCommands = z.infer<typeof iosIntentSchema>['commands'];

export const pushSchema = z.strictObject({
  ask: z
    .array(stepSchema)
    .default([])
    .describe("From the app's first screen to where it asks whether it may send messages."),
  channels: z.array(z.string()).default([]).describe('Ids of the channels that the app makes (Android).'),
  categories: z.array(z.string()).default([]).describe('Categories that the app registers (iOS).'),
  messages: z
    .array(pushMessageSchema)
    .default([])
    .describe('Messages that the team sends, one of each sort.'),
});

const intentProductSchema = z.strictObject({
  id: z.string().min(1).describe('As the store knows it.'),
  kind: productKindSchema.describe('How the store sells it.'),
  period: z
    .string()
    .regex(/^P\d{1,3}[DWMY]$/, 'a period such as P1W, P1M or P1Y')
    .optional()
    .describe('ISO 8601, of a subscription or of something for a fixed term: `P1M`.'),
  buy: z
    .array(stepSchema)
    .default([])
    .describe("From the app's first screen to the button that buys it, which is the last."),
  screen: id.optional().describe('Where it is offered.'),
});
export type IntentProduct = z.infer<typeof intentProductSchema>;

export const purchasesSchema = z.strictObject({
  products: z.array(intentProductSchema).default([]).describe('Everything that the app sells.'),
  account: z
    .string()
    .min(1)
    .default('tester')
    .describe('The tester who is signed in to the store on the test devices.'),
  sheet: z
    .strictObject({
      buy: z.string().min(1).describe('The button that buys: its id, or what stands on it.'),
      cancel: z.string().min(1).describe('The button that cancels: its id, or what stands on it.'),
    })
    .default({
      buy: 'store_buy_button',
      cancel: 'store_cancel_button',
    })
    .describe("What stands on the buttons of the store's own sheet, or their ids."),
  restore: z
    .array(stepSchema)
    .default([])
    .describe("From the app's first screen to the button that restores purchases, which is the last."),
});

const waterfallEntrySchema = z.strictObject({
  network: id.describe('Id of a network.'),
  parameters: z
    .record(
      z.string(),
      z.union([
        z.string(),
        z.strictObject({
          android: z.string().describe('The value on Android.'),
          ios: z.string().describe('The value on iOS.'),
        }),
      ]),
    )
    .default({})
    .describe(
      'Where the platforms have parameters of their own, by `android` and `ios` in the place of a text.',
    ),
});
export type WaterfallEntry = z.infer<typeof waterfallEntrySchema>;

const placementSchema = z.strictObject({
  id: id.describe("Name of the placement, as the app's log calls it."),
  format: adFormatSchema.describe('How the ad is shown.'),
  screen: id.optional().describe('Where it is shown.'),
  load: z.array(stepSchema).optional().describe("From the app's first screen to where it is loaded."),
  show: z
    .array(stepSchema)
    .default([])
    .describe('From there to where it fills the screen; none where it is shown as it loads.'),
  close: z
    .array(stepSchema)
    .default([{ tap: 'Close' }])
    .describe('What closes an ad that fills the screen, on iOS, which has no key for back.'),
  waterfall: z.array(waterfallEntrySchema).min(1).describe('Networks in the order in which they are asked.'),
});
export type AdPlacement = z.infer<typeof placementSchema>;

export const ratingsSchema = z.strictObject({
  reach: z
    .array(stepSchema)
    .default([])
    .describe(
      "From the app's first screen to the moment at which it asks for a rating; the last step brings it about.",
    ),
  goesOn: z
    .string()
    .optional()
    .describe('What stands on the screen once the question is over, shown or not: an id, a text or a label.'),
  channel: z
    .enum(ratingChannels)
    .optional()
    .describe(
      'The way by which the build that is drilled came to the device. A build from a cable is known without it.',
    ),
});

export const reviewsIntentSchema = z.strictObject({
  columns: z
    .partialRecord(z.enum(reviewColumns), z.string().min(1))
    .default({})
    .describe('What the table of reviews calls them: { text: Review Text, version: App Version Name }.'),
  bugs: z
    .array(
      z.strictObject({
        id: z.string().min(1).describe('A name of your own for the bug.'),
        words: z
          .array(z.string().min(2))
          .min(1)
          .describe('Words that its reviews have; one of them is enough.'),
        state: z.enum(bugStates).describe('How far it has come.'),
        in: z.string().optional().describe('The version in which it was fixed.'),
      }),
    )
    .default([])
    .describe('Bugs that users have written of.'),
});

export const adsSchema = z.strictObject({
  networks: z
    .array(z.union([z.string().min(1), adNetworkSchema]))
    .default([])
    .describe('What each network needs: files beside this one, or written out here.'),
  placements: z.array(placementSchema).default([]).describe('Every place in the app where an ad is shown.'),
  removedBy: z.string().min(1).optional().describe('The product that removes ads.'),
});

export const catalogueSyntaxSchema = z.strictObject({
  files: z
    .string()
    .regex(/^[^/]+(\/[^/]+)?$/, 'a name, or a folder and a name, such as "locales/*.json"')
    .describe('The name of the files, or their folder and name, with `*` for any part: `locales/*.json`.'),
  syntax: z
    .enum(textSyntaxes)
    .describe('How their texts are filled in, where what they hold does not show it.'),
});
export type CatalogueSyntax = z.infer<typeof catalogueSyntaxSchema>;
