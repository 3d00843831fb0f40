/** The devices that variants are judged for: the intent file's, or those of every density and of both sizes. */
import { parseConfig } from '../../platform/android/parse-config.ts';
import { NEWEST_LEVEL } from '../../platform/android/platform-levels.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { variantPicker } from '../../platform/android/select-variant.ts';
import { type TargetDevice, targetDevice } from '../../platform/android/target-device.ts';
import type { IntentWith } from '../check.ts';

export interface ListedDevice {
  name: string;
  densityDpi: number;
  widthDp: number;
  heightDp: number;
}

// Android developers, *Support different pixel densities*, table 1; a phone and a tablet of each.
const DENSITIES: [name: string, dpi: number][] = [
  ['ldpi', 120],
  ['mdpi', 160],
  ['tvdpi', 213],
  ['hdpi', 240],
  ['xhdpi', 320],
  ['xxhdpi', 480],
  ['xxxhdpi', 640],
];
const SIZES = [
  { size: 'phone', widthDp: 411, heightDp: 891 },
  { size: 'tablet', widthDp: 800, heightDp: 1280 },
];

const shippedDevices: readonly ListedDevice[] = SIZES.flatMap(({ heightDp, size, widthDp }) =>
  DENSITIES.map(([name, densityDpi]) => ({
    name: size === 'phone' ? name : `${name} ${size}`,
    densityDpi,
    widthDp,
    heightDp,
  })),
);

// Android developers, *Develop watch faces*, screen sizes; *Layouts in the UI for TV*: 960 × 540 dp at every resolution.
const WATCHES: readonly ListedDevice[] = [
  { name: 'hdpi watch', densityDpi: 240, widthDp: 213, heightDp: 213 },
  { name: 'xhdpi watch', densityDpi: 320, widthDp: 225, heightDp: 225 },
];
const TVS: readonly ListedDevice[] = [
  { name: 'TV, 720 lines', densityDpi: 213, widthDp: 960, heightDp: 540 },
  { name: 'TV, 1080 lines', densityDpi: 320, widthDp: 960, heightDp: 540 },
  { name: 'TV, 2160 lines', densityDpi: 640, widthDp: 960, heightDp: 540 },
];

type MadeFor = 'tv' | 'watch' | undefined;

const listedDevices = ({ devices }: IntentWith, madeFor: MadeFor): readonly ListedDevice[] =>
  devices.length > 0 ? devices : madeFor === 'watch' ? WATCHES : madeFor === 'tv' ? TVS : shippedDevices;

/** One device in one language and theme, with what it picks. */
export interface Situation {
  device: ListedDevice;
  locale: string;
  night: boolean;
  /** On the oldest platform level, where the newest is another. */
  isOldest: boolean;
  target: TargetDevice;
  pick: ReturnType<typeof variantPicker>;
}

// android.util.DisplayMetrics: the API level that each density came with; no older device has it.
const FIRST_LEVEL: [dpi: number, level: number][] = [
  [640, 18],
  [480, 16],
  [320, 9],
  [213, 13],
];
const levelsOf = (densityDpi: number, minSdk: number | undefined): number[] => {
  const since = FIRST_LEVEL.find(([dpi]) => densityDpi >= dpi)?.[1] ?? 1;
  const oldest = Math.max(minSdk ?? 1, since);
  return minSdk === undefined ? [NEWEST_LEVEL] : [...new Set([oldest, Math.max(oldest, NEWEST_LEVEL)])];
};

/**
 * Every device on the oldest platform that the app runs on and the device ever had, then on the newest; each in the
 * app's languages, by day and by night, the source language by day first.
 */
export function situationsOf(intent: IntentWith, minSdk?: number, madeFor?: MadeFor): Situation[] {
  const locales = [...new Set([intent.sourceLocale, ...intent.locales])];
  const nights = intent.themes.includes('dark') ? [false, true] : [false];
  const placed = listedDevices(intent, madeFor).map((device) => ({
    device,
    levels: levelsOf(device.densityDpi, minSdk),
  }));
  const onLevel = (at: 0 | 1) =>
    placed.flatMap(({ device, levels }) =>
      levels[at] === undefined ? [] : [{ device, sdkVersion: levels[at] }],
    );
  return ([0, 1] as const).flatMap((at) =>
    onLevel(at).flatMap(({ device, sdkVersion }) =>
      locales.flatMap((locale) =>
        nights.map((night): Situation => {
          const { densityDpi, heightDp, widthDp } = device;
          const target = targetDevice({
            locale,
            densityDpi,
            widthDp,
            heightDp,
            night,
            sdkVersion,
          });
          return { device, locale, night, isOldest: at === 0, target, pick: variantPicker(target) };
        }),
      ),
    ),
  );
}

/** The configurations of forms; what cannot be parsed fits no device. */
export const configsOf = (forms: readonly { qualifiers: string }[]): ResourceConfig[] =>
  forms.map(({ qualifiers }) => parseConfig(qualifiers) ?? { ...parseConfig('')!, mcc: -1 });
