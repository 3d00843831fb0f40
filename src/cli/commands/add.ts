import { readdir, stat } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { parseCapture } from '../../core/formats/capture.ts';
import { localeOfJson } from '../../core/formats/catalogues/json-texts.ts';
import { isCataloguePath } from '../../core/formats/catalogues/read-catalogue.ts';
import { siteFilePlace } from '../../core/formats/site-file.ts';
import type { Platform } from '../../core/model/candidate.ts';
import { formatProblem, type Problem, UnreadableError } from '../../core/model/problem.ts';
import { printableText } from '../../core/reports/escape.ts';
import { addCapture } from '../../node/captures.ts';
import { addCatalogue, addFile, addPackage, addTrace, openDossier, type Taken } from '../../node/dossier.ts';
import { addListing, addListingTable, isListingFile, isListingTable } from '../../node/listings.ts';
import { isLogFile } from '../../node/log-files.ts';
import { addLog } from '../../node/logs.ts';
import { addPayload, isPayloadFile } from '../../node/payloads.ts';
import { type CaptureFiles, readPicture } from '../../node/read-capture.ts';
import { isTextsFile } from '../../node/read-catalogue-bytes.ts';
import { readTextFile } from '../../node/read-yaml.ts';
import { addReviews, isReviewsFile } from '../../node/reviews.ts';
import { addSale, isSaleFile, readSaleKeys } from '../../node/sales.ts';
import { addSiteFile } from '../../node/site-files.ts';
import { addSymbols, isSymbolsFile } from '../../node/symbols.ts';
import type { AddCommand } from '../command-table.ts';
import { exitCode } from '../exit-code.ts';
import { type Io, progress, UsageError } from '../io.ts';
import { watchFolder } from './add/watch-folder.ts';
import { type DossierOptions, inCwd, withDossier } from './options.ts';

interface PairOptions {
  screen?: string;
  locale: string;
  theme: string;
  textScale: number;
  density?: number;
  device: string;
  procedure: string;
  store?: string;
  licenseKey?: string;
  json?: boolean;
}

/** `fenlok add`: takes evidence into the dossier. */
export const addCommand: AddCommand = (command, { io, finish }) => {
  withDossier(command)
    .argument('[files...]', 'files, or folders that hold captures, catalogues or listings')
    .option('--watch <folder>', 'take what a phone, a UI test or a person drops there, until Ctrl-C')
    .option('--screen <id>', 'for a PNG and XML pair: which screen it shows')
    .option('--locale <tag>', 'for a pair: language of the app (BCP 47)', 'en')
    .option('--theme <light|dark>', 'for a pair', 'light')
    .option('--text-scale <factor>', 'for a pair: 2 is 200 %', Number, 1)
    .option('--density <dpi>', 'for a pair: logical density of the device (adb shell wm density)', Number)
    .option('--device <name>', 'for a pair', 'unnamed')
    .option('--procedure <name>', 'for a pair: what was done before', 'as-is')
    .option(
      '--store <file>',
      'for a signed sale: the test store that signed it, as `fenlok standin store --connection` wrote it',
    )
    .option('--license-key <file>', "for a purchase that Android's store signed: the app's license key")
    .option('--json', 'print what was taken as JSON')
    .addHelpText(
      'after',
      '\nExample:\n  fenlok add app-release.apk captures/ app/src/main/res listing/\n  fenlok add home.png --screen home --locale de --theme dark --density 420   (home.xml lies beside it)\n  fenlok add site/kelpline.example/.well-known/assetlinks.json\n  fenlok add logcat.txt bugreport.zip mapping.txt   (for iOS: Crash.ips, Kelpline.app.dSYM)',
    )
    .action(async (files: string[], options: DossierOptions & PairOptions & { watch?: string }) => {
      if (files.length === 0 && !options.watch)
        throw new UsageError('name files to take in, or a folder: --watch captures/');
      if (options.watch) {
        await watchFolder(inCwd(io, options.watch), inCwd(io, options.dossier), io);
        return;
      }
      const paths = (await Promise.all(files.map((file) => expand(inCwd(io, file))))).flat();
      // the package first, since it begins the dossier
      paths.sort((a, b) => Number(isPackage(b)) - Number(isPackage(a)));
      checkCall(paths, options);
      // said once, and not for each of the files
      if (!paths.some(isPackage)) await openDossier(inCwd(io, options.dossier));
      const given = {
        ...options,
        ...(options.store !== undefined && { store: inCwd(io, options.store) }),
        ...(options.licenseKey !== undefined && { licenseKey: inCwd(io, options.licenseKey) }),
      };
      const { taken, problems } = await takeAll(paths, inCwd(io, options.dossier), given, io);
      if (options.json)
        io.out(`${JSON.stringify({ taken, problems: problems.map(({ problem }) => problem) }, null, 2)}\n`);
      else for (const line of formatTaken(taken)) io.out(`${line}\n`);
      for (const { problem } of problems) io.err(`fenlok: ${printableText(formatProblem(problem))}\n`);
      finish(problems.length > 0 ? exitCode.unreadable : exitCode.done);
    });
};

async function takeAll(
  paths: string[],
  folder: string,
  options: PairOptions,
  io: Io,
): Promise<{ taken: Taken[]; problems: UnreadableError[] }> {
  const taken: Taken[] = [];
  const problems: UnreadableError[] = [];
  const warn = (found: readonly Problem[]) => {
    for (const problem of found)
      io.err(`fenlok: taken in as far as it goes: ${printableText(formatProblem(problem))}\n`);
  };
  const tell = paths.length > 3 ? progress(io, 'Taking evidence in') : () => {};
  for (const [i, path] of paths.entries()) {
    io.signal.throwIfAborted();
    try {
      const one = await take(path, folder, options, warn);
      if (one) taken.push(one);
      else if (paths.length === 1) io.err(`${printableText(path)} holds no texts, so it was left out\n`);
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      problems.push(error);
    }
    tell(i + 1, paths.length);
  }
  return { taken, problems };
}

const kindOf = (path: string): string => extname(path).toLowerCase();
const isPackage = (path: string): boolean => ['.apk', '.aab', '.ipa'].includes(kindOf(path));
const isPicture = (path: string): boolean => ['.png', '.webp', '.jpg', '.jpeg'].includes(kindOf(path));

/** What the call itself lacks is said before anything is taken in. */
function checkCall(paths: string[], { density, screen }: PairOptions): void {
  const picture = paths.find(isPicture);
  if (picture && !(screen && density))
    throw new UsageError(
      `${picture}: say which screen this is and the density of its device, with --screen ID --density DPI (and --locale, --theme where they are not en and light)`,
    );
  const tree = paths.find((path) => kindOf(path) === '.xml' && !isCataloguePath(path));
  if (tree)
    throw new UsageError(`${tree}: give the picture; the XML of the same name beside it is taken with it`);
}

/** Named after a language, or in a folder that is. */
const isYamlOfTexts = (path: string): boolean => /\.ya?ml$/i.test(path) && localeOfJson(path) !== undefined;

async function expand(path: string): Promise<string[]> {
  const info = await stat(path).catch(() => undefined);
  if (!info) throw new UnreadableError({ code: 'file.missing', file: path, found: 'no such file' });
  if (!info.isDirectory() || /\.dsym\/?$/i.test(path)) return [path];
  const all = (await readdir(path, { recursive: true })).map((name) => join(path, name));
  const listings = new Set<string>();
  for (const name of all) if (await isListingFile(name)) listings.add(name);
  const inside = all.filter(
    (name) =>
      /\.json$/.test(name) ||
      isYamlOfTexts(name) ||
      isCataloguePath(name) ||
      siteFilePlace(name) ||
      listings.has(name),
  );
  if (inside.length === 0)
    throw new UnreadableError({
      code: 'add.empty-folder',
      file: path,
      found: 'a folder without captures and catalogues',
      expected:
        'capture files (*.json), or texts: values folders, .strings, .xcstrings, .arb, .xliff, .po, .resx, .json, .yml',
    });
  return inside.sort();
}

async function take(
  path: string,
  folder: string,
  options: PairOptions,
  warn: (problems: readonly Problem[]) => void,
): Promise<Taken | undefined> {
  if (isPackage(path)) return addPackage(folder, path);
  const dossier = await openDossier(folder);
  if (await isListingFile(path)) return addListing(dossier, path);
  if (isCataloguePath(path) || (await isTextsFile(path))) {
    const catalogue = await addCatalogue(dossier, path);
    if (!catalogue) return undefined;
    const { problems, ...taken } = catalogue;
    warn(problems);
    return taken;
  }
  if (siteFilePlace(path)) {
    const { problems, ...taken } = await addSiteFile(dossier, path);
    warn(problems);
    return taken;
  }
  if (await isListingTable(path)) return addListingTable(dossier, path);
  if (await isReviewsFile(path)) return addReviews(dossier, path);
  if (await isSymbolsFile(path)) return addSymbols(dossier, path);
  if (await isLogFile(path)) return addLog(dossier, path);
  if (isPicture(path))
    return addCapture(dossier, path, await readPair(path, dossier.candidate.platform, options));
  if (await isSaleFile(path))
    return addSale(dossier, path, await readSaleKeys(options.store, options.licenseKey));
  if (kindOf(path) === '.json' && (await isPayloadFile(path))) return addPayload(dossier, path);
  if (kindOf(path) === '.json') return addCapture(dossier, path);
  if (kindOf(path) === '.jsonl') return addTrace(dossier, path);
  return addFile(dossier, path);
}

/** A screenshot and the OS's dump of the same moment, as `NAME.png` and `NAME.xml`; the settings come from the call. */
async function readPair(picture: string, platform: Platform, options: PairOptions): Promise<CaptureFiles> {
  const hierarchy = picture.replace(/\.\w+$/, '.xml');
  const { density, device, locale, procedure, screen, textScale, theme } = options;
  const settings = {
    fenlok: 'capture/1',
    platform,
    cell: { screen, locale, theme, textScale, device, procedure },
    densityDpi: density,
    picture: basename(picture),
    hierarchy: basename(hierarchy),
  };
  return {
    capture: parseCapture(picture, JSON.stringify(settings)),
    picture: await readPicture(picture),
    hierarchyXml: await readTextFile(hierarchy, 64 * 2 ** 20),
  };
}

/** One line each; of many only how many. */
function formatTaken(taken: Taken[]): string[] {
  const again = taken.filter((one) => one.again).length;
  if (taken.length > 8) return [`${taken.length - again} taken in, ${again} already there`];
  return taken.map(
    (one) =>
      `${one.again ? 'already there' : 'taken in'}  ${one.kind} ${one.name}  ${one.digest.slice(0, 16)}`,
  );
}
