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
const keySchema = z.strictObject({ key: name, matches: pattern.optional() });

const androidSchema = z.strictObject({
  /** Classes of its library: any one shows that it is there. */
  library: z.array(name).min(1),
  /** Classes of the connector through which a mediator calls it. */
  connector: z.array(name).default([]),
  permissions: z.array(name).default([]),
  /** Activities, services and receivers that the manifest must hold. */
  components: z.array(name).default([]),
  metaData: z.array(keySchema).default([]),
});

const iosSchema = z.strictObject({
  /** Objective-C classes, or names of frameworks. */
  library: z.array(name).min(1),
  connector: z.array(name).default([]),
  plistKeys: z.array(keySchema).default([]),
  /** Of `SKAdNetworkItems`. */
  skAdNetworkIds: z
    .array(z.string().regex(/^[a-z0-9]{10}\.skadnetwork$/, 'an id such as 0123456789.skadnetwork'))
    .default([]),
});

export const adNetworkSchema = z.strictObject({
  fenlok: z.literal('ad-network/1'),
  id: z.string().regex(/^[a-z0-9][a-z0-9-]*$/, 'lower-case letters, digits and dashes'),
  name,
  formats: z.array(adFormatSchema).min(1),
  /** Its domain in app-ads.txt. */
  seller: z.string().min(1).optional(),
  /** The team's account with it, as app-ads.txt must name it. */
  sellerAccount: z.string().min(1).optional(),
  android: androidSchema.optional(),
  ios: iosSchema.optional(),
  /** What each entry of a waterfall must say, and in which shape. */
  parameters: z.record(name, z.strictObject({ matches: pattern, says: z.string().min(1) })).default({}),
  /** Values of parameters that belong to placements for tests. */
  testIds: z.array(pattern).default([]),
  /** Tags under which its library writes to the log. */
  logTags: z.array(name).default([]),
});
export type AdNetwork = z.infer<typeof adNetworkSchema>;
