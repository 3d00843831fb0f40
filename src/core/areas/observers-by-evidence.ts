/** The observers of each sort of evidence. */
import type {
  CaptureObserver,
  CatalogueObserver,
  ListingObserver,
  LogObserver,
  PackageObserver,
  PayloadObserver,
  ReviewsObserver,
  SaleObserver,
  SiteObserver,
  SymbolsObserver,
  TraceObserver,
} from './observer.ts';
import { observers } from './observers.ts';

export const packageObservers = observers.filter(
  (observer): observer is PackageObserver => observer.reads === 'package',
);
export const captureObservers = observers.filter(
  (observer): observer is CaptureObserver => observer.reads === 'capture',
);
export const catalogueObservers = observers.filter(
  (observer): observer is CatalogueObserver => observer.reads === 'catalogue',
);
export const traceObservers = observers.filter(
  (observer): observer is TraceObserver => observer.reads === 'trace',
);
export const siteObservers = observers.filter(
  (observer): observer is SiteObserver => observer.reads === 'site',
);
export const saleObservers = observers.filter(
  (observer): observer is SaleObserver => observer.reads === 'sale',
);
export const payloadObservers = observers.filter(
  (observer): observer is PayloadObserver => observer.reads === 'payload',
);
export const listingObservers = observers.filter(
  (observer): observer is ListingObserver => observer.reads === 'listing',
);
export const logObservers = observers.filter((observer): observer is LogObserver => observer.reads === 'log');
export const symbolsObservers = observers.filter(
  (observer): observer is SymbolsObserver => observer.reads === 'symbols',
);
export const reviewsObservers = observers.filter(
  (observer): observer is ReviewsObserver => observer.reads === 'reviews',
);
