/**
 * A release's memory: what its candidates came to, without their raw pictures, in a folder that git or object storage carries well.
 *
 *     kept/NAME.json       which candidate, and which files it is made of
 *     objects/AB/CDEF…     the files, named by the SHA-256 of what is in them and packed (zlib, RFC 1950)
 *
 * What two candidates have in common is there once. An object is never changed; a candidate that was judged again and kept again
 * has a new list of its files.
 */
import { createHash } from 'node:crypto';
import { readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { deflate, inflate } from 'node:zlib';
import { type ComparableJudgement, isComparable } from '../core/checklist/compare/compare.ts';
import { parseJson } from '../core/formats/parse-json.ts';
import { sameBuild } from '../core/model/candidate.ts';
import { type Judgement, judgementSchema } from '../core/model/judgement.ts';
import { type Kept, keptSchema } from '../core/model/kept.ts';
import { UnreadableError } from '../core/model/problem.ts';
import { nearest } from '../core/platform/text/nearest.ts';
import type { Proof, ProofPicture } from '../core/reports/html/proof.ts';
import { cutFindings, picturesOf } from './cut-proofs.ts';
import { type Dossier, exists, json } from './dossier.ts';
import { withFileLock } from './file-lock.ts';
import { readJudgement } from './read-judgement.ts';
import { readTextFile } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const pack = promisify(deflate);
const unpack = promisify(inflate);
const MOST_BYTES = 256 * 2 ** 20;

interface KeepOptions {
  /** The folder of the memory. */
  folder: string;
  name: string;
  /** `rulings.yaml` of the team, where there is one. */
  rulingsFile: string;
  /** Whole screenshots too. */
  pictures?: boolean;
}

interface KeepResult {
  kept: Kept;
  /** Bytes that were not there before. */
  addedBytes: number;
  again: boolean;
}

/**
 * Keeps what a dossier came to.
 *
 * @throws UnreadableError where it has not been judged, or another candidate is kept under that name
 */
export async function keepRelease(dossier: Dossier, options: KeepOptions): Promise<KeepResult> {
  const { folder, name } = options;
  const judgement = await readJudgement(dossier.folder);
  const contents = await contentsOf(dossier, judgement, options);
  return withFileLock(join(folder, 'kept', 'order'), async () => {
    const all = await listReleases(folder);
    const before = all.find((kept) => kept.name === name);
    const { build, platform } = judgement.candidate;
    if (before && !sameBuild(before.build, build))
      throw new UnreadableError({
        code: 'kept.other',
        file: manifestOf(folder, name),
        found: `build ${before.build.build} under this name`,
        expected: `build ${build.build}`,
        remedy: 'Give this candidate a name of its own with --name.',
      });
    const files: Kept['files'] = {};
    let addedBytes = 0;
    for (const [path, bytes] of [...contents].sort(([a], [b]) => (a < b ? -1 : 1))) {
      const digest = createHash('sha256').update(bytes).digest('hex');
      files[path] = { digest, bytes: bytes.length };
      addedBytes += await putObject(folder, digest, bytes);
    }
    const kept = keptSchema.parse({
      fenlok: 'kept/1',
      name,
      order: before?.order ?? Math.max(0, ...all.map(({ order }) => order)) + 1,
      platform,
      build,
      judgedAt: judgement.judgedAt,
      verdict: judgement.verdict,
      files,
    });
    const again = before !== undefined && JSON.stringify(before) === JSON.stringify(kept);
    if (!again) await writeDurably(folder, `kept/${name}.json`, (staged) => writeFile(staged, json(kept)));
    return { kept, addedBytes, again };
  });
}

const manifestOf = (folder: string, name: string): string => join(folder, 'kept', `${name}.json`);
const objectOf = (folder: string, digest: string): string =>
  join(folder, 'objects', digest.slice(0, 2), digest.slice(2));

async function putObject(folder: string, digest: string, bytes: Uint8Array): Promise<number> {
  const path = objectOf(folder, digest);
  if (await exists(path)) return 0;
  const packed = await pack(bytes, { level: 9 });
  await writeDurably(folder, `objects/${digest.slice(0, 2)}/${digest.slice(2)}`, (staged) =>
    writeFile(staged, packed),
  );
  return packed.length;
}

async function contentsOf(
  dossier: Dossier,
  judgement: Judgement,
  { pictures, rulingsFile }: KeepOptions,
): Promise<Map<string, Uint8Array>> {
  const encode = (value: unknown) => new TextEncoder().encode(JSON.stringify(value));
  const contents = new Map<string, Uint8Array>([['judgement.json', encode(judgement)]]);
  if (await exists(rulingsFile)) contents.set('rulings.yaml', await readFile(rulingsFile));
  for (const file of await readdir(join(dossier.folder, 'facts')).catch(() => []))
    if (file.endsWith('.jsonl'))
      contents.set(`facts/${file}`, await readFile(join(dossier.folder, 'facts', file)));
  for (const [id, { crop }] of await cutFindings(dossier, judgement.findings))
    contents.set(`crops/${id}.json`, encode(crop));
  if (pictures)
    for (const [digest, file] of await picturesOf(dossier))
      contents.set(`pictures/${digest}.png`, await readFile(file));
  return contents;
}

/** In the order in which they were kept. @throws UnreadableError where one cannot be read */
export async function listReleases(folder: string): Promise<Kept[]> {
  const names = await readdir(join(folder, 'kept')).catch(() => []);
  const kept = await Promise.all(
    names.filter((name) => name.endsWith('.json')).map((name) => readManifest(join(folder, 'kept', name))),
  );
  // two branches may each have kept a next one
  return kept.sort(
    (a, b) =>
      a.order - b.order ||
      (a.judgedAt < b.judgedAt ? -1 : a.judgedAt > b.judgedAt ? 1 : a.name < b.name ? -1 : 1),
  );
}

const readManifest = async (file: string): Promise<Kept> =>
  parseJson(file, await readTextFile(file), keptSchema, 'a kept candidate as Fenlok writes it');

/** @throws UnreadableError where there is none of that name */
export async function findRelease(folder: string, name: string): Promise<Kept> {
  const all = await listReleases(folder);
  const found = all.find((kept) => kept.name === name);
  if (found) return found;
  const meant = nearest(
    name,
    all.map((kept) => kept.name),
  );
  throw new UnreadableError({
    code: 'kept.none',
    file: folder,
    found: all.length === 0 ? 'no candidate is kept here' : `no candidate called ${name}`,
    ...(all.length > 0 && { expected: `one of ${all.map((kept) => kept.name).join(', ')}` }),
    remedy: meant ? `Did you mean ${meant}?` : 'Keep one with  fenlok keep --name NAME',
  });
}

/** What is in one of its files. @throws UnreadableError where it is missing, or not what was kept */
async function readObject(folder: string, kept: Kept, path: string): Promise<Buffer> {
  const entry = kept.files[path];
  const file = entry ? objectOf(folder, entry.digest) : manifestOf(folder, kept.name);
  const refuse = (found: string) =>
    new UnreadableError({
      code: 'kept.object',
      file,
      place: `${path} of ${kept.name}`,
      found,
      remedy:
        'Bring the object back from where the folder was copied or pushed to, or keep the candidate again.',
    });
  if (!entry) throw refuse('no such file in it');
  const info = await stat(file).catch(() => undefined);
  if (!info) throw refuse('the object is missing');
  if (info.size > MOST_BYTES) throw refuse(`an object of ${info.size} bytes`);
  const bytes = await unpack(await readFile(file), {
    maxOutputLength: Math.min(MOST_BYTES, entry.bytes + 1),
  }).catch(() => undefined);
  if (!bytes || createHash('sha256').update(bytes).digest('hex') !== entry.digest)
    throw refuse('an object that is damaged');
  return bytes;
}

/** @throws UnreadableError where an object is missing or damaged */
export async function readKeptJudgement(folder: string, kept: Kept): Promise<Judgement> {
  const text = (await readObject(folder, kept, 'judgement.json')).toString('utf8');
  return parseJson(manifestOf(folder, kept.name), text, judgementSchema, 'a judgement as Fenlok writes it');
}

/** The same, to be compared. @throws UnreadableError where an earlier Fenlok judged */
export async function readKeptComparable(folder: string, kept: Kept): Promise<ComparableJudgement> {
  const judgement = await readKeptJudgement(folder, kept);
  if (!isComparable(judgement))
    throw new UnreadableError({
      code: 'judgement.not-comparable',
      file: manifestOf(folder, kept.name),
      found: 'a judgement of an earlier Fenlok, which does not say what was looked at',
      remedy: 'Judge its dossier again, and keep it again.',
    });
  return judgement;
}

/** The pictures that were kept of findings, by their names; each links to nothing, since the whole ones are not kept. */
export async function readKeptProofs(
  folder: string,
  kept: Kept,
  findings: Iterable<string>,
): Promise<Map<string, Proof>> {
  const proofs = new Map<string, Proof>();
  for (const id of findings) {
    if (!kept.files[`crops/${id}.json`]) continue;
    const crop = JSON.parse(
      (await readObject(folder, kept, `crops/${id}.json`)).toString('utf8'),
    ) as ProofPicture;
    proofs.set(id, { crop, screen: crop, pictureHref: '' });
  }
  return proofs;
}
