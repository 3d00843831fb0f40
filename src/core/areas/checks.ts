import { smallTarget } from './accessibility/small-target.ts';
import { unnamedControl } from './accessibility/unnamed-control.ts';
import { debugBuild } from './candidate/debug-build.ts';
import { entitlementMismatch } from './candidate/entitlement-mismatch.ts';
import { namelessBuild } from './candidate/nameless-build.ts';
import { releaseSignature } from './candidate/release-signature.ts';
import { unreadPart } from './candidate/unread-part.ts';
import { versionNotRaised } from './candidate/version-not-raised.ts';
import type { Check } from './check.ts';
import { textContrast } from './contrast/text-contrast.ts';
import { backupRules } from './lifecycle/backup-rules.ts';
import { closedLinkFilter } from './links/closed-link-filter.ts';
import { cutText } from './localization/cut-text.ts';
import { duplicateKey } from './localization/duplicate-key.ts';
import { emptyTranslation } from './localization/empty-translation.ts';
import { extraTranslation } from './localization/extra-translation.ts';
import { hardCodedText } from './localization/hard-coded-text.ts';
import { invisibleCharacter } from './localization/invisible-character.ts';
import { listLength } from './localization/list-length.ts';
import { markupMismatch } from './localization/markup-mismatch.ts';
import { messageSyntax } from './localization/message-syntax.ts';
import { missingTranslation } from './localization/missing-translation.ts';
import { mixedScript } from './localization/mixed-script.ts';
import { notMirrored } from './localization/not-mirrored.ts';
import { orphanedLocale } from './localization/orphaned-locale.ts';
import { placeholderMismatch } from './localization/placeholder-mismatch.ts';
import { pluralForms } from './localization/plural-forms.ts';
import { sameAsSource } from './localization/same-as-source.ts';
import { straySpace } from './localization/stray-space.ts';
import { swallowedEscape } from './localization/swallowed-escape.ts';
import { textGrowth } from './localization/text-growth.ts';
import { undeclaredLocale } from './localization/undeclared-locale.ts';
import { untranslatedOnScreen } from './localization/untranslated-on-screen.ts';
import { pushEnvironment } from './push/push-environment.ts';
import { cleartextTraffic } from './quality/cleartext-traffic.ts';
import { nativeLibrary } from './quality/native-library.ts';
import { needlessExport } from './quality/needless-export.ts';
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
  entitlementMismatch,
  textContrast,
  unnamedControl,
  smallTarget,
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
  untranslatedOnScreen,
  hardCodedText,
  cutText,
  notMirrored,
  missingDefault,
  lostVariant,
  blurredPicture,
  pictureSize,
  backupRules,
  closedLinkFilter,
  pushEnvironment,
  cleartextTraffic,
  needlessExport,
  usageDescription,
  nativeLibrary,
  unusedResource,
];
