import { dirname } from 'node:path';
import { factsOfPackage } from '../core/checklist/facts-of-package.ts';
import { factsOfCapture } from '../core/checklist/find-on-screens.ts';
import { judgeFacts } from '../core/checklist/judge-facts.ts';
import type { Fact } from '../core/model/fact.ts';
import type { Judgement } from '../core/model/judgement.ts';
import { ownChecksOf } from './judge-dossier.ts';
import { readProject } from './project.ts';
import { captureDigest, decodeCapture, readCaptureFiles } from './read-capture.ts';
import { withPackage } from './read-package.ts';

export interface JudgeCandidateOptions {
  /** Path of the APK, bundle or iOS package. */
  package: string;
  /** Paths of `capture.json` files. */
  captures?: readonly string[];
  /** Path of the intent file; its team's own list and rulings lie beside it. */
  intent?: string;
  /** Estimated findings fail their items too. */
  strict?: boolean;
  /** The present, unless it is given. */
  now?: Date;
}

/**
 * Judges a package, and captures of it, with no dossier.
 *
 *     const { verdict } = await judgeCandidate({ package: 'app-release.apk', intent: 'fenlok.yaml' });
 *
 * @throws UnreadableError where a file cannot be read, with file, place, what was found and what to do
 */
export async function judgeCandidate(options: JudgeCandidateOptions): Promise<Judgement> {
  const app = await withPackage(options.package, (opened) => opened.app);
  const folder = options.intent === undefined ? dirname(options.package) : dirname(options.intent);
  const project = await readProject(folder, app.build.appId, options.intent);
  const { checklist, checks, intent, rulings } = project;
  // what the intent file says of catalogues is known only once it was read
  const read =
    intent.catalogues.length === 0
      ? app
      : await withPackage(options.package, (opened) => opened.app, { catalogues: intent.catalogues });
  const facts: Fact[] = factsOfPackage(read);
  for (const path of options.captures ?? []) {
    const files = await readCaptureFiles(path);
    const basis = files.capture.build ? 'seen' : 'asserted';
    facts.push(...factsOfCapture(await decodeCapture(path, await captureDigest(files), files, basis)));
  }
  const { build, name, platform } = app;
  return judgeFacts(facts, {
    candidate: { build, name, platform },
    intent,
    checklist,
    checks,
    ownChecks: ownChecksOf(project),
    rulings,
    strict: options.strict,
    now: options.now,
  });
}
