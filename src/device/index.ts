/** `fenlok/device`: phones on the line, and drills on them. */
export type { PutBack } from './borrow/borrower.ts';
export type { Device, DeviceInfo, ListedDevice, Ran } from './bridge/device.ts';
export { type BridgeOptions, listDevices, openDevice } from './bridge/open-device.ts';
export { OutOfReach, type OutOfReachCode } from './bridge/out-of-reach.ts';
export {
  drillDevice,
  planFor,
  putBackLeft,
  type SessionOptions,
  type SessionReport,
  type StepResult,
} from './drill-session.ts';
export type { Act, ScreenDrill } from './drills/drill.ts';
export type { Plan, PlanStep, Wanted } from './drills/plan.ts';
export type { PushKit } from './drills/push-walk.ts';
export { type DrillSubject, runScreenDrill } from './drills/run-screen-drill.ts';
export { allScreenDrills } from './drills/screen-drills.ts';
