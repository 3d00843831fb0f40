/** A device as resources are chosen for it: each qualifier with the device's own value. */
import { isRightToLeft } from '../../model/locale.ts';
import { likelyScript } from './locale-rules.ts';
import { ANY_CONFIG, localeFieldsOf, type ResourceConfig } from './resource-config.ts';

/** The script is always filled in where CLDR knows it, and codes are those that the platform asks with. */
export type TargetDevice = ResourceConfig;

/** What people say of a device; the rest follows from it. */
export interface DeviceSettings {
  /** BCP 47. */
  locale: string;
  /** Dots per inch: 160, 420, 480 … */
  densityDpi: number;
  widthDp?: number;
  heightDp?: number;
  night?: boolean;
  orientation?: 'port' | 'land';
  sdkVersion?: number;
  /** Of the network that the phone is in. */
  mcc?: number;
  mnc?: number;
  uiMode?: string;
  gender?: string;
  touchscreen?: string;
  keyboard?: string;
  navigation?: string;
}

// Java's own names for three languages (java.util.Locale, *Legacy language codes*), with which the platform asks.
const LEGACY: Record<string, string> = { he: 'iw', id: 'in', yi: 'ji' };

/** Two names of one language. */
export const sameLanguage = (a: string, b: string): boolean =>
  a === b || (a === 'tl' && b === 'fil') || (a === 'fil' && b === 'tl');

export function targetDevice(settings: DeviceSettings): TargetDevice {
  const { densityDpi, locale, mcc = 0, mnc = 0, night = false, sdkVersion = 35 } = settings;
  const orientation =
    settings.orientation ?? ((settings.widthDp ?? 0) > (settings.heightDp ?? 1) ? 'land' : 'port');
  const { heightDp = orientation === 'land' ? 411 : 891, widthDp = orientation === 'land' ? 891 : 411 } =
    settings;
  const fields = localeFieldsOf(locale);
  const language = LEGACY[fields.language] ?? fields.language;
  return {
    ...ANY_CONFIG,
    ...fields,
    language,
    script: fields.script || likelyScript(language, fields.region),
    mcc,
    mnc,
    gender: settings.gender ?? '',
    layoutDirection: locale && isRightToLeft(locale) ? 'rtl' : 'ltr',
    smallestWidthDp: Math.min(widthDp, heightDp),
    widthDp,
    heightDp,
    screenSize: screenSizeOf(widthDp, heightDp),
    screenLong: isLong(widthDp, heightDp) ? 'long' : 'notlong',
    round: 'notround',
    colorGamut: 'nowidecg',
    dynamicRange: 'lowdr',
    orientation,
    uiMode: settings.uiMode ?? '',
    night: night ? 'yes' : 'no',
    density: densityDpi,
    touchscreen: settings.touchscreen ?? 'finger',
    keysHidden: 'keyssoft',
    keyboard: settings.keyboard ?? 'nokeys',
    navigationHidden: 'navhidden',
    navigation: settings.navigation ?? 'nonav',
    widthPx: Math.round((widthDp * densityDpi) / 160),
    heightPx: Math.round((heightDp * densityDpi) / 160),
    sdkVersion,
  };
}

// Android developers, *Support different screen sizes*; AOSP `Configuration.reduceScreenLayout`: the longer and the
// shorter side, in dp.
function screenSizeOf(widthDp: number, heightDp: number): string {
  const [long, short] = [Math.max(widthDp, heightDp), Math.min(widthDp, heightDp)];
  if (long < 470) return 'small';
  if (long >= 960 && short >= 720) return 'xlarge';
  return long >= 640 && short >= 480 ? 'large' : 'normal';
}

const isLong = (widthDp: number, heightDp: number): boolean => {
  const [long, short] = [Math.max(widthDp, heightDp), Math.min(widthDp, heightDp)];
  return long >= 470 && (long * 3) / 5 >= short - 1;
};
