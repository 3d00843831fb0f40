/** Captures in a dossier: a folder each, with its settings, its picture and its tree. */
import { mkdir, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { parseCapture } from '../core/formats/capture.ts';
import { formatBuild, sameBuild } from '../core/model/candidate.ts';
import type { Fact } from '../core/model/fact.ts';
import { cachedFacts, writeCachedFacts } from './cached-facts.ts';
import { measureOnThread } from './capture-pool.ts';
import {
  type Dossier,
  type EvidenceEntry,
  exists,
  json,
  listEvidence,
  otherBuild,
  type Taken,
} from './dossier.ts';
import { evidenceKey } from './evidence-keys.ts';
import { SEAL } from './measure-capture.ts';
import { type CaptureFiles, captureDigest, readCaptureFiles } from './read-capture.ts';
import { writeDurably } from './write-atomically.ts';

/** Takes a capture in, and measures it as it is decoded; one of another build is refused. */
export async function addCapture(
  { folder, candidate }: Dossier,
  path: string,
  files?: CaptureFiles,
): Promise<Taken> {
  const read = files ? asRead(path, files) : await readCaptureFiles(path);
  const { build } = read.capture;
  if (build && !sameBuild(build, candidate.build))
    throw otherBuild(path, formatBuild(build), folder, formatBuild(candidate.build));
  const digest = await captureDigest(read);
  const entry = digest.slice(0, 16);
  const name = `captures/${entry}`;
  const again = await exists(join(folder, name));
  const taken: Taken = { kind: 'capture', name: basename(path), digest, again };
  if (again) return taken;
  const facts = await measureOnThread({ file: path, digest: entry, files: read });
  await writeDurably(folder, name, async (staged) => {
    await mkdir(staged);
    await writeFile(join(staged, 'capture.json'), json(read.capture));
    await writeFile(join(staged, SEAL), digest);
    await writeFile(join(staged, read.capture.picture), read.picture);
    if (read.capture.hierarchy)
      await writeFile(join(staged, read.capture.hierarchy), read.hierarchyXml ?? '');
  });
  await writeCachedFacts(folder, entry, evidenceKey('capture'), facts);
  return taken;
}

export const listCaptures = ({ folder }: Dossier): Promise<EvidenceEntry[]> =>
  listEvidence(join(folder, 'captures'), 'capture.json');

/** As it comes back from its file, so that it is the same piece of evidence there. */
const asRead = (path: string, files: CaptureFiles): CaptureFiles => ({
  ...files,
  capture: parseCapture(path, JSON.stringify(files.capture)),
});

/** What is measured on one that was taken in. */
export const observeCapture = (dossier: Dossier, { digest, file }: EvidenceEntry): Promise<Fact[]> =>
  cachedFacts(dossier, digest, evidenceKey('capture'), () => measureOnThread({ digest, file }));
