/** The phones that the stand-in can be. Sizes in picture pixels, density as the platform counts it. */
export interface PhoneShape {
  name: string;
  widthPx: number;
  heightPx: number;
  densityDpi: number;
  statusBarDp: number;
  navigationBarDp: number;
}

export const shapes = {
  common: {
    name: 'common',
    widthPx: 1080,
    heightPx: 2400,
    densityDpi: 480,
    statusBarDp: 28,
    navigationBarDp: 20,
  },
  small: { name: 'small', widthPx: 480, heightPx: 800, densityDpi: 240, statusBarDp: 24, navigationBarDp: 0 },
} as const satisfies Record<string, PhoneShape>;
