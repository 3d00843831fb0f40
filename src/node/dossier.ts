/**
 * A dossier on disk: a folder for one candidate.
 *
 *     dossier.json              which candidate
 *     package/NAME.apk          the package
 *     captures/DIGEST/          capture.json, its picture, its hierarchy
 *     catalogues/DIGEST/        catalogue.json, the file of texts
 *     sites/HOST/               what the site serves about apps
 *     payloads/PATH, sales/PATH push messages of the team, sales of a store, by their path from here
 *     traces/DIGEST.jsonl       files/DIGEST-NAME
 *     facts/DIGEST.jsonl        what observers measured; may be deleted at any time
 *     cuts/DIGEST.jsonl         what was cut out of pictures for the report; likewise
 *     judgement.json, report/   the judgement on it
 *
 * Evidence is written beside its place and moved there so that a stop in the middle leaves nothing half-written.
 */
import { copyFile, mkdir, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, join, sep } from 'node:path';
import { z } from 'zod';
import { catalogueName, readCatalogue } from '../core/formats/catalogues/read-catalogue.ts';
import { parseJson } from '../core/formats/parse-json.ts';
import { decodeTrace } from '../core/formats/trace.ts';
import type { AppPackage } from '../core/model/app-package.ts';
import { buildKeySchema, formatBuild, platformSchema, sameBuild } from '../core/model/candidate.ts';
import { sha256Hex } from '../core/model/ports.ts';
import { type Problem, UnreadableError, unwrap } from '../core/model/problem.ts';
import type { DrillLine, TraceLine } from '../core/model/trace.ts';
import { changedEvidence } from './changed-evidence.ts';
import { fileDigest } from './file-hasher.ts';
import { withFileLock } from './file-lock.ts';
import { nodePorts } from './ports.ts';
import { readCatalogueBytes } from './read-catalogue-bytes.ts';
import { withPackage } from './read-package.ts';
import { readTextFile } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const candidateSchema = z.strictObject({
  fenlok: z.literal('dossier/1'),
  platform: platformSchema,
  name: z.string(),
  build: buildKeySchema,
  package: z.strictObject({ file: z.string(), digest: z.string() }),
});
export type Candidate = z.infer<typeof candidateSchema>;

export interface Dossier {
  folder: string;
  candidate: Candidate;
  /** Told of a file of kept facts that is damaged, and measured again. */
  onDamage?: (file: string) => void;
}

export interface EvidenceEntry {
  digest: string;
  /** Path of the file that describes it: `capture.json`, `catalogue.json`. */
  file: string;
}

/** A file of texts that was added beside the package. */
const catalogueEntrySchema = z.strictObject({
  fenlok: z.literal('catalogue/1'),
  /** With its folder, which may name the language. */
  path: z.string(),
  /** What the files of all languages share in their names. */
  name: z.string(),
});
type CatalogueEntryFile = z.infer<typeof catalogueEntrySchema>;

/** What was taken in; `again` where the dossier held it already. */
export interface Taken {
  kind:
    | 'package'
    | 'capture'
    | 'catalogue'
    | 'site'
    | 'payload'
    | 'sale'
    | 'listing'
    | 'log'
    | 'reviews'
    | 'symbols'
    | 'trace'
    | 'file';
  name: string;
  digest: string;
  again: boolean;
}

export async function openDossier(folder: string): Promise<Dossier> {
  const file = join(folder, 'dossier.json');
  if (!(await exists(file)))
    throw new UnreadableError({
      code: 'dossier.none',
      file: folder,
      found: 'no dossier here',
      remedy: `Begin one with its package: fenlok add app-release.apk --dossier ${folder}`,
    });
  const text = await readTextFile(file);
  const { digest, ...candidate } = parseJson(
    file,
    text,
    candidateSchema.extend({ digest: z.string().optional() }),
    'a dossier.json as Fenlok writes it',
  );
  if (digest !== undefined && digest !== (await digestOf(candidate))) throw changedEvidence(file);
  return { folder, candidate };
}

const digestOf = (value: unknown): Promise<string> =>
  sha256Hex(nodePorts, new TextEncoder().encode(JSON.stringify(value)));

/** Takes the package in; the first one begins the dossier, another build is refused. */
export async function addPackage(folder: string, path: string): Promise<Taken> {
  const app = await withPackage(path, (apk) => apk.app, { parts: 'declared' });
  return withFileLock(join(folder, 'dossier.json'), () => keepPackage(folder, path, app));
}

async function keepPackage(folder: string, path: string, app: AppPackage): Promise<Taken> {
  const name = basename(path);
  if (await exists(join(folder, 'dossier.json'))) {
    const { candidate } = await openDossier(folder);
    if (!sameBuild(candidate.build, app.build))
      throw otherBuild(path, formatBuild(app.build), folder, formatBuild(candidate.build));
    if (candidate.package.digest === app.digest)
      return { kind: 'package', name, digest: app.digest, again: true };
  }
  await writeDurably(folder, `package/${name}`, (staged) => copyFile(path, staged));
  const candidate: Candidate = {
    fenlok: 'dossier/1',
    platform: app.platform,
    name: app.name,
    build: app.build,
    package: { file: `package/${name}`, digest: app.digest },
  };
  const digest = await digestOf(candidate);
  await writeDurably(folder, 'dossier.json', (staged) => writeFile(staged, json({ ...candidate, digest })));
  for (const other of await readdir(join(folder, 'package')))
    if (other !== name) await rm(join(folder, 'package', other), { force: true });
  return { kind: 'package', name, digest: app.digest, again: false };
}

/**
 * Takes a file of texts in; what of it cannot be read is told, and judged with the rest.
 *
 * @returns undefined where it holds no texts, as colours in a values folder
 */
export async function addCatalogue(
  { folder }: Dossier,
  path: string,
): Promise<(Taken & { problems: Problem[] }) | undefined> {
  const bytes = await readCatalogueBytes(path);
  const shown = path.split(sep).slice(-2).join('/');
  const { entries, problems } = unwrap(await readCatalogue(shown, bytes));
  if (entries.length + problems.length === 0) return undefined;
  const settings: CatalogueEntryFile = { fenlok: 'catalogue/1', path: shown, name: catalogueName(path) };
  const digest = await catalogueDigest(settings, bytes);
  const name = `catalogues/${digest.slice(0, 16)}`;
  const taken: Taken = {
    kind: 'catalogue',
    name: `${shown} (${entries.length} keys)`,
    digest,
    again: await exists(join(folder, name)),
  };
  if (!taken.again)
    await writeDurably(folder, name, async (staged) => {
      await mkdir(staged);
      await writeFile(join(staged, 'catalogue.json'), json(settings));
      await writeFile(join(staged, CATALOGUE_TEXTS), bytes);
    });
  return { ...taken, problems };
}

async function catalogueDigest(settings: CatalogueEntryFile, bytes: Uint8Array): Promise<string> {
  const head = new TextEncoder().encode(JSON.stringify(settings));
  const parts = await Promise.all([head, bytes].map((part) => sha256Hex(nodePorts, part)));
  return sha256Hex(nodePorts, new TextEncoder().encode(parts.join('\n')));
}

const CATALOGUE_TEXTS = 'texts';

/** @throws UnreadableError where a file of the dossier is missing */
export async function readCatalogueFiles(
  file: string,
): Promise<{ settings: CatalogueEntryFile; bytes: Uint8Array }> {
  const text = await readTextFile(file);
  const settings = parseJson(file, text, catalogueEntrySchema, 'a catalogue.json as Fenlok writes it');
  const beside = join(dirname(file), CATALOGUE_TEXTS);
  const bytes = await readCatalogueBytes(beside);
  if (!(await catalogueDigest(settings, bytes)).startsWith(basename(dirname(file))))
    throw changedEvidence(dirname(file));
  return { settings, bytes };
}

/** Takes a trace in; one that a drill wrote on another build is refused. */
export async function addTrace({ candidate, folder }: Dossier, path: string): Promise<Taken> {
  const text = await readTextFile(path, TRACE_LIMIT_BYTES);
  const lines = (await decodeTrace(path, text)) as DrillLine[];
  const began = lines.find((line) => line.kind === 'drill.began');
  if (began?.build && !sameBuild(began.build, candidate.build))
    throw otherBuild(path, formatBuild(began.build), folder, formatBuild(candidate.build));
  return addWhole(folder, path, 'trace', traceName);
}

const TRACE_LIMIT_BYTES = 256 * 2 ** 20;
const traceName = (digest: string): string => `traces/${digest.slice(0, 16)}.jsonl`;

/** Writes a trace as it comes out of a drill. */
export async function addTraceLines({ folder }: Dossier, lines: readonly TraceLine[]): Promise<Taken> {
  const text = lines.map((line) => `${JSON.stringify(line)}\n`).join('');
  const digest = await sha256Hex(nodePorts, new TextEncoder().encode(text));
  await writeDurably(folder, traceName(digest), (staged) => writeFile(staged, text));
  return { kind: 'trace', name: lines[0]!.kind, digest, again: false };
}

/** Keeps a file that people want beside the evidence; nothing reads it. */
export const addFile = ({ folder }: Dossier, path: string): Promise<Taken> =>
  addWhole(folder, path, 'file', (digest) => `files/${digest.slice(0, 16)}-${basename(path)}`);

/** Keeps a picture that a drill took; @returns its name in the dossier. */
export async function addPicture({ folder }: Dossier, name: string, png: Uint8Array): Promise<string> {
  const digest = await sha256Hex(nodePorts, png);
  const file = `files/${digest.slice(0, 16)}-${name}`;
  await writeDurably(folder, file, (staged) => writeFile(staged, png));
  return file;
}

async function addWhole(
  folder: string,
  path: string,
  kind: Taken['kind'],
  nameOf: (digest: string) => string,
): Promise<Taken> {
  const digest = await fileDigest(path);
  const taken: Taken = {
    kind,
    name: basename(path),
    digest,
    again: await exists(join(folder, nameOf(digest))),
  };
  if (!taken.again) await writeDurably(folder, nameOf(digest), (staged) => copyFile(path, staged));
  return taken;
}

export const listCatalogues = ({ folder }: Dossier): Promise<EvidenceEntry[]> =>
  listEvidence(join(folder, 'catalogues'), 'catalogue.json');

export async function listTraces({ folder }: Dossier): Promise<EvidenceEntry[]> {
  const names = await readdir(join(folder, 'traces')).catch(() => []);
  return names
    .filter((name) => /^[0-9a-f]{16}\.jsonl$/.test(name))
    .sort()
    .map((name) => ({ digest: name.slice(0, 16), file: join(folder, 'traces', name) }));
}

/** @throws UnreadableError where it is not what was taken in */
export async function readTrace({ digest, file }: EvidenceEntry): Promise<TraceLine[]> {
  if (!(await fileDigest(file)).startsWith(digest)) throw changedEvidence(file);
  return decodeTrace(file, await readTextFile(file, TRACE_LIMIT_BYTES));
}

export async function listEvidence(folder: string, settings: string): Promise<EvidenceEntry[]> {
  const names = await readdir(folder).catch(() => []);
  return names
    .filter((name) => /^[0-9a-f]{16}$/.test(name))
    .sort()
    .map((name) => ({ digest: name, file: join(folder, name, settings) }));
}

export const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );

export const json = (value: unknown): string => `${JSON.stringify(value, null, 2)}\n`;

export const otherBuild = (file: string, found: string, folder: string, expected: string) =>
  new UnreadableError({
    code: 'dossier.other-build',
    file,
    found: `evidence of another build: ${found}`,
    expected: `the build of ${folder}: ${expected}`,
    remedy: 'What was seen on one build proves nothing about another: begin a new dossier with --dossier.',
  });
