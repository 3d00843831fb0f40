/** One screen under the settings of a cell: dump and picture, as a capture of the dossier. */
import type { Cell } from '../../core/model/cell.ts';
import type { CoverageCell } from '../../core/model/judgement.ts';
import type { CaptureFiles } from '../../node/read-capture.ts';
import type { Device } from '../bridge/device.ts';
import { StepFailed } from '../phone/perform-step.ts';
import { takeAppSnapshot, windowAbove } from '../phone/snapshot.ts';
import { takePicture } from '../phone/take-picture.ts';
import type { DrillSubject } from './drill-subject.ts';

type PlannedCell = CoverageCell['cell'];

/** Settings of the OS that a procedure stands for. */
const PROCEDURES: Record<string, [setting: string, value: string][]> = {
  'bold-text': [['secure/font_weight_adjustment', '300']],
  'high-contrast-text': [['secure/high_text_contrast_enabled', '1']],
  'animations-off': [
    ['global/animator_duration_scale', '0'],
    ['global/window_animation_scale', '0'],
    ['global/transition_animation_scale', '0'],
  ],
};
// One step of the display size in the settings.
const LARGE_DISPLAY = 1.15;

/** Whether the device can be set for it: a capture under a name that stands for nothing would be false evidence. */
export const isKnownProcedure = (procedure: string): boolean =>
  procedure === 'as-is' || procedure === 'display-large' || Object.hasOwn(PROCEDURES, procedure);

/** Sets the device as the cell asks; what the cells before asked is restored. */
export async function setFor(
  cell: PlannedCell,
  sourceLocale: string,
  { app, overrides, device }: DrillSubject,
): Promise<void> {
  const { locale, orientation, procedure, textScale, theme } = cell;
  for (const [setting] of Object.values(PROCEDURES).flat()) await overrides.restore(setting);
  await overrides.restore('density');
  await overrides.override('night', theme === 'dark' ? 'yes' : 'no');
  await overrides.override('system/font_scale', String(textScale));
  await overrides.override('system/accelerometer_rotation', '0');
  await overrides.override('system/user_rotation', orientation === 'landscape' ? '1' : '0');
  if (device.info.sdk >= 33 || locale !== sourceLocale)
    await overrides.override(`locale ${app.appId}`, locale);
  for (const [setting, value] of PROCEDURES[procedure] ?? []) await overrides.override(setting, value);
  if (procedure === 'display-large')
    await overrides.override('density', String(Math.round(device.info.densityDpi * LARGE_DISPLAY)));
}

export async function captureScreen(cell: PlannedCell, subject: DrillSubject): Promise<CaptureFiles> {
  const { build, device } = subject;
  const seen = await takeAppSnapshot(device, build.appId);
  const above = windowAbove(seen, build.appId);
  if (above) throw new StepFailed('dump', `a window of ${above} lies above ${build.appId}`);
  const picture = await takePicture(device);
  const of: Cell = { ...cell, device: subject.cell.device };
  return {
    capture: {
      fenlok: 'capture/1',
      platform: 'android',
      build,
      cell: of,
      at: new Date().toISOString(),
      densityDpi: await densityOf(device),
      picture: 'screen.png',
      hierarchy: 'screen.xml',
      carries: [],
    },
    picture,
    hierarchyXml: `<?xml version='1.0' encoding='UTF-8' standalone='yes' ?>${seen.hierarchy}`,
  };
}

/** In dots per inch; an override stands in the last line. */
export async function densityOf(device: Device): Promise<number> {
  const density = /(?:Override|Physical) density: (\d+)\s*$/.exec((await device.run('wm density')).out)?.[1];
  return Number(density ?? device.info.densityDpi);
}
