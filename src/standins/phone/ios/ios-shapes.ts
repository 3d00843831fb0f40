/** The iOS devices that the stand-in can be. Sizes in picture pixels; a point is `densityDpi` / 160 of them. */
import type { PhoneShape } from '../shapes.ts';

export interface IosShape extends PhoneShape {
  /** Pixels a point. */
  scale: number;
  /** From leaving the front until the system suspends the app. */
  suspendMs: number;
}

const ordinary = {
  sdk: 17,
  release: '17.4',
  coldStartMs: 60,
  stopDelayMs: 40,
  animationMs: 30,
  suspendMs: 120,
  discardSetting: 'observed',
  rootBack: 'finishes',
} as const;

export const iosShapes: Readonly<Record<string, IosShape>> = {
  phone: {
    ...ordinary,
    name: 'phone',
    model: 'Stand-in Phone',
    widthPx: 1170,
    heightPx: 2532,
    scale: 3,
    densityDpi: 480,
    statusBarDp: 47,
    navigationBarDp: 34,
  },
  'older-phone': {
    ...ordinary,
    name: 'older-phone',
    model: 'Stand-in Older Phone',
    widthPx: 828,
    heightPx: 1792,
    scale: 2,
    densityDpi: 320,
    statusBarDp: 48,
    navigationBarDp: 34,
  },
  'small-phone': {
    ...ordinary,
    name: 'small-phone',
    model: 'Stand-in Small Phone',
    widthPx: 750,
    heightPx: 1334,
    scale: 2,
    densityDpi: 320,
    statusBarDp: 20,
    navigationBarDp: 0,
    sdk: 16,
    release: '16.7',
    coldStartMs: 200,
    suspendMs: 300,
  },
  tablet: {
    ...ordinary,
    name: 'tablet',
    model: 'Stand-in Tablet',
    widthPx: 1640,
    heightPx: 2360,
    scale: 2,
    densityDpi: 320,
    statusBarDp: 24,
    navigationBarDp: 20,
  },
};
