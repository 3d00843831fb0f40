/** What a drill on one screen is: how the screen is left and come back to. Everything around it is the same for all. */
import type { ScreenDrillId } from '../../../core/model/drill.ts';
import type { DrillLine } from '../../../core/model/trace.ts';
import type { Capability, Device, DeviceApp, Key } from '../../device.ts';

/** What happens on the device between "before" and "after". */
export interface Act {
  device: Device;
  app: DeviceApp;
  /** Each of these is written down with what became of it. */
  kill(): Promise<void>;
  openOther(which: 'calls' | 'settings'): Promise<void>;
  openShade(): Promise<void>;
  closeShade(): Promise<void>;
  unlock(): Promise<void>;
  press(key: Key): Promise<void>;
  /** By the launcher's own intent. */
  launch(): Promise<void>;
  /** Waits until the log tells that the app's activity was stopped, or the system that it is suspended; goes on without, after a while. */
  untilStopped(): Promise<void>;
  /** Waits until the process is gone; goes on without. */
  untilGone(): Promise<void>;
  /** By the name that people give a setting (`Holdable`). */
  override(name: string, value?: string): Promise<void>;
  restore(name: string): Promise<void>;
  /** Takes a permission back. */
  deny(permission: string): Promise<void>;
  /** Writes down what is in front meanwhile. */
  lookAway(): Promise<void>;
  write<K extends DrillLine['kind']>(
    kind: K,
    line: Omit<Extract<DrillLine, { kind: K }>, 'at' | 'kind'>,
  ): void;
}

export interface ScreenDrill {
  id: ScreenDrillId;
  /** What it does, in a few words. */
  says: string;
  /** On an ordinary phone, where it takes longer than most. */
  estimateS?: number;
  /** What the device must be able to do, beyond what every one can. */
  needs?: readonly Capability[];
  /** What the app must have for it, looked at before the screen is reached. @throws StepFailed */
  demand?(of: { app: DeviceApp; device: Device }): Promise<void>;
  /** Leaves the screen and comes back to it. */
  run(act: Act): Promise<void>;
  /** Afterwards back is pressed until the app is left, and each screen written down. */
  walksBack?: boolean;
}
