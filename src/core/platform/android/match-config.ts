/** Which variants do not contradict a device (AOSP `ResourceTypes.cpp`, `ResTable_config::match`). */

import { likelyScript } from './locale-rules.ts';
import { type ResourceConfig, WORDS } from './resource-config.ts';
import { sameLanguage, type TargetDevice } from './target-device.ts';

/** The qualifiers in the platform's order of precedence. */
export const qualifiers = [
  'mcc',
  'mnc',
  'locale',
  'gender',
  'layoutDirection',
  'smallestWidthDp',
  'widthDp',
  'heightDp',
  'screenSize',
  'screenLong',
  'round',
  'colorGamut',
  'dynamicRange',
  'orientation',
  'uiMode',
  'night',
  'density',
  'touchscreen',
  'keysHidden',
  'keyboard',
  'navigationHidden',
  'navigation',
  'screenPx',
  'version',
] as const;
export type Qualifier = (typeof qualifiers)[number];

/** The first qualifier by which a variant does not fit the device; undefined where it fits. Density always fits. */
export function contradiction(config: ResourceConfig, device: TargetDevice): Qualifier | undefined {
  // first, since it drops most variants of a text
  if (config.language !== '' && !localeFits(config, device)) return 'locale';
  // written out rather than looped over the names: this is the innermost part of judging every resource on every device
  if (config.mcc !== 0 && config.mcc !== device.mcc) return 'mcc';
  if (config.mnc !== 0 && config.mnc !== device.mnc) return 'mnc';
  if (differs(config.gender, device.gender)) return 'gender';
  if (config.layoutDirection !== 'any' && config.layoutDirection !== device.layoutDirection)
    return 'layoutDirection';
  if (config.smallestWidthDp > device.smallestWidthDp) return 'smallestWidthDp';
  if (config.widthDp > device.widthDp) return 'widthDp';
  if (config.heightDp > device.heightDp) return 'heightDp';
  if (config.screenSize !== '' && sizeRank(config) > sizeRank(device)) return 'screenSize';
  if (differs(config.screenLong, device.screenLong)) return 'screenLong';
  if (differs(config.round, device.round)) return 'round';
  if (differs(config.colorGamut, device.colorGamut)) return 'colorGamut';
  if (differs(config.dynamicRange, device.dynamicRange)) return 'dynamicRange';
  if (differs(config.orientation, device.orientation)) return 'orientation';
  if (differs(config.uiMode, device.uiMode)) return 'uiMode';
  if (config.night !== 'any' && config.night !== device.night) return 'night';
  if (differs(config.touchscreen, device.touchscreen)) return 'touchscreen';
  if (!keysFit(config.keysHidden, device.keysHidden)) return 'keysHidden';
  if (differs(config.keyboard, device.keyboard)) return 'keyboard';
  if (differs(config.navigationHidden, device.navigationHidden)) return 'navigationHidden';
  if (differs(config.navigation, device.navigation)) return 'navigation';
  if (config.widthPx > device.widthPx || config.heightPx > device.heightPx) return 'screenPx';
  if (config.sdkVersion > device.sdkVersion) return 'version';
  if (config.minorVersion !== 0 && config.minorVersion !== device.minorVersion) return 'version';
  return undefined;
}

const differs = (wanted: string, has: string): boolean => wanted !== '' && wanted !== has;

export const sizeRank = ({ screenSize }: Pick<ResourceConfig, 'screenSize'>): number =>
  (WORDS.screenSize as readonly string[]).indexOf(screenSize);

/** A soft keyboard is a keyboard too. */
const keysFit = (wanted: string, has: string): boolean =>
  wanted === '' || wanted === has || (wanted === 'keysexposed' && has === 'keyssoft');

/** Region and variant never exclude, since every text of a language is better than none; another script does. */
function localeFits(config: ResourceConfig, device: TargetDevice): boolean {
  if (!sameLanguage(config.language, device.language)) return false;
  const script = device.script && (config.script || likelyScript(config.language, config.region));
  return script ? script === device.script : config.region === '' || config.region === device.region;
}
