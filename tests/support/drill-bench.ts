/** A dossier of the demo, a phone on the line, and what a drill needs of both. */
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { parse } from 'yaml';
import { observeDrillRun } from '../../src/core/areas/lifecycle/observers/observe-drill-run.ts';
import { classOfRun, type RunClass } from '../../src/core/areas/lifecycle/runs/class-of-run.ts';
import { decodeTrace } from '../../src/core/formats/trace.ts';
import type { DrillRunFact } from '../../src/core/model/fact.ts';
import { type Intent, intentSchema } from '../../src/core/model/intent.ts';
import type { DrillLine } from '../../src/core/model/trace.ts';
import type { Device } from '../../src/device/device.ts';
import type { DrillSubject } from '../../src/device/drills/drill-subject.ts';
import { findCandidate } from '../../src/device/installed-build.ts';
import { openOverrides } from '../../src/device/overrides/setting-overrides.ts';
import { addPackage, type Dossier, openDossier } from '../../src/node/dossier.ts';
import { demoApk, demoFolder } from './paths.ts';

export const kelplineIntent: Intent = intentSchema.parse(
  parse(readFileSync(join(demoFolder, 'fenlok.yaml'), 'utf8')),
);
export const screenOf = (id: string) => kelplineIntent.screens.find((screen) => screen.id === id)!;

export async function kelplineDossier(folder: string): Promise<Dossier> {
  await addPackage(folder, demoApk);
  return openDossier(folder);
}

export async function subjectOn(
  device: Device,
  dossier: Dossier,
  stateFolder: string,
): Promise<DrillSubject> {
  const found = await findCandidate(device, dossier.candidate.build);
  return {
    device,
    ...found,
    overrides: await openOverrides(stateFolder, device),
    cell: { device: device.info.name, locale: 'en', theme: 'light', textScale: 1, orientation: 'portrait' },
  };
}

export async function runFactOf(lines: readonly DrillLine[]): Promise<DrillRunFact> {
  const decoded = await decodeTrace('t.jsonl', lines.map((line) => JSON.stringify(line)).join('\n'));
  const began = lines.find((line) => line.kind === 'drill.began');
  const platform = began?.platform ?? 'android';
  const facts = [...observeDrillRun.observe({ digest: 't', platform, lines: decoded })];
  return facts.find((fact) => fact.kind === 'drill-run')!;
}

export async function classOf(lines: readonly DrillLine[]): Promise<RunClass> {
  return classOfRun(await runFactOf(lines));
}

/** `partly-restored note_field typed`, `restarted first`, `invalid not-left`. */
export function formatClass(found: RunClass): string {
  if (found.kind === 'partly-restored')
    return `${found.kind} ${found.lost.map(({ key, what }) => `${key} ${what}`).join(', ')}`;
  if (found.kind === 'restarted') return `${found.kind} ${found.at}`;
  return found.kind === 'invalid' ? `${found.kind} ${found.why}` : found.kind;
}
