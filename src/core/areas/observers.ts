// Written by scripts/generate.mjs from the files of each area: npm run generate
import type { Observer } from './observer.ts';
import { observeCapture } from './candidate/observers/observe-capture.ts';
import { observeEntitlements } from './candidate/observers/observe-entitlements.ts';
import { observeManifest } from './candidate/observers/observe-manifest.ts';
import { observeOtherMoment } from './candidate/observers/observe-other-moment.ts';
import { observePackage } from './candidate/observers/observe-package.ts';
import { observeSigning } from './candidate/observers/observe-signing.ts';
import { observeUnreadParts } from './candidate/observers/observe-unread-parts.ts';
import { observeLayoutViews } from './accessibility/observers/observe-layout-views.ts';
import { observePictures } from './accessibility/observers/observe-pictures.ts';
import { observeStops } from './accessibility/observers/observe-stops.ts';
import { observeTargets } from './accessibility/observers/observe-targets.ts';
import { observeUnseenFocus } from './accessibility/observers/observe-unseen-focus.ts';
import { observeColourPairs } from './contrast/observers/observe-colour-pairs.ts';
import { observeFieldEdges } from './contrast/observers/observe-field-edges.ts';
import { observeIconContrast } from './contrast/observers/observe-icon-contrast.ts';
import { observeLightAreas } from './contrast/observers/observe-light-areas.ts';
import { observeNamedColours } from './contrast/observers/observe-named-colours.ts';
import { observeTextContrast } from './contrast/observers/observe-text-contrast.ts';
import { observeCatalogueFile } from './localization/observers/observe-catalogue-file.ts';
import { observeCatalogue } from './localization/observers/observe-catalogue.ts';
import { observePlaces } from './localization/observers/observe-places.ts';
import { observeScreenTexts } from './localization/observers/observe-screen-texts.ts';
import { observeSides } from './localization/observers/observe-sides.ts';
import { observeVariedResources } from './resources/observers/observe-varied-resources.ts';
import { observeBackup } from './lifecycle/observers/observe-backup.ts';
import { observeDrillRun } from './lifecycle/observers/observe-drill-run.ts';
import { observeLinkDomains } from './links/observers/observe-link-domains.ts';
import { observeLinkFilters } from './links/observers/observe-link-filters.ts';
import { observeLinkRuns } from './links/observers/observe-link-runs.ts';
import { observeSiteFile } from './links/observers/observe-site-file.ts';
import { observePayload } from './push/observers/observe-payload.ts';
import { observePushRuns } from './push/observers/observe-push-runs.ts';
import { observePushSetup } from './push/observers/observe-push-setup.ts';
import { observePurchases } from './purchases/observers/observe-purchases.ts';
import { observeSale } from './purchases/observers/observe-sale.ts';
import { observeAdRuns } from './ads/observers/observe-ad-runs.ts';
import { observeAdSurroundings } from './ads/observers/observe-ad-surroundings.ts';
import { observeAppAds } from './ads/observers/observe-app-ads.ts';
import { observeRatingRounds } from './ratings/observers/observe-rating-rounds.ts';
import { observeCleartext } from './quality/observers/observe-cleartext.ts';
import { observeCodeUse } from './quality/observers/observe-code-use.ts';
import { observeComponents } from './quality/observers/observe-components.ts';
import { observeLog } from './quality/observers/observe-log.ts';
import { observeNativeLibraries } from './quality/observers/observe-native-libraries.ts';
import { observeRequiredReasons } from './quality/observers/observe-required-reasons.ts';
import { observeSymbols } from './quality/observers/observe-symbols.ts';
import { observeUnusedResources } from './quality/observers/observe-unused-resources.ts';
import { observeUsageDescriptions } from './quality/observers/observe-usage-descriptions.ts';
import { observeListing } from './listing/observers/observe-listing.ts';
import { observeReviews } from './listing/observers/observe-reviews.ts';

/** Every observer, area by area. */
export const observers: readonly Observer[] = [
  observeCapture,
  observeEntitlements,
  observeManifest,
  observeOtherMoment,
  observePackage,
  observeSigning,
  observeUnreadParts,
  observeLayoutViews,
  observePictures,
  observeStops,
  observeTargets,
  observeUnseenFocus,
  observeColourPairs,
  observeFieldEdges,
  observeIconContrast,
  observeLightAreas,
  observeNamedColours,
  observeTextContrast,
  observeCatalogueFile,
  observeCatalogue,
  observePlaces,
  observeScreenTexts,
  observeSides,
  observeVariedResources,
  observeBackup,
  observeDrillRun,
  observeLinkDomains,
  observeLinkFilters,
  observeLinkRuns,
  observeSiteFile,
  observePayload,
  observePushRuns,
  observePushSetup,
  observePurchases,
  observeSale,
  observeAdRuns,
  observeAdSurroundings,
  observeAppAds,
  observeRatingRounds,
  observeCleartext,
  observeCodeUse,
  observeComponents,
  observeLog,
  observeNativeLibraries,
  observeRequiredReasons,
  observeSymbols,
  observeUnusedResources,
  observeUsageDescriptions,
  observeListing,
  observeReviews,
];
