/** Facts of links: what a package declares, what sites say, what a device did. */
import type { LinkFilter } from '../app-package.ts';
import type { SiteFile } from '../site-file.ts';
import type { OfCapture, OfPackage } from './base.ts';

/** One intent filter that names a scheme, as written, and the component that has it. */
export interface LinkFilterFact extends OfPackage, LinkFilter {
  kind: 'link-filter';
}

/** What an iOS app is signed and declared to open. */
export interface LinkDomainsFact extends OfPackage {
  kind: 'link-domains';
  domains: string[];
  schemes: string[];
  /** Team and bundle id. */
  fullAppId?: string;
}

/** What came of one link that a drill handed to a device. */
export interface LinkRunFact extends OfCapture {
  kind: 'link-run';
  at: string;
  deviceId: string;
  sdk: number;
  route: string;
  url: string;
  probe: 'good' | 'edge' | 'hostile';
  variant: string;
  how: 'cold' | 'warm' | 'front';
  addressed: boolean;
  arguments: Record<string, string>;
  /** What the device says that it started, and what was in front then: `example.app/.MainActivity`. */
  started: string;
  landed: string;
  inApp: boolean;
  /** Similarity of what was in front then to the screen that the route is for, 0 to 1, where that was looked at. */
  likeGoal?: number;
  /** In front before. */
  from: string;
  /** All that can be read there, also further down where that was looked at. */
  texts: string[];
  /** Arguments that the app itself told its log of. */
  told?: Record<string, string>;
  crash?: { exception: string; message: string; frame: string };
  notResponding?: true;
  /** In front after each back, until the app is left: then empty. Undefined where nobody walked back. */
  backChain?: string[];
}

/** What a site says of the apps that may open its links. */
export interface SiteFileFact extends OfPackage {
  kind: 'site-file';
  site: SiteFile;
}
