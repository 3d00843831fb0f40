import { observeLayoutViews } from './accessibility/observe-layout-views.ts';
import { observeStops } from './accessibility/observe-stops.ts';
import { observeTargets } from './accessibility/observe-targets.ts';
import { observeUnseenFocus } from './accessibility/observe-unseen-focus.ts';
import { observeAdRuns } from './ads/observe-ad-runs.ts';
import { observeAdSurroundings } from './ads/observe-ad-surroundings.ts';
import { observeAppAds } from './ads/observe-app-ads.ts';
import { observeCapture } from './candidate/observe-capture.ts';
import { observeEntitlements } from './candidate/observe-entitlements.ts';
import { observeManifest } from './candidate/observe-manifest.ts';
import { observeOtherMoment } from './candidate/observe-other-moment.ts';
import { observePackage } from './candidate/observe-package.ts';
import { observeSigning } from './candidate/observe-signing.ts';
import { observeUnreadParts } from './candidate/observe-unread-parts.ts';
import { observeColourPairs } from './contrast/observe-colour-pairs.ts';
import { observeIconContrast } from './contrast/observe-icon-contrast.ts';
import { observeNamedColours } from './contrast/observe-named-colours.ts';
import { observeTextContrast } from './contrast/observe-text-contrast.ts';
import { observeBackup } from './lifecycle/observe-backup.ts';
import { observeDrillRun } from './lifecycle/observe-drill-run.ts';
import { observeLinkDomains } from './links/observe-link-domains.ts';
import { observeLinkFilters } from './links/observe-link-filters.ts';
import { observeLinkRuns } from './links/observe-link-runs.ts';
import { observeSiteFile } from './links/observe-site-file.ts';
import { observePlaces } from './localization/screens/observe-places.ts';
import { observeScreenTexts } from './localization/screens/observe-screen-texts.ts';
import { observeSides } from './localization/screens/observe-sides.ts';
import { observeCatalogue } from './localization/texts/observe-catalogue.ts';
import { observeCatalogueFile } from './localization/texts/observe-catalogue-file.ts';
import type {
  CaptureObserver,
  CatalogueObserver,
  Observer,
  PackageObserver,
  PayloadObserver,
  SaleObserver,
  SiteObserver,
  TraceObserver,
} from './observer.ts';
import { observePurchases } from './purchases/observe-purchases.ts';
import { observeSale } from './purchases/observe-sale.ts';
import { observePayload } from './push/observe-payload.ts';
import { observePushRuns } from './push/observe-push-runs.ts';
import { observePushSetup } from './push/observe-push-setup.ts';
import { observeCleartext } from './quality/observe-cleartext.ts';
import { observeComponents } from './quality/observe-components.ts';
import { observeNativeLibraries } from './quality/observe-native-libraries.ts';
import { observeRequiredReasons } from './quality/observe-required-reasons.ts';
import { observeUnusedResources } from './quality/observe-unused-resources.ts';
import { observeUsageDescriptions } from './quality/observe-usage-descriptions.ts';
import { observeVariedResources } from './resources/observe-varied-resources.ts';

/** Every observer; the order is that of the facts in a dossier. */
export const observers: readonly Observer[] = [
  observePackage,
  observeUnreadParts,
  observeSigning,
  observeEntitlements,
  observeBackup,
  observeManifest,
  observeComponents,
  observeLinkFilters,
  observeLinkDomains,
  observePushSetup,
  observeAdSurroundings,
  observeCleartext,
  observeUsageDescriptions,
  observeRequiredReasons,
  observeNativeLibraries,
  observeUnusedResources,
  observeVariedResources,
  observeColourPairs,
  observeNamedColours,
  observeLayoutViews,
  observeCatalogue,
  observeCatalogueFile,
  observeSiteFile,
  observeAppAds,
  observePayload,
  observeCapture,
  observeOtherMoment,
  observeStops,
  observeTargets,
  observeUnseenFocus,
  observeTextContrast,
  observeIconContrast,
  observeScreenTexts,
  observePlaces,
  observeSides,
  observeDrillRun,
  observeLinkRuns,
  observePushRuns,
  observePurchases,
  observeSale,
  observeAdRuns,
];

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
