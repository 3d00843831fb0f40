import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { judge } from '../core/checklist/judge.ts';
import type { Judgement } from '../core/model/judgement.ts';
import { clearStaged } from './clear-staged.ts';
import { type Dossier, json } from './dossier.ts';
import { observeDossier } from './observe.ts';
import type { Project } from './project.ts';
import { writeAtomically } from './write-atomically.ts';

export interface JudgeOptions {
  strict: boolean;
  now: Date;
  onProgress?: (done: number, total: number) => void;
  signal?: AbortSignal;
}

/** Observes what is new in the dossier, judges the whole of it, and keeps the judgement there. */
export async function judgeDossier(
  dossier: Dossier,
  project: Project,
  options: JudgeOptions,
): Promise<Judgement> {
  await clearStaged(dossier.folder);
  const { platform, name, build } = dossier.candidate;
  const judgement = judge({
    candidate: { platform, name, build },
    facts: await observeDossier(dossier, project.intent, options),
    intent: project.intent,
    checklist: project.checklist,
    rulings: project.rulings,
    checks: project.checks,
    ownChecks: ownChecksOf(project),
    strict: options.strict,
    now: options.now.toISOString(),
    latestKnown: await latestKnownIn(dossier),
  });
  await writeAtomically(dossier.folder, 'judgement.json', (staged) => writeFile(staged, json(judgement)));
  return judgement;
}

const clockSchema = z.object({
  judgedAt: z.iso.datetime(),
  latestKnown: z.iso.datetime().optional(),
});

/** The latest time that the judgement of before knew; undefined where there is none that can be read. */
async function latestKnownIn({ folder }: Dossier): Promise<string | undefined> {
  try {
    const before = clockSchema.parse(JSON.parse(await readFile(join(folder, 'judgement.json'), 'utf8')));
    return before.latestKnown ?? before.judgedAt;
  } catch {
    return undefined;
  }
}

/** Which checks are the team's own, and where they come from. */
export const ownChecksOf = ({ extensions }: Project): Judgement['ownChecks'] =>
  extensions.flatMap(({ checks, module }) => checks.map(({ id }) => ({ check: id, module })));
