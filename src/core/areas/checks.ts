import { smallTarget } from './accessibility/small-target.ts';
import { unnamedControl } from './accessibility/unnamed-control.ts';
import { namelessBuild } from './candidate/nameless-build.ts';
import type { Check } from './check.ts';
import { textContrast } from './contrast/text-contrast.ts';
import { closedLinkFilter } from './links/closed-link-filter.ts';
import { missingTranslation } from './localization/missing-translation.ts';
import { placeholderMismatch } from './localization/placeholder-mismatch.ts';

/** Every check. Adding one: its file, a line here, its words in `messages.ts`, a line in docs/checks.md. */
export const checks: readonly Check[] = [
  namelessBuild,
  textContrast,
  unnamedControl,
  smallTarget,
  missingTranslation,
  placeholderMismatch,
  closedLinkFilter,
];
