/**
 * Which of two fitting variants the platform prefers (AOSP `ResourceTypes.cpp`, `ResTable_config::isBetterThan`).
 *
 * The comparison is not symmetric: by locale a variant can only win here, never lose, so that a later qualifier may
 * still decide against the nearer language when the two are met in the other order. We do as the platform does.
 */

import { compareRegions, isCloseToUsEnglish } from './locale-rules.ts';
import { type Qualifier, sizeRank } from './match-config.ts';
import type { ResourceConfig } from './resource-config.ts';
import { sameLanguage, type TargetDevice } from './target-device.ts';

/** Whether the first is better than the second, and by which qualifier that is decided; by none where they are equal. */
export interface Decision {
  better: boolean;
  by?: Qualifier;
}

const EQUAL: Decision = { better: false };

/** Words of which a variant that names the device's own beats one that names none; in their order of precedence. */
const BEFORE_DENSITY = ['round', 'colorGamut', 'dynamicRange', 'orientation', 'uiMode'] as const;

export function decide(a: ResourceConfig, b: ResourceConfig, device: TargetDevice): Decision {
  if (a.mcc !== b.mcc) return { better: a.mcc !== 0, by: 'mcc' };
  if (a.mnc !== b.mnc) return { better: a.mnc !== 0, by: 'mnc' };
  if (isNearerLocale(a, b, device)) return { better: true, by: 'locale' };
  if (a.gender !== b.gender) return { better: a.gender !== '', by: 'gender' };
  if (a.layoutDirection !== b.layoutDirection)
    return { better: a.layoutDirection !== 'any', by: 'layoutDirection' };
  if (a.smallestWidthDp !== b.smallestWidthDp)
    return { better: a.smallestWidthDp > b.smallestWidthDp, by: 'smallestWidthDp' };
  const bySize = nearerSize(a.widthDp, a.heightDp, b.widthDp, b.heightDp, device.widthDp, device.heightDp);
  if (bySize !== 0) return { better: bySize > 0, by: a.widthDp === b.widthDp ? 'heightDp' : 'widthDp' };
  if (a.screenSize !== b.screenSize) return { better: isBetterSize(a, b, device), by: 'screenSize' };
  if (a.screenLong !== b.screenLong) return { better: a.screenLong !== '', by: 'screenLong' };
  for (const by of BEFORE_DENSITY) if (a[by] !== b[by]) return { better: a[by] !== '', by };
  if (a.night !== b.night) return { better: a.night !== 'any', by: 'night' };
  if (a.density !== b.density)
    return { better: isBetterDensity(a.density, b.density, device.density), by: 'density' };
  return decideLast(a, b, device);
}

function decideLast(a: ResourceConfig, b: ResourceConfig, device: TargetDevice): Decision {
  if (a.touchscreen !== b.touchscreen) return { better: a.touchscreen !== '', by: 'touchscreen' };
  if (a.keysHidden !== b.keysHidden)
    return {
      better: a.keysHidden !== '' && (b.keysHidden === '' || a.keysHidden === device.keysHidden),
      by: 'keysHidden',
    };
  for (const by of ['navigationHidden', 'keyboard', 'navigation'] as const)
    if (a[by] !== b[by]) return { better: a[by] !== '', by };
  const byPx = nearerSize(a.widthPx, a.heightPx, b.widthPx, b.heightPx, device.widthPx, device.heightPx);
  if (byPx !== 0) return { better: byPx > 0, by: 'screenPx' };
  if (a.sdkVersion !== b.sdkVersion) return { better: a.sdkVersion > b.sdkVersion, by: 'version' };
  if (a.minorVersion !== b.minorVersion) return { better: a.minorVersion !== 0, by: 'version' };
  return EQUAL;
}

/** Above 0 where the first comes nearer to the device, both sides summed; larger than the device is out already. */
function nearerSize(aw: number, ah: number, bw: number, bh: number, width: number, height: number): number {
  const far = (w: number, h: number) => (width > 0 ? width - w : 0) + (height > 0 ? height - h : 0);
  return far(bw, bh) - far(aw, ah);
}

const NORMAL = 2;

/** None counts as normal, except on a small screen; where both are normal then, the one that says so is better. */
function isBetterSize(a: ResourceConfig, b: ResourceConfig, device: TargetDevice): boolean {
  const stand = sizeRank(device) >= NORMAL ? NORMAL : 0;
  const [ofA, ofB] = [sizeRank(a) || stand, sizeRank(b) || stand];
  return ofA === ofB ? a.screenSize !== '' : ofA > ofB;
}

export const DENSITY_ANY = 0xfffe;
export const DENSITY_NONE = 0xffff;
export const DENSITY_MEDIUM = 160;

/** Scaling down is taken to look twice as good as scaling up; what needs no scaling beats both. */
function isBetterDensity(a: number, b: number, wanted: number): boolean {
  const [own, other] = [a || DENSITY_MEDIUM, b || DENSITY_MEDIUM];
  if (own === DENSITY_ANY) return true;
  if (other === DENSITY_ANY) return false;
  const asked = wanted === 0 || wanted === DENSITY_ANY ? DENSITY_MEDIUM : wanted;
  const isHigher = own >= other;
  const [low, high] = isHigher ? [other, own] : [own, other];
  if (asked >= high) return isHigher;
  if (low >= asked) return !isHigher;
  return (2 * low - asked) * high > asked * asked ? !isHigher : isHigher;
}

/** Whether the first one's locale is nearer to the device's. Both fit, so their languages are the device's or none. */
function isNearerLocale(a: ResourceConfig, b: ResourceConfig, device: TargetDevice): boolean {
  if (device.language === '' || (a.language === '' && b.language === '')) return false;
  if (!sameLanguage(a.language, b.language)) return prefersOver(a, b, device);
  const byRegion = compareRegions(a.region, b.region, device);
  if (byRegion !== 0) return byRegion > 0;
  for (const part of ['localeVariant', 'numberingSystem'] as const) {
    const [ofA, ofB] = [a[part] === device[part], b[part] === device[part]];
    if (ofA !== ofB) return ofA;
  }
  return a.language === device.language && b.language !== device.language;
}

/**
 * One has the device's language, the other none. The one with the language wins, except against English of another
 * kind than the device's: values without a language are mostly in US English.
 */
function prefersOver(a: ResourceConfig, b: ResourceConfig, device: TargetDevice): boolean {
  const named = a.language === '' ? b : a;
  const isNamed = a.language !== '';
  if (device.language === 'en') {
    if (device.region === 'US') return isNamed === (named.region === '' || named.region === 'US');
    if (isCloseToUsEnglish(device.region)) return isNamed === isCloseToUsEnglish(named.region);
  }
  return isNamed;
}
