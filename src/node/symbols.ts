/** Mapping files and dSYMs, in a dossier: kept by what is in them, and what they give back to stacks. */
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { copyFile, open, readdir, readFile, stat, writeFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { z } from 'zod';
import { type MappingIndex, MappingIndexer } from '../core/formats/android/mapping/index-mapping.ts';
import { type ClassMembers, readMembers } from '../core/formats/android/mapping/read-members.ts';
import { type Mapping, retraceFrames, retraceThrown } from '../core/formats/android/mapping/retrace.ts';
import { readFrame } from '../core/formats/android/stack-text.ts';
import { type MachSymbols, readMachSymbols } from '../core/formats/apple/mach-symbols.ts';
import { parseJson } from '../core/formats/parse-json.ts';
import { UnreadableError } from '../core/model/problem.ts';
import type { StackFrame, Thrown } from '../core/model/stack.ts';
import { type Symbols, symbolsSchema } from '../core/model/symbols.ts';
import type { TraceLine } from '../core/model/trace.ts';
import type { DeviceLog, Trouble } from '../core/model/trouble.ts';
import { type Dossier, exists, json, type Taken } from './dossier.ts';
import { headOf } from './log-files.ts';
import { listNamed, placeFor } from './named-evidence.ts';
import { readTextFile } from './read-yaml.ts';
import { writeDurably } from './write-atomically.ts';

const ROOM = 'symbols';
const FILES = 'symbol-files';
const MAPPING_LIMIT_BYTES = 2 ** 30;
const DSYM_LIMIT_BYTES = 2 ** 30;
const SECTION_LIMIT_BYTES = 64 * 2 ** 20;
const CLASS_LINE = /^(?:#[^\n]*\n)*[^\s#]\S* -> \S+:[ \r]*$/m;

const keptSchema = z.strictObject({ fenlok: z.literal('kept-symbols/1'), symbols: symbolsSchema });

/** Whether it is a mapping file, by its beginning, or a dSYM. */
export async function isSymbolsFile(path: string): Promise<boolean> {
  if (/\.dsym\/?$/i.test(path)) return true;
  return /\.(txt|map|pgmap)$/i.test(path) && CLASS_LINE.test(await headOf(path));
}

/**
 * Takes one in; of one name the newest counts.
 *
 * @throws UnreadableError where it names nothing, or is damaged or too large
 */
export async function addSymbols({ folder }: Dossier, path: string): Promise<Taken> {
  const isDsym = /\.dsym\/?$/i.test(path);
  const file = isDsym ? await dwarfIn(path) : path;
  const symbols = isDsym ? await readDsym(file) : (await readMapping(file)).symbols;
  const place = placeFor(folder, ROOM, `${path.replace(/\/$/, '')}.json`);
  const kept = json({ fenlok: 'kept-symbols/1', symbols });
  const before = await readFile(join(folder, place), 'utf8').catch(() => undefined);
  const { sha256 } = symbols;
  if (!(await exists(join(folder, FILES, sha256))))
    await writeDurably(folder, `${FILES}/${sha256}`, (staged) => copyFile(file, staged));
  if (before !== kept) await writeDurably(folder, place, (staged) => writeFile(staged, kept));
  return { kind: 'symbols', name: basename(path), digest: sha256, again: before === kept };
}

export interface KeptSymbols {
  /** Of the file that was added. */
  name: string;
  symbols: Symbols;
}

export async function listSymbols({ folder }: Pick<Dossier, 'folder'>): Promise<KeptSymbols[]> {
  const named = await listNamed(folder, ROOM);
  return Promise.all(
    named.map(async ({ file, name }) => ({
      name: name.replace(/\.json$/, ''),
      symbols: parseJson(file, await readTextFile(file), keptSchema, 'a file of symbols/ as Fenlok writes it')
        .symbols,
    })),
  );
}

/** Gives logs the names that people wrote, as far as the files of a dossier know them; a mapping is indexed once. */
export class SymbolFiles {
  #folder: string;
  #all: readonly Symbols[];
  #indexes = new Map<string, Promise<MappingIndex>>();

  constructor({ folder }: Pick<Dossier, 'folder'>, all: readonly Symbols[]) {
    this.#folder = folder;
    this.#all = all;
  }

  /** What facts that were measured with them are kept by. */
  get key(): string {
    return this.#all.map(({ sha256 }) => sha256).join(' ');
  }

  async name(log: DeviceLog): Promise<DeviceLog> {
    let { troubles } = log;
    if (troubles.length === 0) return log;
    for (const { sha256, sort } of this.#all) {
      const file = join(this.#folder, FILES, sha256);
      troubles =
        sort === 'mapping'
          ? await retraceAll(file, await this.#index(file), troubles)
          : nameAddresses(readMachSymbols(await readFile(file), file), troubles);
    }
    return { ...log, troubles };
  }

  /** The same of a trace, in which a device told of a crash line by line. */
  async nameTrace(lines: readonly TraceLine[]): Promise<TraceLine[]> {
    let named = [...lines];
    for (const { sha256, sort } of this.#all) {
      if (sort !== 'mapping' || !named.some(isCrashLine)) continue;
      const file = join(this.#folder, FILES, sha256);
      named = await retraceLines(file, await this.#index(file), named);
    }
    return named;
  }

  #index(file: string): Promise<MappingIndex> {
    const before = this.#indexes.get(file);
    const index = before ?? readMapping(file).then((read) => read.index);
    this.#indexes.set(file, index);
    return index;
  }
}

async function readMapping(file: string): Promise<{ symbols: Symbols; index: MappingIndex }> {
  const { size } = await stat(file);
  if (size > MAPPING_LIMIT_BYTES) throw tooLarge(file, size, MAPPING_LIMIT_BYTES);
  const indexer = new MappingIndexer();
  const hash = createHash('sha256');
  try {
    for await (const piece of createReadStream(file, { highWaterMark: 2 ** 20 })) {
      hash.update(piece);
      indexer.push(piece);
    }
    const index = indexer.finish();
    const mapId = index.head.pg_map_id ?? index.head.pg_map_hash?.replace(/^SHA-256 /, '') ?? '';
    const sha256 = hash.digest('hex');
    return {
      symbols: { sort: 'mapping', sha256, mapId, classes: index.classes.size, uuids: [] },
      index,
    };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new UnreadableError(
      { code: 'mapping.none', file, found: error.message, expected: 'a mapping file of R8 or ProGuard' },
      { cause: error },
    );
  }
}

/** Reads of the file only the classes that the stacks name. */
async function retraceAll(
  file: string,
  index: MappingIndex,
  troubles: readonly Trouble[],
): Promise<Trouble[]> {
  const handle = await open(file);
  try {
    const mapping = await mappingOf(
      handle,
      index,
      troubles.flatMap(({ thrown }) => thrown),
    );
    return troubles.map((trouble) => ({ ...trouble, thrown: retraceThrown(trouble.thrown, mapping) }));
  } finally {
    await handle.close();
  }
}

type CrashLine = TraceLine & { message: string };

const isCrashLine = (line: TraceLine): line is CrashLine =>
  line.kind === 'log.line' && line.tag === 'AndroidRuntime' && typeof line.message === 'string';

/** A frame for which the file has several is several lines. */
async function retraceLines(
  file: string,
  index: MappingIndex,
  lines: readonly TraceLine[],
): Promise<TraceLine[]> {
  const handle = await open(file);
  try {
    const frames = lines.filter(isCrashLine).flatMap(({ message }) => readFrame(message) ?? []);
    const names = lines.filter(isCrashLine).flatMap(({ message }) => THROWN.exec(message)?.[2] ?? []);
    const thrown = [...names, ''].map((exception) => ({ exception, message: '', frames }));
    const mapping = await mappingOf(handle, index, thrown);
    return lines.flatMap((line) => {
      if (!isCrashLine(line)) return [line];
      const frame = readFrame(line.message);
      if (frame)
        return retraceFrames([frame], '', mapping).map((one) => ({ ...line, message: formatFrame(one) }));
      const message = line.message.replace(
        THROWN,
        (_, cause = '', name: string) => `${cause}${mapping.members(name)?.original ?? name}`,
      );
      return [{ ...line, message }];
    });
  } finally {
    await handle.close();
  }
}

const THROWN = /^(Caused by: )?([\w$]+(?:\.[\w$]+)+)(?=: |$)/;

const formatFrame = ({ className, file, line, method }: StackFrame): string =>
  `\tat ${className}.${method}(${file || 'Unknown Source'}${line === undefined ? '' : `:${line}`})`;

async function mappingOf(
  handle: Awaited<ReturnType<typeof open>>,
  { classes }: MappingIndex,
  thrown: readonly Thrown[],
): Promise<Mapping> {
  const renamedOf = new Map<string, string>();
  for (const [renamed, { original }] of classes) renamedOf.set(original, renamed);
  const read = new Map<string, ClassMembers>();
  const load = async (renamed: string) => {
    const place = classes.get(renamed);
    if (!place || read.has(renamed)) return;
    const bytes = Buffer.alloc(Math.min(place.toByte - place.fromByte, SECTION_LIMIT_BYTES));
    await handle.read(bytes, 0, bytes.length, place.fromByte);
    read.set(renamed, readMembers(place.original, bytes.toString('utf8')));
  };
  for (const { exception } of thrown) await load(exception);
  for (const { className, method } of thrown.flatMap(({ frames }) => frames)) {
    await load(className);
    // what was inlined into it has its file from the class that it was written in
    for (const line of read.get(className)?.named(method) ?? []) {
      const inlined = line.read().className;
      if (inlined) await load(renamedOf.get(inlined) ?? '');
    }
  }
  return { members: (renamed) => read.get(renamed), renamed: (original) => renamedOf.get(original) };
}

async function dwarfIn(path: string): Promise<string> {
  const folder = join(path, 'Contents/Resources/DWARF');
  const [name] = (await readdir(folder).catch(() => [])).sort();
  if (name) return join(folder, name);
  throw new UnreadableError({
    code: 'dsym.none',
    file: path,
    found: 'no file under Contents/Resources/DWARF',
    expected: 'a dSYM as the build writes it',
  });
}

async function readDsym(file: string): Promise<Symbols> {
  const { size } = await stat(file);
  if (size > DSYM_LIMIT_BYTES) throw tooLarge(file, size, DSYM_LIMIT_BYTES);
  const bytes = await readFile(file);
  const uuids = readMachSymbols(bytes, file).map(({ architecture, uuid }) => `${architecture} ${uuid}`);
  return {
    sort: 'dsym',
    sha256: createHash('sha256').update(bytes).digest('hex'),
    mapId: '',
    classes: 0,
    uuids,
  };
}

/** Frames without a name get the one of the function that holds their address. */
const nameAddresses = (slices: readonly MachSymbols[], troubles: readonly Trouble[]): Trouble[] =>
  troubles.map((trouble) => {
    const { addresses, thrown } = trouble;
    if (!addresses) return trouble;
    return {
      ...trouble,
      thrown: thrown.map((one) => ({
        ...one,
        frames: one.frames.map((frame, i) => {
          const { offset = 0, uuid } = addresses[i] ?? {};
          const slice = slices.find((of) => of.uuid !== '' && of.uuid === uuid);
          const name = /^0x[0-9a-f]+$/.test(frame.method) ? slice?.at(offset) : undefined;
          return name ? { ...frame, method: name } : frame;
        }),
      })),
    };
  });

const tooLarge = (file: string, size: number, limit: number): UnreadableError =>
  new UnreadableError({
    code: 'symbols.too-large',
    file,
    found: `${size} bytes`,
    expected: `up to ${limit / 2 ** 20} MB`,
  });
