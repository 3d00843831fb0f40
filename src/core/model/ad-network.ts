/** What an ad network needs of an app, as its own guide says: one file each, kept by the team beside the intent file. */
import { z } from 'zod';

const adFormats = ['banner', 'interstitial', 'rewarded', 'native'] as const;
export const adFormatSchema = z.enum(adFormats);

const name = z.string().min(1).max(300);
const pattern = z.string().refine(isPattern, 'a regular expression');

function isPattern(text: string): boolean {
  try {
    return new RegExp(text, 'u') !== undefined;
  } catch {
    return false;
  }
}

/** An entry of the manifest or of Info.plist, with the shape of its value. */
const keySchema = z.strictObject({
  key: name.describe('Name of the entry.'),
  matches: pattern.optional().describe('A regular expression that its value must match.'),
});

const androidSchema = z.strictObject({
  library: z.array(name).min(1).describe('Classes of its library: any one shows that it is there.'),
  connector: z
    .array(name)
    .default([])
    .describe('Classes of the connector through which a mediator calls it.'),
  permissions: z.array(name).default([]).describe('Permissions that the manifest must ask for.'),
  components: z
    .array(name)
    .default([])
    .describe('Activities, services and receivers that the manifest must hold.'),
  metaData: z.array(keySchema).default([]).describe('Entries of <meta-data> that the manifest must hold.'),
});

const iosSchema = z.strictObject({
  library: z.array(name).min(1).describe('Objective-C classes, or names of frameworks.'),
  connector: z
    .array(name)
    .default([])
    .describe('Classes of the connector through which a mediator calls it.'),
  plistKeys: z.array(keySchema).default([]).describe('Entries that Info.plist must hold.'),
  skAdNetworkIds: z
    .array(z.string().regex(/^[a-z0-9]{10}\.skadnetwork$/, 'an id such as 0123456789.skadnetwork'))
    .default([])
    .describe('Of `SKAdNetworkItems`.'),
});

export const adNetworkSchema = z.strictObject({
  fenlok: z.literal('ad-network/1').describe('What this file is, and the version of its form.'),
  id: z
    .string()
    .regex(/^[a-z0-9][a-z0-9-]*$/, 'lower-case letters, digits and dashes')
    .describe('Name of the network, as waterfalls call it.'),
  name: name.describe('As reports call it.'),
  formats: z.array(adFormatSchema).min(1).describe('What it serves.'),
  seller: z.string().min(1).optional().describe('Its domain in app-ads.txt.'),
  sellerAccount: z
    .string()
    .min(1)
    .optional()
    .describe("The team's account with it, as app-ads.txt must name it."),
  android: androidSchema.optional().describe('What it needs of an Android app.'),
  ios: iosSchema.optional().describe('What it needs of an iOS app.'),
  parameters: z
    .record(
      name,
      z.strictObject({
        matches: pattern.describe('A regular expression for the whole value.'),
        says: z.string().min(1).describe('What it looks like, in words.'),
      }),
    )
    .default({})
    .describe('What each entry of a waterfall must say, and in which shape.'),
  testIds: z.array(pattern).default([]).describe('Values of parameters that belong to placements for tests.'),
  logTags: z.array(name).default([]).describe('Tags under which its library writes to the log.'),
});
export type AdNetwork = z.infer<typeof adNetworkSchema>;
