/** One screen under the settings of a cell: dump and picture, as a capture of the dossier. */
import { LOOKOUT_CARRIES } from '../../core/formats/apple/lookout-tree.ts';
import type { Capture } from '../../core/model/capture.ts';
import type { Cell } from '../../core/model/cell.ts';
import type { CoverageCell } from '../../core/model/judgement.ts';
import type { CaptureFiles } from '../../node/read-capture.ts';
import type { Device, Snapshot } from '../device.ts';
import { holdableOf, settingsNamed } from '../holdable.ts';
import { takeAppSnapshot, windowAbove } from '../phone/app-window.ts';
import { StepFailed } from '../phone/perform-step.ts';
import type { DrillSubject } from './drill-subject.ts';

type PlannedCell = CoverageCell['cell'];

/** Settings that a procedure stands for, by the names that people give them. */
const PROCEDURES: Readonly<Record<string, (device: Device) => [name: string, value: string]>> = {
  'bold-text': () => ['bold', ''],
  'high-contrast-text': () => ['contrast-text', ''],
  'animations-off': () => ['animations', 'off'],
  'display-large': ({ info }) => ['density', String(Math.round(info.densityDpi * LARGE_DISPLAY))],
};
// One step of the display size in the settings.
const LARGE_DISPLAY = 1.15;

/** Whether the device can be set for it: a capture under a name that stands for nothing would be false evidence. */
export const isKnownProcedure = (procedure: string, device: Device): boolean => {
  if (procedure === 'as-is') return true;
  const [name] = PROCEDURES[procedure]?.(device) ?? [];
  return device.holdables.some((holdable) => holdable.name === name);
};

/** Sets the device as the cell asks; what the cells before asked is restored. */
export async function setFor(
  cell: PlannedCell,
  sourceLocale: string,
  { app, overrides, device }: DrillSubject,
): Promise<void> {
  const { locale, orientation, procedure, textScale, theme } = cell;
  const settings = (name: string, value: string) => settingsNamed(device, name, value, app.appId);
  const ofProcedures = Object.entries(PROCEDURES).filter(([id]) => isKnownProcedure(id, device));
  for (const [, named] of ofProcedures)
    for (const [setting] of settings(...named(device))) await overrides.restore(setting);
  const canChoose = (holdableOf(device, 'locale')?.sinceSdk ?? 0) <= device.info.sdk;
  const wanted: [name: string, value: string][] = [
    ['theme', theme],
    ['text-scale', String(textScale)],
    ['rotation', orientation === 'landscape' ? 'sideways' : 'upright'],
    ...(canChoose || locale !== sourceLocale ? ([['locale', locale]] as [string, string][]) : []),
    ...ofProcedures.filter(([id]) => id === procedure).map(([, named]) => named(device)),
  ];
  for (const [name, value] of wanted)
    for (const [setting, held] of settings(name, value)) await overrides.override(setting, held);
}

export async function captureScreen(cell: PlannedCell, subject: DrillSubject): Promise<CaptureFiles> {
  const { build, device, isBuildTold = true } = subject;
  const seen = await takeAppSnapshot(device, build.appId);
  const above = windowAbove(seen, build.appId);
  if (above) throw new StepFailed('dump', `a window of ${above} lies above ${build.appId}`);
  const { unproven, wrong } = await device.checkSettings(cell);
  if (wrong) throw new StepFailed('settings', wrong);
  const picture = await device.picture();
  const of: Cell = { ...cell, device: subject.cell.device };
  const at = new Date().toISOString();
  return captureFiles(
    seen,
    picture,
    { cell: of, at, densityDpi: await device.densityDpi(), ...(unproven.length > 0 && { unproven }) },
    device,
    isBuildTold ? build : undefined,
  );
}

/** Of Android the dump lies beside it; of iOS the tree stands in it. */
export function captureFiles(
  { hierarchy, tree }: Snapshot,
  picture: Uint8Array,
  of: Pick<Capture, 'at' | 'cell' | 'densityDpi' | 'unproven'>,
  { platform }: Device,
  build?: Capture['build'],
): CaptureFiles {
  const common = {
    fenlok: 'capture/1' as const,
    platform,
    ...(build && { build }),
    ...of,
    picture: 'screen.png',
  };
  if (platform === 'ios') return { capture: { ...common, tree, carries: [...LOOKOUT_CARRIES] }, picture };
  return {
    capture: { ...common, hierarchy: 'screen.xml', carries: [] },
    picture,
    hierarchyXml: `<?xml version='1.0' encoding='UTF-8' standalone='yes' ?>${hierarchy}`,
  };
}
