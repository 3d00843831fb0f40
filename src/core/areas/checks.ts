// Written by scripts/generate.mjs from the files of each area: npm run generate
import type { Check } from './check.ts';
import { assertedEvidence } from './candidate/checks/asserted-evidence.ts';
import { debugBuild } from './candidate/checks/debug-build.ts';
import { declaredUnseen } from './candidate/checks/declared-unseen.ts';
import { deviceSpread } from './candidate/checks/device-spread.ts';
import { entitlementMismatch } from './candidate/checks/entitlement-mismatch.ts';
import { impliedFeature } from './candidate/checks/implied-feature.ts';
import { namelessBuild } from './candidate/checks/nameless-build.ts';
import { releaseSignature } from './candidate/checks/release-signature.ts';
import { seenUndeclared } from './candidate/checks/seen-undeclared.ts';
import { unreadPart } from './candidate/checks/unread-part.ts';
import { versionNotRaised } from './candidate/checks/version-not-raised.ts';
import { crowdedTarget } from './accessibility/checks/crowded-target.ts';
import { displaySetting } from './accessibility/checks/display-setting.ts';
import { fieldLabel } from './accessibility/checks/field-label.ts';
import { fixedTextSize } from './accessibility/checks/fixed-text-size.ts';
import { hiddenGesture } from './accessibility/checks/hidden-gesture.ts';
import { labelInName } from './accessibility/checks/label-in-name.ts';
import { meaninglessName } from './accessibility/checks/meaningless-name.ts';
import { noHeading } from './accessibility/checks/no-heading.ts';
import { overlappingTargets } from './accessibility/checks/overlapping-targets.ts';
import { readingOrder } from './accessibility/checks/reading-order.ts';
import { roleConflict } from './accessibility/checks/role-conflict.ts';
import { roleInName } from './accessibility/checks/role-in-name.ts';
import { rotatedScreen } from './accessibility/checks/rotated-screen.ts';
import { sameName } from './accessibility/checks/same-name.ts';
import { smallTarget } from './accessibility/checks/small-target.ts';
import { textScaling } from './accessibility/checks/text-scaling.ts';
import { unnamedControl } from './accessibility/checks/unnamed-control.ts';
import { unnamedInLayout } from './accessibility/checks/unnamed-in-layout.ts';
import { unnamedPicture } from './accessibility/checks/unnamed-picture.ts';
import { unreachableControl } from './accessibility/checks/unreachable-control.ts';
import { unseenFocus } from './accessibility/checks/unseen-focus.ts';
import { unspokenState } from './accessibility/checks/unspoken-state.ts';
import { voiceName } from './accessibility/checks/voice-name.ts';
import { colourAlone } from './contrast/checks/colour-alone.ts';
import { fieldBorder } from './contrast/checks/field-border.ts';
import { iconContrast } from './contrast/checks/icon-contrast.ts';
import { invertedContrast } from './contrast/checks/inverted-contrast.ts';
import { lightOnlyColour } from './contrast/checks/light-only-colour.ts';
import { lightRemnant } from './contrast/checks/light-remnant.ts';
import { textContrast } from './contrast/checks/text-contrast.ts';
import { themeContrast } from './contrast/checks/theme-contrast.ts';
import { cutText } from './localization/checks/cut-text.ts';
import { duplicateKey } from './localization/checks/duplicate-key.ts';
import { emptyTranslation } from './localization/checks/empty-translation.ts';
import { extraTranslation } from './localization/checks/extra-translation.ts';
import { hardCodedText } from './localization/checks/hard-coded-text.ts';
import { invisibleCharacter } from './localization/checks/invisible-character.ts';
import { languageSplit } from './localization/checks/language-split.ts';
import { listLength } from './localization/checks/list-length.ts';
import { localFormat } from './localization/checks/local-format.ts';
import { markupMismatch } from './localization/checks/markup-mismatch.ts';
import { messageSyntax } from './localization/checks/message-syntax.ts';
import { missingTranslation } from './localization/checks/missing-translation.ts';
import { mixedScript } from './localization/checks/mixed-script.ts';
import { noMirroring } from './localization/checks/no-mirroring.ts';
import { notMirrored } from './localization/checks/not-mirrored.ts';
import { orphanedLocale } from './localization/checks/orphaned-locale.ts';
import { placeholderMismatch } from './localization/checks/placeholder-mismatch.ts';
import { pluralForms } from './localization/checks/plural-forms.ts';
import { sameAsSource } from './localization/checks/same-as-source.ts';
import { sideInLayout } from './localization/checks/side-in-layout.ts';
import { straySpace } from './localization/checks/stray-space.ts';
import { swallowedEscape } from './localization/checks/swallowed-escape.ts';
import { textGrowth } from './localization/checks/text-growth.ts';
import { textInLayout } from './localization/checks/text-in-layout.ts';
import { undeclaredLocale } from './localization/checks/undeclared-locale.ts';
import { untranslatedOnScreen } from './localization/checks/untranslated-on-screen.ts';
import { blurredPicture } from './resources/checks/blurred-picture.ts';
import { lostVariant } from './resources/checks/lost-variant.ts';
import { missingDefault } from './resources/checks/missing-default.ts';
import { pictureSize } from './resources/checks/picture-size.ts';
import { backupRules } from './lifecycle/checks/backup-rules.ts';
import { launchMode } from './lifecycle/checks/launch-mode.ts';
import { lostScreen } from './lifecycle/checks/lost-screen.ts';
import { lostState } from './lifecycle/checks/lost-state.ts';
import { runningService } from './lifecycle/checks/running-service.ts';
import { settingLeft } from './lifecycle/checks/setting-left.ts';
import { stuckOffline } from './lifecycle/checks/stuck-offline.ts';
import { wayBack } from './lifecycle/checks/way-back.ts';
import { ambiguousLink } from './links/checks/ambiguous-link.ts';
import { broadLinkFilter } from './links/checks/broad-link-filter.ts';
import { closedLinkFilter } from './links/checks/closed-link-filter.ts';
import { deadShortcut } from './links/checks/dead-shortcut.ts';
import { lateModule } from './links/checks/late-module.ts';
import { linkBack } from './links/checks/link-back.ts';
import { linkLanding } from './links/checks/link-landing.ts';
import { malformedLink } from './links/checks/malformed-link.ts';
import { mixedLinkData } from './links/checks/mixed-link-data.ts';
import { needlessLinkFilter } from './links/checks/needless-link-filter.ts';
import { undeclaredRoute } from './links/checks/undeclared-route.ts';
import { unverifiedDomain } from './links/checks/unverified-domain.ts';
import { channelName } from './push/checks/channel-name.ts';
import { payloadRules } from './push/checks/payload-rules.ts';
import { payloadTarget } from './push/checks/payload-target.ts';
import { payloadTexts } from './push/checks/payload-texts.ts';
import { pushAction } from './push/checks/push-action.ts';
import { pushBadge } from './push/checks/push-badge.ts';
import { pushEnvironment } from './push/checks/push-environment.ts';
import { pushPermission } from './push/checks/push-permission.ts';
import { pushSetup } from './push/checks/push-setup.ts';
import { pushShown } from './push/checks/push-shown.ts';
import { pushSilent } from './push/checks/push-silent.ts';
import { pushTap } from './push/checks/push-tap.ts';
import { pushToken } from './push/checks/push-token.ts';
import { scriptedPush } from './push/checks/scripted-push.ts';
import { endedPurchase } from './purchases/checks/ended-purchase.ts';
import { missingPurchase } from './purchases/checks/missing-purchase.ts';
import { productIds } from './purchases/checks/product-ids.ts';
import { productOffer } from './purchases/checks/product-offer.ts';
import { productTexts } from './purchases/checks/product-texts.ts';
import { purchaseQuiet } from './purchases/checks/purchase-quiet.ts';
import { purchaseTerms } from './purchases/checks/purchase-terms.ts';
import { resoldPurchase } from './purchases/checks/resold-purchase.ts';
import { shownPrice } from './purchases/checks/shown-price.ts';
import { signedSale } from './purchases/checks/signed-sale.ts';
import { unfinishedPurchase } from './purchases/checks/unfinished-purchase.ts';
import { unpaidPurchase } from './purchases/checks/unpaid-purchase.ts';
import { unrestoredPurchase } from './purchases/checks/unrestored-purchase.ts';
import { writtenPrice } from './purchases/checks/written-price.ts';
import { adAfterRemoval } from './ads/checks/ad-after-removal.ts';
import { adLoad } from './ads/checks/ad-load.ts';
import { adOrder } from './ads/checks/ad-order.ts';
import { adParameter } from './ads/checks/ad-parameter.ts';
import { adReturn } from './ads/checks/ad-return.ts';
import { adSeller } from './ads/checks/ad-seller.ts';
import { adWiring } from './ads/checks/ad-wiring.ts';
import { liveAdRequest } from './ads/checks/live-ad-request.ts';
import { testPlacement } from './ads/checks/test-placement.ts';
import { ratingManner } from './ratings/checks/rating-manner.ts';
import { ratingMoment } from './ratings/checks/rating-moment.ts';
import { ratingShown } from './ratings/checks/rating-shown.ts';
import { ratingWait } from './ratings/checks/rating-wait.ts';
import { cleartextTraffic } from './quality/checks/cleartext-traffic.ts';
import { crash } from './quality/checks/crash.ts';
import { exportKey } from './quality/checks/export-key.ts';
import { keptSymbols } from './quality/checks/kept-symbols.ts';
import { leftBehind } from './quality/checks/left-behind.ts';
import { loggedCrash } from './quality/checks/logged-crash.ts';
import { mainThreadWork } from './quality/checks/main-thread-work.ts';
import { nativeLibrary } from './quality/checks/native-library.ts';
import { needlessExport } from './quality/checks/needless-export.ts';
import { permissionUse } from './quality/checks/permission-use.ts';
import { requiredReason } from './quality/checks/required-reason.ts';
import { serviceType } from './quality/checks/service-type.ts';
import { skippedFrames } from './quality/checks/skipped-frames.ts';
import { slowStart } from './quality/checks/slow-start.ts';
import { targetLevel } from './quality/checks/target-level.ts';
import { unusedResource } from './quality/checks/unused-resource.ts';
import { usageDescription } from './quality/checks/usage-description.ts';
import { knownBug } from './listing/checks/known-bug.ts';
import { listingLanguage } from './listing/checks/listing-language.ts';
import { listingPicture } from './listing/checks/listing-picture.ts';
import { listingText } from './listing/checks/listing-text.ts';
import { listingWord } from './listing/checks/listing-word.ts';

/** Every check, area by area. */
export const checks: readonly Check[] = [
  assertedEvidence,
  debugBuild,
  declaredUnseen,
  deviceSpread,
  entitlementMismatch,
  impliedFeature,
  namelessBuild,
  releaseSignature,
  seenUndeclared,
  unreadPart,
  versionNotRaised,
  crowdedTarget,
  displaySetting,
  fieldLabel,
  fixedTextSize,
  hiddenGesture,
  labelInName,
  meaninglessName,
  noHeading,
  overlappingTargets,
  readingOrder,
  roleConflict,
  roleInName,
  rotatedScreen,
  sameName,
  smallTarget,
  textScaling,
  unnamedControl,
  unnamedInLayout,
  unnamedPicture,
  unreachableControl,
  unseenFocus,
  unspokenState,
  voiceName,
  colourAlone,
  fieldBorder,
  iconContrast,
  invertedContrast,
  lightOnlyColour,
  lightRemnant,
  textContrast,
  themeContrast,
  cutText,
  duplicateKey,
  emptyTranslation,
  extraTranslation,
  hardCodedText,
  invisibleCharacter,
  languageSplit,
  listLength,
  localFormat,
  markupMismatch,
  messageSyntax,
  missingTranslation,
  mixedScript,
  noMirroring,
  notMirrored,
  orphanedLocale,
  placeholderMismatch,
  pluralForms,
  sameAsSource,
  sideInLayout,
  straySpace,
  swallowedEscape,
  textGrowth,
  textInLayout,
  undeclaredLocale,
  untranslatedOnScreen,
  blurredPicture,
  lostVariant,
  missingDefault,
  pictureSize,
  backupRules,
  launchMode,
  lostScreen,
  lostState,
  runningService,
  settingLeft,
  stuckOffline,
  wayBack,
  ambiguousLink,
  broadLinkFilter,
  closedLinkFilter,
  deadShortcut,
  lateModule,
  linkBack,
  linkLanding,
  malformedLink,
  mixedLinkData,
  needlessLinkFilter,
  undeclaredRoute,
  unverifiedDomain,
  channelName,
  payloadRules,
  payloadTarget,
  payloadTexts,
  pushAction,
  pushBadge,
  pushEnvironment,
  pushPermission,
  pushSetup,
  pushShown,
  pushSilent,
  pushTap,
  pushToken,
  scriptedPush,
  endedPurchase,
  missingPurchase,
  productIds,
  productOffer,
  productTexts,
  purchaseQuiet,
  purchaseTerms,
  resoldPurchase,
  shownPrice,
  signedSale,
  unfinishedPurchase,
  unpaidPurchase,
  unrestoredPurchase,
  writtenPrice,
  adAfterRemoval,
  adLoad,
  adOrder,
  adParameter,
  adReturn,
  adSeller,
  adWiring,
  liveAdRequest,
  testPlacement,
  ratingManner,
  ratingMoment,
  ratingShown,
  ratingWait,
  cleartextTraffic,
  crash,
  exportKey,
  keptSymbols,
  leftBehind,
  loggedCrash,
  mainThreadWork,
  nativeLibrary,
  needlessExport,
  permissionUse,
  requiredReason,
  serviceType,
  skippedFrames,
  slowStart,
  targetLevel,
  unusedResource,
  usageDescription,
  knownBug,
  listingLanguage,
  listingPicture,
  listingText,
  listingWord,
];
