/**
 * What stores ask of a listing. Google Play, *Best practices for your store listing* and *Add preview assets*; Apple, *App
 * information* and *Screenshot specifications*; as of November 2026.
 */
import type { Platform } from '../../model/candidate.ts';
import type { ListingFact } from '../../model/facts/listing.ts';
import type { ListingRole, StoreId } from '../../model/listing.ts';
import type { FactIndex } from '../check.ts';

export type TextField = keyof ListingFact['texts'];

interface TextLimit {
  /** As the store calls it. */
  called: string;
  most: number;
  least?: number;
  isNeeded?: true;
}

export const textLimits: Record<StoreId, Partial<Record<TextField, TextLimit>>> = {
  'google-play': {
    name: { called: 'name', most: 30, isNeeded: true },
    short: { called: 'short description', most: 80, isNeeded: true },
    full: { called: 'full description', most: 4000, isNeeded: true },
    news: { called: 'release notes', most: 500 },
  },
  'app-store': {
    name: { called: 'name', most: 30, least: 2, isNeeded: true },
    short: { called: 'subtitle', most: 30 },
    full: { called: 'description', most: 4000, isNeeded: true },
    news: { called: 'what’s new', most: 4000 },
    promotion: { called: 'promotional text', most: 170 },
    keywords: { called: 'keywords', most: 100 },
  },
};

interface PictureLimit {
  called: string;
  /** How many, where the listing has any of them or must. */
  count?: readonly [least: number, most: number];
  isNeeded?: true;
  formats: readonly string[];
  mayHaveAlpha: boolean;
  mostBytes?: number;
  /** Either exact sizes, upright or sideways; or a range of sides in px and the most that one may be of the other. */
  sizes?: readonly (readonly [number, number])[];
  sides?: readonly [least: number, most: number];
  ratio?: number;
}

const PNG_OR_JPEG = ['png', 'jpeg'] as const;
const MIB = 2 ** 20;

const APPLE_PHONES = [
  // 6.9"
  [1320, 2868],
  [1290, 2796],
  [1260, 2736],
  // 6.5"
  [1284, 2778],
  [1242, 2688],
  // 6.3"
  [1206, 2622],
  [1179, 2556],
  // 6.1"
  [1170, 2532],
  [1125, 2436],
  [1080, 2340],
  // 5.5" and 4.7"
  [1242, 2208],
  [750, 1334],
] as const;
const APPLE_TABLETS = [
  // 13"
  [2064, 2752],
  [2048, 2732],
  // 11"
  [1668, 2420],
  [1668, 2388],
  [1640, 2360],
  [1488, 2266],
] as const;

export const pictureLimits: Record<StoreId, Partial<Record<ListingRole, PictureLimit>>> = {
  'google-play': {
    icon: {
      called: 'icon',
      isNeeded: true,
      formats: ['png'],
      mayHaveAlpha: true,
      mostBytes: MIB,
      sizes: [[512, 512]],
    },
    banner: {
      called: 'feature graphic',
      isNeeded: true,
      formats: PNG_OR_JPEG,
      mayHaveAlpha: false,
      sizes: [[1024, 500]],
    },
    phone: {
      called: 'phone screenshot',
      isNeeded: true,
      count: [2, 8],
      formats: PNG_OR_JPEG,
      mayHaveAlpha: false,
      sides: [320, 3840],
      ratio: 2,
    },
    tablet: {
      called: 'tablet screenshot',
      count: [2, 8],
      formats: PNG_OR_JPEG,
      mayHaveAlpha: false,
      sides: [320, 7680],
      ratio: 2,
    },
  },
  'app-store': {
    phone: {
      called: 'iPhone screenshot',
      isNeeded: true,
      count: [1, 10],
      formats: PNG_OR_JPEG,
      mayHaveAlpha: false,
      sizes: APPLE_PHONES,
    },
    tablet: {
      called: 'iPad screenshot',
      count: [1, 10],
      formats: PNG_OR_JPEG,
      mayHaveAlpha: false,
      sizes: APPLE_TABLETS,
    },
  },
};

const storeOf: Record<Platform, StoreId> = { android: 'google-play', ios: 'app-store' };
export const storeNames: Record<StoreId, string> = { 'google-play': 'Google Play', 'app-store': 'App Store' };

/** The listings of the store that the candidate goes to. */
export const ownListings = (facts: FactIndex<'listing'>): ListingFact[] =>
  facts.of('listing').filter(({ platform, store }) => store === storeOf[platform]);

export const NO_LISTING = {
  outcome: 'untested',
  because: 'no listing of the store that it goes to has been added',
} as const;
