import type { DeviceInfo } from '../device.ts';

/** An open line to an Android phone: its shell, its files, its installer. */
export interface BridgeLine {
  /** As the bridge names it: a serial number, or `host:port`. */
  serial: string;
  info: DeviceInfo;
  /**
   * Runs a line of the device's shell.
   *
   * @throws OutOfReach where the device goes away, or the line does not end in time
   */
  run(line: string, options?: RunOptions): Promise<Ran>;
  /** The same for what prints bytes: `screencap -p`. */
  bytes(line: string, options?: RunOptions): Promise<Uint8Array>;
  /** A file of the device. */
  pull(path: string, limitBytes: number): Promise<Uint8Array>;
  /** Installs an APK over what is there; @returns the platform's word for why not, or undefined. */
  install(apk: Uint8Array): Promise<string | undefined>;
  /** Whether the device can no longer be asked. */
  isGone(): boolean;
  /** Takes up the line again after the device went away. @throws OutOfReach */
  reconnect(): Promise<void>;
  close(): Promise<void>;
}

export interface RunOptions {
  timeoutMs?: number;
}

export interface Ran {
  code: number;
  out: string;
  err: string;
}

/** One device as the bridge's server lists it. */
export interface ListedDevice {
  serial: string;
  state: 'device' | 'offline' | 'unauthorized';
  model?: string;
}
