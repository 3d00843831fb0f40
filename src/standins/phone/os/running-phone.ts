/** The phone as fingers, keys and its display see it; `phone-os.ts` is that phone. */
import type { AppContext } from '../app-model.ts';
import type { DisplaySettings } from '../screen/display.ts';
import type { PhoneShape } from '../shapes.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { PackageManager } from './package-manager.ts';
import type { PhoneAds } from './phone-ads.ts';
import type { PhoneMessages } from './phone-messages.ts';
import type { PhoneRatings, RatingPrompt } from './phone-ratings.ts';
import type { PhoneStore, Sheet } from './phone-store.ts';
import type { ShownAd } from './shown-ad.ts';

/** What lies over the app in front. */
export type Cover =
  | 'shade'
  | 'recents'
  | { asks: string; app: RunnableApp }
  | { sheet: Sheet; app: RunnableApp }
  | { ad: ShownAd; app: RunnableApp }
  | { rating: RatingPrompt; app: RunnableApp }
  | { trouble: 'crash' | 'not responding'; app: RunnableApp };

export interface RunningPhone {
  readonly shape: PhoneShape;
  readonly packages: PackageManager;
  readonly activities: ActivityManager;
  readonly messages: PhoneMessages;
  readonly store: PhoneStore;
  readonly ads: PhoneAds;
  readonly ratings: PhoneRatings;
  isScreenOn: boolean;
  isLocked: boolean;
  cover?: Cover;
  display(app?: RunnableApp): DisplaySettings;
  contextOf(app: RunnableApp): AppContext;
  recentApps(): RunnableApp[];
  home(): void;
  back(): void;
  recents(): void;
  expandShade(): void;
  sleep(): void;
  wake(): void;
  unlock(): void;
}
