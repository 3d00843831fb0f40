import { crowdedTarget } from './accessibility/crowded-target.ts';
import { fieldLabel } from './accessibility/field-label.ts';
import { fixedTextSize } from './accessibility/fixed-text-size.ts';
import { hiddenGesture } from './accessibility/hidden-gesture.ts';
import { labelInName } from './accessibility/label-in-name.ts';
import { meaninglessName } from './accessibility/meaningless-name.ts';
import { noHeading } from './accessibility/no-heading.ts';
import { overlappingTargets } from './accessibility/overlapping-targets.ts';
import { displaySetting } from './accessibility/pairs/display-setting.ts';
import { rotatedScreen } from './accessibility/pairs/rotated-screen.ts';
import { textScaling } from './accessibility/pairs/text-scaling.ts';
import { roleConflict } from './accessibility/role-conflict.ts';
import { roleInName } from './accessibility/role-in-name.ts';
import { sameName } from './accessibility/same-name.ts';
import { smallTarget } from './accessibility/small-target.ts';
import { unnamedControl } from './accessibility/unnamed-control.ts';
import { unnamedInLayout } from './accessibility/unnamed-in-layout.ts';
import { unreachableControl } from './accessibility/unreachable-control.ts';
import { unseenFocus } from './accessibility/unseen-focus.ts';
import { unspokenState } from './accessibility/unspoken-state.ts';
import { voiceName } from './accessibility/voice-name.ts';
import { adAfterRemoval } from './ads/ad-after-removal.ts';
import { adLoad } from './ads/ad-load.ts';
import { adOrder } from './ads/ad-order.ts';
import { adParameter } from './ads/ad-parameter.ts';
import { adReturn } from './ads/ad-return.ts';
import { adSeller } from './ads/ad-seller.ts';
import { adWiring } from './ads/ad-wiring.ts';
import { liveAdRequest } from './ads/live-ad-request.ts';
import { testPlacement } from './ads/test-placement.ts';
import { debugBuild } from './candidate/debug-build.ts';
import { entitlementMismatch } from './candidate/entitlement-mismatch.ts';
import { impliedFeature } from './candidate/implied-feature.ts';
import { namelessBuild } from './candidate/nameless-build.ts';
import { releaseSignature } from './candidate/release-signature.ts';
import { unreadPart } from './candidate/unread-part.ts';
import { versionNotRaised } from './candidate/version-not-raised.ts';
import type { Check } from './check.ts';
import { colourAlone } from './contrast/colour-alone.ts';
import { iconContrast } from './contrast/icon-contrast.ts';
import { invertedContrast } from './contrast/inverted-contrast.ts';
import { lightOnlyColour } from './contrast/light-only-colour.ts';
import { textContrast } from './contrast/text-contrast.ts';
import { themeContrast } from './contrast/theme-contrast.ts';
import { backupRules } from './lifecycle/backup-rules.ts';
import { launchMode } from './lifecycle/launch-mode.ts';
import { lostScreen } from './lifecycle/lost-screen.ts';
import { lostState } from './lifecycle/lost-state.ts';
import { runningService } from './lifecycle/running-service.ts';
import { settingLeft } from './lifecycle/setting-left.ts';
import { wayBack } from './lifecycle/way-back.ts';
import { ambiguousLink } from './links/ambiguous-link.ts';
import { broadLinkFilter } from './links/broad-link-filter.ts';
import { closedLinkFilter } from './links/closed-link-filter.ts';
import { deadShortcut } from './links/dead-shortcut.ts';
import { lateModule } from './links/late-module.ts';
import { linkBack } from './links/link-back.ts';
import { linkLanding } from './links/link-landing.ts';
import { malformedLink } from './links/malformed-link.ts';
import { mixedLinkData } from './links/mixed-link-data.ts';
import { needlessLinkFilter } from './links/needless-link-filter.ts';
import { undeclaredRoute } from './links/undeclared-route.ts';
import { unverifiedDomain } from './links/unverified-domain.ts';
import { languageSplit } from './localization/language-split.ts';
import { noMirroring } from './localization/no-mirroring.ts';
import { orphanedLocale } from './localization/orphaned-locale.ts';
import { cutText } from './localization/screens/cut-text.ts';
import { hardCodedText } from './localization/screens/hard-coded-text.ts';
import { notMirrored } from './localization/screens/not-mirrored.ts';
import { untranslatedOnScreen } from './localization/screens/untranslated-on-screen.ts';
import { sideInLayout } from './localization/side-in-layout.ts';
import { textInLayout } from './localization/text-in-layout.ts';
import { duplicateKey } from './localization/texts/duplicate-key.ts';
import { emptyTranslation } from './localization/texts/empty-translation.ts';
import { extraTranslation } from './localization/texts/extra-translation.ts';
import { invisibleCharacter } from './localization/texts/invisible-character.ts';
import { listLength } from './localization/texts/list-length.ts';
import { markupMismatch } from './localization/texts/markup-mismatch.ts';
import { messageSyntax } from './localization/texts/message-syntax.ts';
import { missingTranslation } from './localization/texts/missing-translation.ts';
import { mixedScript } from './localization/texts/mixed-script.ts';
import { placeholderMismatch } from './localization/texts/placeholder-mismatch.ts';
import { pluralForms } from './localization/texts/plural-forms.ts';
import { sameAsSource } from './localization/texts/same-as-source.ts';
import { straySpace } from './localization/texts/stray-space.ts';
import { swallowedEscape } from './localization/texts/swallowed-escape.ts';
import { textGrowth } from './localization/texts/text-growth.ts';
import { undeclaredLocale } from './localization/undeclared-locale.ts';
import { endedPurchase } from './purchases/ended-purchase.ts';
import { missingPurchase } from './purchases/missing-purchase.ts';
import { productIds } from './purchases/product-ids.ts';
import { productOffer } from './purchases/product-offer.ts';
import { productTexts } from './purchases/product-texts.ts';
import { purchaseQuiet } from './purchases/purchase-quiet.ts';
import { purchaseTerms } from './purchases/purchase-terms.ts';
import { resoldPurchase } from './purchases/resold-purchase.ts';
import { shownPrice } from './purchases/shown-price.ts';
import { signedSale } from './purchases/signed-sale.ts';
import { unfinishedPurchase } from './purchases/unfinished-purchase.ts';
import { unpaidPurchase } from './purchases/unpaid-purchase.ts';
import { unrestoredPurchase } from './purchases/unrestored-purchase.ts';
import { writtenPrice } from './purchases/written-price.ts';
import { payloadRules } from './push/payload-rules.ts';
import { payloadTarget } from './push/payload-target.ts';
import { payloadTexts } from './push/payload-texts.ts';
import { pushAction } from './push/push-action.ts';
import { pushBadge } from './push/push-badge.ts';
import { pushEnvironment } from './push/push-environment.ts';
import { pushPermission } from './push/push-permission.ts';
import { pushSetup } from './push/push-setup.ts';
import { pushShown } from './push/push-shown.ts';
import { pushSilent } from './push/push-silent.ts';
import { pushTap } from './push/push-tap.ts';
import { pushToken } from './push/push-token.ts';
import { cleartextTraffic } from './quality/cleartext-traffic.ts';
import { crash } from './quality/crash.ts';
import { nativeLibrary } from './quality/native-library.ts';
import { needlessExport } from './quality/needless-export.ts';
import { requiredReason } from './quality/required-reason.ts';
import { serviceType } from './quality/service-type.ts';
import { slowStart } from './quality/slow-start.ts';
import { unusedResource } from './quality/unused-resource.ts';
import { usageDescription } from './quality/usage-description.ts';
import { blurredPicture } from './resources/blurred-picture.ts';
import { lostVariant } from './resources/lost-variant.ts';
import { missingDefault } from './resources/missing-default.ts';
import { pictureSize } from './resources/picture-size.ts';

/** Every check. Adding one: its file, a line here, its words in `messages.ts`, a line in docs/checks.md. */
export const checks: readonly Check[] = [
  namelessBuild,
  unreadPart,
  debugBuild,
  releaseSignature,
  versionNotRaised,
  impliedFeature,
  entitlementMismatch,
  textContrast,
  iconContrast,
  themeContrast,
  lightOnlyColour,
  colourAlone,
  invertedContrast,
  unnamedControl,
  meaninglessName,
  roleInName,
  sameName,
  labelInName,
  roleConflict,
  unspokenState,
  fieldLabel,
  noHeading,
  smallTarget,
  overlappingTargets,
  crowdedTarget,
  unreachableControl,
  unseenFocus,
  hiddenGesture,
  voiceName,
  textScaling,
  displaySetting,
  rotatedScreen,
  unnamedInLayout,
  fixedTextSize,
  missingTranslation,
  placeholderMismatch,
  extraTranslation,
  emptyTranslation,
  sameAsSource,
  messageSyntax,
  pluralForms,
  markupMismatch,
  swallowedEscape,
  straySpace,
  mixedScript,
  invisibleCharacter,
  textGrowth,
  duplicateKey,
  listLength,
  undeclaredLocale,
  orphanedLocale,
  languageSplit,
  untranslatedOnScreen,
  hardCodedText,
  cutText,
  notMirrored,
  noMirroring,
  textInLayout,
  sideInLayout,
  missingDefault,
  lostVariant,
  blurredPicture,
  pictureSize,
  crash,
  lostScreen,
  lostState,
  wayBack,
  runningService,
  slowStart,
  settingLeft,
  launchMode,
  backupRules,
  linkLanding,
  malformedLink,
  closedLinkFilter,
  undeclaredRoute,
  unverifiedDomain,
  ambiguousLink,
  broadLinkFilter,
  mixedLinkData,
  deadShortcut,
  lateModule,
  needlessLinkFilter,
  linkBack,
  pushSetup,
  pushEnvironment,
  pushPermission,
  pushToken,
  pushShown,
  pushTap,
  pushAction,
  pushSilent,
  pushBadge,
  payloadRules,
  payloadTexts,
  payloadTarget,
  productIds,
  signedSale,
  productOffer,
  productTexts,
  shownPrice,
  purchaseTerms,
  writtenPrice,
  unpaidPurchase,
  missingPurchase,
  unrestoredPurchase,
  resoldPurchase,
  endedPurchase,
  unfinishedPurchase,
  purchaseQuiet,
  adWiring,
  adParameter,
  testPlacement,
  liveAdRequest,
  adOrder,
  adLoad,
  adAfterRemoval,
  adReturn,
  adSeller,
  cleartextTraffic,
  needlessExport,
  serviceType,
  usageDescription,
  requiredReason,
  nativeLibrary,
  unusedResource,
];
