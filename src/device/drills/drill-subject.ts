import type { BuildKey } from '../../core/model/candidate.ts';
import type { Cell } from '../../core/model/cell.ts';
import type { Device, DeviceApp } from '../device.ts';
import type { SettingOverrides } from '../overrides/setting-overrides.ts';

/** What a drill works on: the app that is installed, on a device that is set in a certain way. */
export interface DrillSubject {
  device: Device;
  app: DeviceApp;
  overrides: SettingOverrides;
  /** Of the app that is installed. */
  build: BuildKey;
  /** Whether the device told it; otherwise somebody says so. It did where nothing stands here. */
  isBuildTold?: boolean;
  /** Of the device as it is set: language, theme, text size, orientation. */
  cell: Omit<Cell, 'screen' | 'procedure' | 'step'>;
}
