/** `fenlok/device`: phones on the line, and drills on them. */

export { AndroidDevice } from './android/android-device.ts';
export type { BridgeLine, ListedDevice, Ran } from './bridge/bridge-line.ts';
export { type BridgeOptions, listDevices, openDevice } from './bridge/open-device.ts';
export type { Capability, Device, DeviceApp, DeviceInfo, Held, Holdable, Snapshot } from './device.ts';
export {
  drillDevice,
  planFor,
  type SessionOptions,
  type SessionReport,
  type StepResult,
} from './drill-session.ts';
export type { Drill, DrillKits, DrillStep } from './drills/drill.ts';
export type { DrillSubject } from './drills/drill-subject.ts';
export { allDrills } from './drills/drills.ts';
export { runScreenDrill } from './drills/on-screen/run-screen-drill.ts';
export type { Act, ScreenDrill } from './drills/on-screen/screen-drill.ts';
export { allScreenDrills } from './drills/on-screen/screen-drills.ts';
export type { Plan, Wanted } from './drills/plan.ts';
export type { PushKit } from './drills/walks/walk-messages.ts';
export { type AppInFront, appInFront } from './in-hand/app-in-front.ts';
export { drillHere, type HereOptions, type HereRun } from './in-hand/drill-here.ts';
export { type FiredLink, fireLink } from './in-hand/fire-link.ts';
export { type Hold, type LiveHold, listHolds, takeHold } from './in-hand/holds.ts';
export { lookHere, type SeenHere } from './in-hand/look-here.ts';
export { IosDevice, openLookout } from './ios/ios-device.ts';
export { openPhone, type PhoneOptions } from './open-phone.ts';
export { OutOfReach, type OutOfReachCode } from './out-of-reach.ts';
export { type Restored, restorePhone } from './overrides/restore-left.ts';
export type { PutBack } from './overrides/setting-overrides.ts';
