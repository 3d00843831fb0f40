import type { AppPackage } from '../model/app-package.ts';
import type { Platform } from '../model/candidate.ts';
import type { Capture } from '../model/capture.ts';
import type { Catalogue } from '../model/catalogue.ts';
import type { Fact } from '../model/fact.ts';
import type { Listing, ListingPicture } from '../model/listing.ts';
import type { Pixels } from '../model/ports.ts';
import type { PushPayload } from '../model/push-payload.ts';
import type { Reviews } from '../model/review.ts';
import type { Sale } from '../model/sale.ts';
import type { SiteFile } from '../model/site-file.ts';
import type { Symbols } from '../model/symbols.ts';
import type { TraceLine } from '../model/trace.ts';
import type { DeviceLog } from '../model/trouble.ts';
import type { UiNode } from '../model/ui-tree.ts';

/** One capture, decoded. Observers must not keep the pixels. */
export interface CaptureEvidence {
  digest: string;
  capture: Capture;
  buildBasis: 'seen' | 'asserted';
  tree: UiNode;
  pixels: Pixels;
}

export interface PackageEvidence {
  digest: string;
  app: AppPackage;
}

/** A catalogue file that was added beside the package. */
export interface CatalogueEvidence {
  digest: string;
  platform: Platform;
  /** Of the set of files that it belongs to. */
  name: string;
  /** As the report names it. */
  file: string;
  catalogue: Catalogue;
}

/** What a site serves about apps. */
export interface SiteEvidence {
  digest: string;
  platform: Platform;
  site: SiteFile;
}

/** A push message that the team sends, from its file. */
export interface PayloadEvidence {
  digest: string;
  platform: Platform;
  name: string;
  payload: PushPayload;
}

/** A sale as a store signed it, from its file. */
export interface SaleEvidence {
  digest: string;
  platform: Platform;
  name: string;
  sale: Sale;
}

/** A store listing in one language, from the team's file. */
export interface ListingEvidence {
  digest: string;
  platform: Platform;
  name: string;
  listing: Listing;
  pictures: readonly ListingPicture[];
}

/** A device's log or a crash report, as far as it is about the app, with the names that people wrote. */
export interface LogEvidence {
  digest: string;
  platform: Platform;
  name: string;
  appId: string;
  log: DeviceLog;
}

/** What users wrote in a store. */
export interface ReviewsEvidence {
  digest: string;
  platform: Platform;
  name: string;
  reviews: Reviews;
}

/** A mapping file or a dSYM. */
export interface SymbolsEvidence {
  digest: string;
  platform: Platform;
  name: string;
  symbols: Symbols;
}

/** A trace with its dumps decoded. */
export interface TraceEvidence {
  digest: string;
  platform: Platform;
  lines: readonly TraceLine[];
}

/**
 * Measures one piece of evidence. Pure: it knows no threshold, no intent and no other piece.
 */
interface ObserverOf<Reads, Evidence> {
  id: string;
  reads: Reads;
  observe(evidence: Evidence): Iterable<Fact>;
}

export type CaptureObserver = ObserverOf<'capture', CaptureEvidence>;
export type PackageObserver = ObserverOf<'package', PackageEvidence>;
export type CatalogueObserver = ObserverOf<'catalogue', CatalogueEvidence>;
export type SiteObserver = ObserverOf<'site', SiteEvidence>;
export type PayloadObserver = ObserverOf<'payload', PayloadEvidence>;
export type SaleObserver = ObserverOf<'sale', SaleEvidence>;
export type ListingObserver = ObserverOf<'listing', ListingEvidence>;
export type LogObserver = ObserverOf<'log', LogEvidence>;
export type ReviewsObserver = ObserverOf<'reviews', ReviewsEvidence>;
export type SymbolsObserver = ObserverOf<'symbols', SymbolsEvidence>;
export type TraceObserver = ObserverOf<'trace', TraceEvidence>;
export type Observer =
  | CaptureObserver
  | PackageObserver
  | CatalogueObserver
  | SiteObserver
  | PayloadObserver
  | SaleObserver
  | ListingObserver
  | LogObserver
  | ReviewsObserver
  | SymbolsObserver
  | TraceObserver;
