/** The phone as fingers, keys and its display see it; `phone-os.ts` is that phone. */
import type { AppContext } from '../app-model.ts';
import type { DisplaySettings } from '../screen/display.ts';
import type { PhoneAds } from '../services/phone-ads.ts';
import type { PhoneRatings, RatingPrompt } from '../services/phone-ratings.ts';
import type { PhoneStore, Sheet } from '../services/phone-store.ts';
import type { ShownAd } from '../services/shown-ad.ts';
import type { PhoneShape } from '../shapes.ts';
import type { ActivityManager, RunnableApp } from './activity-manager.ts';
import type { PackageManager } from './package-manager.ts';
import type { PhoneMessages } from './phone-messages.ts';

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
  readonly store: PhoneStore<RunnableApp>;
  readonly ads: PhoneAds<RunnableApp>;
  readonly ratings: PhoneRatings<RunnableApp>;
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
