/** What is measured on a capture; the same on this thread and on another. */
import { readFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { factsOfCapture } from '../core/checklist/find-on-screens.ts';
import type { Fact } from '../core/model/fact.ts';
import { changedEvidence } from './changed-evidence.ts';
import { type CaptureFiles, captureDigest, decodeCapture, readCaptureFiles } from './read-capture.ts';

/** A capture to measure: that of a dossier, or one that is being taken in. */
export interface CaptureJob {
  /** Path of its `capture.json`. */
  file: string;
  /** The first digits of its digest, as facts name it. */
  digest: string;
  /** Undefined where it is to be read from the dossier. */
  files?: CaptureFiles;
}

/** Beside a capture of a dossier: its whole digest. */
export const SEAL = 'digest';

/** @throws UnreadableError where picture or tree cannot be read, or are not what was taken in */
export async function measureCapture({ digest, file, files }: CaptureJob): Promise<Fact[]> {
  const read = files ?? (await readSealed(file));
  const basis = read.capture.build ? 'seen' : 'asserted';
  return factsOfCapture(await decodeCapture(file, digest, read, basis));
}

async function readSealed(file: string): Promise<CaptureFiles> {
  const read = await readCaptureFiles(file);
  const sealed = await readFile(join(dirname(file), SEAL), 'utf8').catch(() => undefined);
  // those of before have none
  if (sealed !== undefined && sealed !== (await captureDigest(read))) throw changedEvidence(dirname(file));
  return read;
}
