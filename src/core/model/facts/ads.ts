/** Facts of ads: what of a package networks look for, and what a site says of who may sell. */
import type { OfPackage } from './base.ts';

/** All of a package that an ad network may need. */
export interface AdSurroundingsFact extends OfPackage {
  kind: 'ad-surroundings';
  /** Classes of its own code (Android); classes that it refers to, and its frameworks (iOS). */
  classes: string[];
  permissions: string[];
  /** Full names of its activities, services, receivers and providers. */
  components: string[];
  /** `<meta-data>` of the application, or texts of Info.plist. */
  values: Record<string, string>;
  /** Of `SKAdNetworkItems`, lower case. */
  skAdNetworkIds: string[];
}

/** `app-ads.txt` of one site. */
export interface AppAdsFact extends OfPackage {
  kind: 'app-ads';
  host: string;
  sellers: { domain: string; account: string; relation: 'DIRECT' | 'RESELLER'; line: number }[];
  /** Lines that cannot be read. */
  faults: { line: string; found: string; expected: string }[];
}
