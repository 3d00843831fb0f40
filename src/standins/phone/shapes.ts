/**
 * The phones that the stand-in can be. Sizes in picture pixels, density as the platform counts it; and where
 * platforms behave differently, which way this one goes.
 */
export interface PhoneShape {
  name: string;
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  statusBarDp: number;
  navigationBarDp: number;
  /** Of a foldable: the outer display, in use while it is folded. */
  foldedPx?: { widthPx: number; heightPx: number };
  sdk: number;
  release: string;
  model: string;
  /** From the order to start until the first screen stands, for a process that has to be made first. */
  coldStartMs: number;
  /** From leaving the front until the activity is stopped. */
  stopDelayMs: number;
  /** How long a change of screen moves at animation scale 1; no dump can be had meanwhile. */
  animationMs: number;
  /** When a change of `always_finish_activities` is heard: at once, or only when its settings page flips it or at boot. */
  discardSetting: 'observed' | 'read-at-boot';
  /** What back does on the first screen of an app. From SDK 31 on it only goes to the background. */
  rootBack: 'to-background' | 'finishes';
}

const ordinary = {
  statusBarDp: 28,
  navigationBarDp: 20,
  sdk: 34,
  release: '14',
  coldStartMs: 60,
  stopDelayMs: 40,
  animationMs: 30,
  discardSetting: 'observed',
  rootBack: 'to-background',
} as const;

export const shapes = {
  common: {
    ...ordinary,
    name: 'common',
    model: 'Stand-in Common',
    widthPx: 1080,
    heightPx: 2400,
    densityDpi: 480,
  },
  small: {
    ...ordinary,
    name: 'small',
    model: 'Stand-in Small',
    widthPx: 480,
    heightPx: 800,
    densityDpi: 240,
    statusBarDp: 24,
    navigationBarDp: 0,
    sdk: 28,
    release: '9',
    coldStartMs: 240,
    stopDelayMs: 120,
    discardSetting: 'read-at-boot',
    rootBack: 'finishes',
  },
  foldable: {
    ...ordinary,
    name: 'foldable',
    model: 'Stand-in Foldable',
    widthPx: 1840,
    heightPx: 2208,
    densityDpi: 420,
    foldedPx: { widthPx: 1080, heightPx: 2092 },
  },
  tablet: {
    ...ordinary,
    name: 'tablet',
    model: 'Stand-in Tablet',
    widthPx: 1600,
    heightPx: 2560,
    densityDpi: 320,
    sdk: 33,
    release: '13',
    // it animates long, so that dumps taken right after a change fail
    animationMs: 400,
  },
} as const satisfies Record<string, PhoneShape>;
