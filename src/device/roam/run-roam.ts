/** A roam into a dossier: the map with its pictures, kept after every act so that it can go on later; a trace of each crash. */
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { screensDraft } from '../../core/drafts/screens-draft.ts';
import { sameBuild } from '../../core/model/candidate.ts';
import type { Intent } from '../../core/model/intent.ts';
import type { RoamMap } from '../../core/model/roam-map.ts';
import { roamSvg } from '../../core/reports/roam-svg.ts';
import { addTraceLines, type Dossier, json } from '../../node/dossier.ts';
import { withPackage } from '../../node/read-package.ts';
import { readMap } from '../../node/roam-map.ts';
import { writeAtomically } from '../../node/write-atomically.ts';
import { beginTrace } from '../drills/begin-trace.ts';
import type { DrillSubject } from '../drills/drill-subject.ts';
import { explore } from './explore.ts';

interface RoamOptions {
  dossier: Dossier;
  intent: Intent;
  /** Nothing of an earlier walk is gone on with. */
  isRerun: boolean;
  roamSteps?: number;
  roamMs?: number;
  signal?: AbortSignal;
}

const MOST_STEPS = 150;
const LONGEST_MS = 10 * 60_000;

/** @returns what is left to do, or undefined where nothing is */
export async function runRoam(subject: DrillSubject, options: RoamOptions): Promise<string | undefined> {
  const { dossier, intent, roamMs = LONGEST_MS, roamSteps = MOST_STEPS, signal } = options;
  const { app, build, cell, device } = subject;
  const folder = await folderFor(dossier, cell.device, device.info.id);
  const kept = options.isRerun ? undefined : await readMap(join(folder, 'map.json'));
  const map: RoamMap =
    kept && sameBuild(kept.build, build)
      ? kept
      : {
          fenlok: 'roam/1',
          build,
          device: cell.device,
          deviceId: device.info.id,
          screens: [],
          crashes: [],
          neverReached: [],
          stepsTaken: 0,
          finished: false,
        };
  const keep = () => writeAtomically(folder, 'map.json', (staged) => writeFile(staged, json(map)));
  const declared = await activitiesOf(dossier);
  await explore(subject, map, {
    intent,
    maxSteps: roamSteps,
    maxMs: roamMs,
    signal,
    onScreen: async ({ id }) => {
      const picture = await device.picture();
      await writeFile(join(folder, `${id}.png`), picture);
      return `${id}.png`;
    },
    onCrash: async (screen, action, log) => {
      const { lines, write } = beginTrace(subject, 'roam', screen.id, `tap ${action}`);
      for (const { message, pid, tag } of log) write('log.line', { tag, pid, message });
      const state = await device.stateOf(app);
      if (state !== undefined) write('app-state.seen', { step: 'after', state });
      write('drill.ended', {});
      await addTraceLines(dossier, lines);
    },
    onAct: keep,
  });
  map.neverReached = declared.filter(
    (className) => !map.screens.some(({ activity }) => fullName(activity, app.appId) === className),
  );
  await keep();
  await writeAtomically(folder, 'screens.yaml', (staged) => writeFile(staged, screensDraft(map)));
  await writeAtomically(folder, 'map.svg', (staged) => writeFile(staged, roamSvg(map)));
  const { lines, write } = beginTrace(subject, 'roam', 'app');
  write('drill.ended', {});
  await addTraceLines(dossier, lines);
  if (map.finished) return undefined;
  const untried = map.screens.flatMap(({ actions }) =>
    actions.filter(({ outcome }) => outcome === 'untried'),
  ).length;
  return `The budget is used up with ${untried} things untried: run it again to go on from there.`;
}

/** Named after the device; a second one of that name gets a folder of its own, so that no map is lost. */
async function folderFor({ folder }: Dossier, name: string, deviceId: string): Promise<string> {
  const plain = join(folder, 'roam', name);
  const before = await readMap(join(plain, 'map.json'));
  const own = before && before.deviceId !== deviceId ? `${plain}-${deviceId}` : plain;
  await mkdir(own, { recursive: true });
  return own;
}

const fullName = (activity: string, appId: string): string => {
  const [, name = ''] = activity.split('/');
  return name.startsWith('.') ? `${appId}${name}` : name;
};

const activitiesOf = ({ candidate, folder }: Dossier): Promise<string[]> =>
  withPackage(
    join(folder, candidate.package.file),
    ({ app }) =>
      (app.android?.manifest.components ?? [])
        .filter(({ enabled, type }) => type === 'activity' && enabled)
        .map(({ name }) => name),
    { parts: 'declared' },
  );
