/** What the device's log told of the app while drills were run: warnings, and what was left behind. Crashes are told by each run. */
import { join } from 'node:path';
import { LogReader } from '../../core/formats/android/log/read-log.ts';
import type { Dossier } from '../../node/dossier.ts';
import { keepLog } from '../../node/logs.ts';
import { nameOfDevice } from '../device.ts';
import type { DrillSubject } from './drill-subject.ts';

const TAGS = [
  'ActivityManager:I',
  'am_proc_start:I',
  'am_proc_bound:I',
  'am_proc_died:I',
  'wm_on_create_called:I',
  'wm_on_destroy_called:I',
  'am_on_create_called:I',
  'am_on_destroy_called:I',
  'StrictMode:V',
  'WindowManager:E',
  'ActivityThread:E',
  'Choreographer:I',
];

/** @param since as `logMoment` gives it, before the first drill */
export async function keepDrillLog(
  { app, device }: Pick<DrillSubject, 'app' | 'device'>,
  dossier: Dossier,
  since: string,
): Promise<void> {
  const out = await device.logText(since, TAGS);
  if (out === undefined) return;
  const reader = new LogReader(app.appId);
  for (const line of out.split('\n')) reader.push(line);
  const log = reader.finish();
  const troubles = log.troubles.filter(({ sort }) => sort !== 'crash' && sort !== 'not-responding');
  // runs themselves show that the app was there
  const at = new Date(Number(since) * 1000).toISOString().replace('T', ' ').replace('Z', '');
  const name = `drills on ${nameOfDevice(device)}, ${at}`;
  await keepLog(dossier, join(dossier.folder, name), {
    ...log,
    sawApp: true,
    withoutCrashes: true,
    troubles,
  });
}
