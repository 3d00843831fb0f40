/** Procedures that are run on a device, by the names that checklists and `fenlok drill` use. */
import type { Platform } from './candidate.ts';

/** Each leaves a screen and comes back to it: screen and state must be the same afterwards. */
export const stateDrills = [
  'home-and-return',
  'recents',
  'covered',
  'interrupted',
  'screen-off',
  'rotate',
  'resize',
  'discard',
  'process-death',
  'permission-revoked',
  'network-lost',
  'low-battery',
  'location-off',
] as const;
export type StateDrillId = (typeof stateDrills)[number];

/** On each screen too, but with something else to show than its state. */
export const screenDrills = ['back', 'background-services', ...stateDrills, 'offline'] as const;
export type ScreenDrillId = (typeof screenDrills)[number];

/** What can be run on the screen in front, whichever app it is. */
export const drillsFromHere = [...screenDrills, 'cold-start'] as const;
export type HereDrillId = (typeof drillsFromHere)[number];

/** All of them. */
export const drillIds = [
  'capture-sweep',
  'cold-start',
  ...screenDrills,
  'links',
  'push',
  'purchases',
  'ads',
  'ratings',
  'roam',
] as const;
export type DrillId = (typeof drillIds)[number];

/** Those that can be driven on iOS, where a UI test does what a bridge does on Android; the others need a person there. */
const iosDrills: readonly string[] = [
  'capture-sweep',
  'back',
  'home-and-return',
  'covered',
  'interrupted',
  'rotate',
  'process-death',
  'cold-start',
  'network-lost',
  'offline',
  'links',
  'push',
  'purchases',
  'ads',
  'roam',
] satisfies DrillId[];

export const isDriven = (id: string, platform: Platform): boolean =>
  platform === 'android' || iosDrills.includes(id);

/** What drills were called before, in traces and lists of that time. */
const FORMER_NAMES: Readonly<Record<string, DrillId>> = {
  'fire-links': 'links',
  'push-walk': 'push',
  'buy-flows': 'purchases',
  'load-ads': 'ads',
};
export const currentDrillName = (name: string): string => FORMER_NAMES[name] ?? name;
export const formerDrillName = (id: string): string | undefined =>
  Object.keys(FORMER_NAMES).find((former) => FORMER_NAMES[former] === id);

export const isScreenDrill = (id: string): id is ScreenDrillId =>
  (screenDrills as readonly string[]).includes(id);
export const isDrillFromHere = (id: string): id is HereDrillId =>
  (drillsFromHere as readonly string[]).includes(id);
export const isStateDrill = (id: string): id is StateDrillId =>
  (stateDrills as readonly string[]).includes(id);
