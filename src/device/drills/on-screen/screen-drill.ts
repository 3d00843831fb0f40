/** What a drill on one screen is: how the screen is left and come back to. Everything around it is the same for all. */
import type { ScreenDrillId } from '../../../core/model/drill.ts';
import type { DrillLine } from '../../../core/model/trace.ts';
import type { Device } from '../../bridge/device.ts';
import type { DeviceApp } from '../../phone/app.ts';

/** What happens on the device between "before" and "after". */
export interface Act {
  device: Device;
  app: DeviceApp;
  /** Runs a line of the device's shell, and writes it down with its exit code. */
  run(line: string): Promise<void>;
  press(key: 'HOME' | 'BACK' | 'APP_SWITCH' | 'SLEEP' | 'WAKEUP' | 'MENU'): Promise<void>;
  /** By the launcher's own intent. */
  launch(): Promise<void>;
  /** Waits until the log tells that the app's activity was stopped; goes on without, after a while. */
  untilStopped(): Promise<void>;
  /** Waits until the process is gone; goes on without. */
  untilGone(): Promise<void>;
  override(setting: string, value: string | null): Promise<void>;
  restore(setting: string): Promise<void>;
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
  /** Why it cannot be done on this device. */
  notOn?(device: Device): string | undefined;
  /** What the app must have for it, looked at before the screen is reached. @throws StepFailed */
  demand?(of: { app: DeviceApp; device: Device }): Promise<void>;
  /** Leaves the screen and comes back to it. */
  run(act: Act): Promise<void>;
  /** Afterwards back is pressed until the app is left, and each screen written down. */
  walksBack?: boolean;
}
