/** How an app is shown in one run: what its user has set, and what its arguments say instead. */
import type { Orientation, Theme } from '../../../core/model/cell.ts';
import {
  bodyScale,
  type ContentSize,
  contentSizes,
  ORDINARY,
  scaledPoints,
} from '../../../core/platform/apple/content-size.ts';
import { selectLocalization } from '../../../core/platform/apple/select-localization.ts';
import type { AppContext } from '../app-model.ts';
import { contextOf, type DisplaySettings } from '../screen/display.ts';
import type { IosShape } from './ios-shapes.ts';
import { contentSizeIn, type InstalledIosApp, languagesIn } from './running-app.ts';

interface SetPhone {
  shape: IosShape;
  appearance: Theme;
  orientation: Orientation;
}

/** @param app in front; the system itself where there is none */
export function displayFor(
  { appearance, orientation, shape }: SetPhone,
  app?: InstalledIosApp,
): DisplaySettings {
  const size = app ? sizeOf(app) : ORDINARY;
  return {
    shape,
    platform: 'ios',
    locale: app ? localeOf(app) : 'en',
    theme: appearance,
    textScale: bodyScale(size),
    orientation,
    boldText: false,
    sizeOf: (sizeSp) => scaledPoints(sizeSp, size),
    isForcedRtl: app?.process?.defaults.get('NSForceRightToLeftWritingDirection') === 'YES',
  };
}

export function contextFor(phone: SetPhone, app: InstalledIosApp): AppContext {
  const context = contextOf(app.resources, 'ios', displayFor(phone, app));
  if (app.process?.defaults.get('NSDoubleLocalizedStrings') !== 'YES') return context;
  const doubled = (text: string) => `${text} ${text}`;
  return {
    ...context,
    string: (key, ...args) => doubled(context.string(key, ...args)),
    plural: (key, count, ...args) => doubled(context.plural(key, count, ...args)),
  };
}

/** The localization that the system picks for this run. */
export function localeOf({ localizations, process }: InstalledIosApp): string {
  const asked = process?.defaults.get('AppleLanguages');
  return selectLocalization(localizations, asked ? languagesIn(asked) : ['en'], localizations[0]!);
}

export function sizeOf({ process }: InstalledIosApp): ContentSize {
  const asked = contentSizeIn(process?.defaults.get('UIPreferredContentSizeCategoryName'));
  return contentSizes.find((size) => size === asked) ?? ORDINARY;
}
