import { z } from 'zod';
import type { Problem } from './problem.ts';

/** Digital Asset Links, *Statement list*. */
export const assetStatementsSchema = z.array(
  z.looseObject({
    relation: z.array(z.string()).default([]),
    target: z
      .looseObject({
        namespace: z.string(),
        package_name: z.string().optional(),
        sha256_cert_fingerprints: z.array(z.string()).optional(),
      })
      .optional(),
    /** Another list that counts as if it stood here. */
    include: z.string().optional(),
  }),
);
export type AssetStatement = z.infer<typeof assetStatementsSchema>[number];

/** Apple developer documentation, `applinks`. */
/** `applinks.Defaults` */
const defaultsSchema = z.looseObject({
  caseSensitive: z.boolean().optional(),
  percentEncoded: z.boolean().optional(),
});

export type LinkDefaults = z.infer<typeof defaultsSchema>;

const componentSchema = z.looseObject({
  '/': z.string().optional(),
  '?': z.union([z.string(), z.record(z.string(), z.string())]).optional(),
  '#': z.string().optional(),
  exclude: z.boolean().optional(),
  ...defaultsSchema.shape,
});
export type LinkComponent = z.infer<typeof componentSchema>;

const detailSchema = z.looseObject({
  appID: z.string().optional(),
  appIDs: z.array(z.string()).optional(),
  components: z.array(componentSchema).optional(),
  /** The form before iOS 13. */
  paths: z.array(z.string()).optional(),
  defaults: defaultsSchema.optional(),
});

export const appLinksSchema = z.looseObject({
  details: z.array(detailSchema),
  defaults: defaultsSchema.optional(),
  substitutionVariables: z.record(z.string(), z.array(z.string())).optional(),
});
export type AppLinks = z.infer<typeof appLinksSchema>;

/** A line of `app-ads.txt`: who may sell the app's ads. */
export interface AdSeller {
  /** Of the network, lower case. */
  domain: string;
  /** The publisher's account with it. */
  account: string;
  relation: 'DIRECT' | 'RESELLER';
  /** Of the certification authority. */
  authority?: string;
  line: number;
}

export interface AppAds {
  sellers: AdSeller[];
  /** `contact=`, `subdomain=` and the like, in lower case. */
  variables: { name: string; value: string; line: number }[];
  problems: Problem[];
}

/** What a site says of apps: which may open its links, and who may sell their ads; as it was served. */
export interface SiteFile {
  /** Name of the site that served it. */
  host: string;
  kind: 'assetlinks' | 'apple-app-site-association' | 'app-ads';
  sizeBytes: number;
  /** Only where the head of the response was saved with it. */
  response?: SiteResponse;
  /** Undefined where it cannot be read. */
  statements?: AssetStatement[];
  appLinks?: AppLinks;
  appAds?: AppAds;
  problems: Problem[];
}

export interface SiteResponse {
  status: number;
  contentType: string;
  /** Where it was redirected to, before anything came. */
  redirectedTo?: string;
}
