/** The devices that variants are judged for: the intent file's, or those of every density and of both sizes. */
import type { Intent } from '../../model/intent.ts';
import { parseConfig } from '../../platform/android/parse-config.ts';
import type { ResourceConfig } from '../../platform/android/resource-config.ts';
import { variantPicker } from '../../platform/android/select-variant.ts';
import { type TargetDevice, targetDevice } from '../../platform/android/target-device.ts';

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

export const listedDevices = ({ devices }: Intent): readonly ListedDevice[] =>
  devices.length > 0 ? devices : shippedDevices;

/** One device in one language and theme, with what it picks. */
export interface Situation {
  device: ListedDevice;
  locale: string;
  night: boolean;
  target: TargetDevice;
  pick: ReturnType<typeof variantPicker>;
}

/** Every device × the app's languages × day and night, the source language by day first. */
export function situationsOf(intent: Intent, minSdk?: number): Situation[] {
  const locales = [...new Set([intent.sourceLocale, ...intent.locales])];
  const nights = intent.themes.includes('dark') ? [false, true] : [false];
  return listedDevices(intent).flatMap((device) =>
    locales.flatMap((locale) =>
      nights.map((night): Situation => {
        const { densityDpi, heightDp, widthDp } = device;
        const target = targetDevice({
          locale,
          densityDpi,
          widthDp,
          heightDp,
          night,
          ...(minSdk !== undefined && { sdkVersion: minSdk }),
        });
        return { device, locale, night, target, pick: variantPicker(target) };
      }),
    ),
  );
}

/** The configurations of forms; what cannot be parsed fits no device. */
export const configsOf = (forms: readonly { qualifiers: string }[]): ResourceConfig[] =>
  forms.map(({ qualifiers }) => parseConfig(qualifiers) ?? { ...parseConfig('')!, mcc: -1 });
