/** What a store shows of an app in one language: one YAML file for each store and language, kept by the team. */
import { z } from 'zod';
import { isLocaleTag } from './locale.ts';

const stores = ['google-play', 'app-store'] as const;
export type StoreId = (typeof stores)[number];

const text = z.string().max(100_000);
const pictureFile = z.string().min(1).max(1000);

export const listingSchema = z.strictObject({
  fenlok: z.literal('listing/1').describe('What this file is, and the version of its form.'),
  store: z.enum(stores).describe('Whose listing this is.'),
  locale: z
    .string()
    .refine(isLocaleTag, 'a BCP 47 language tag, such as "de" or "pt-BR"')
    .describe('The language that it is written in, as a BCP 47 tag.'),
  name: text.default('').describe('The name of the app, as the store shows it.'),
  short: text.default('').describe('Short description (Google Play) or subtitle (App Store).'),
  full: text.default('').describe('The description.'),
  age: z
    .number()
    .int()
    .min(0)
    .max(21)
    .optional()
    .describe('The age from which the store says that the app is, such as 3, 12 or 16.'),
  news: text.default('').describe('What is new in this version.'),
  promotion: text.default('').describe('Promotional text (App Store).'),
  keywords: text.default('').describe('Words with commas between (App Store).'),
  privacy: text.default('').describe('Address of the privacy policy.'),
  support: text.default('').describe('Address of the support page.'),
  mail: text.default('').describe('E-mail address for users (Google Play).'),
  pictures: z
    .strictObject({
      icon: pictureFile.optional().describe('The icon in the store.'),
      banner: pictureFile.optional().describe('The feature graphic (Google Play).'),
      phone: z.array(pictureFile).default([]).describe('Screenshots of a phone, in their order.'),
      tablet: z.array(pictureFile).default([]).describe('Screenshots of a tablet, in their order.'),
    })
    .prefault({})
    .describe('Picture files, by their paths from this file.'),
});
export type Listing = z.infer<typeof listingSchema>;

const listingRoles = ['icon', 'banner', 'phone', 'tablet'] as const;
export type ListingRole = (typeof listingRoles)[number];

/** A picture of a listing, as its file says. */
export const listingPictureSchema = z.strictObject({
  role: z.enum(listingRoles),
  /** As the listing names it. */
  file: z.string(),
  sha256: z.string(),
  widthPx: z.number(),
  heightPx: z.number(),
  /** `png`, `jpeg`, `webp` … */
  format: z.string(),
  hasAlpha: z.boolean(),
  /** `srgb`, `rgb16`, `cmyk`, `b-w` … */
  space: z.string(),
  /** More than one in an animated picture. */
  frames: z.number(),
  sizeBytes: z.number(),
});
export type ListingPicture = z.infer<typeof listingPictureSchema>;
