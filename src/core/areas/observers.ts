import { observeStops } from './accessibility/observe-stops.ts';
import { observeTargets } from './accessibility/observe-targets.ts';
import { observeCapture } from './candidate/observe-capture.ts';
import { observePackage } from './candidate/observe-package.ts';
import { observeTextContrast } from './contrast/observe-text-contrast.ts';
import { observeLinkFilters } from './links/observe-link-filters.ts';
import { observeCatalogue } from './localization/observe-catalogue.ts';
import type { Observer } from './observer.ts';

/** Every observer; the order is that of the facts in a dossier. */
export const observers: readonly Observer[] = [
  observePackage,
  observeLinkFilters,
  observeCatalogue,
  observeCapture,
  observeStops,
  observeTargets,
  observeTextContrast,
];
