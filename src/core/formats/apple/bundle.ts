/**
 * One bundle of an iOS package: the app itself, or a framework, an extension or a watch app inside it.
 *
 *     Info.plist · executable · PrivacyInfo.xcprivacy · _CodeSignature/CodeResources · what else it brings
 *
 * Each has a signature of its own, and devices look at each (Apple, *TN3125: Inside Code Signing: Provisioning Profiles*
 * and *TN3126: Inside Code Signing: Hashes*).
 */
import type { Anchor, IosBundle, NeededReason, PlistDict, SchemeCheck } from '../../model/app-package.ts';
import type { Ports } from '../../model/ports.ts';
import { type Problem, tryRead } from '../../model/problem.ts';
import { needingReasons } from '../../platform/apple/required-reasons.ts';
import type { Zip } from '../zip.ts';
import { readCodeSignature } from './code-signature.ts';
import { type MachO, readMachO } from './mach-o.ts';
import { dictsAt, MAX_PLIST_BYTES, parsePlistDict, textAt, textsAt } from './plist.ts';
import { verifySealedResources } from './sealed-resources.ts';

interface OpenedBundle {
  /** In the archive, with its slash. */
  folder: string;
  info: PlistDict;
  /** Name of the file of its code. */
  executable: string;
  slices: MachO[];
  /** Of the first slice: a build gives all slices the same. */
  entitlements: PlistDict;
  team: string;
  /** One a slice. */
  signatures: SchemeCheck[];
  /** Its own one first; then those of resource bundles in it, which libraries that are linked into its code bring. */
  privacyManifests: PlistDict[];
  reasons: NeededReason[];
}

/** @throws UnreadableError where its Info.plist or its executable cannot be read */
export async function openBundle(
  zip: Zip,
  folder: string,
  ports: Ports,
  unread: Problem[],
): Promise<OpenedBundle> {
  const infoBytes = await zip.read(`${folder}Info.plist`, MAX_PLIST_BYTES);
  const info = parsePlistDict(infoBytes, `${folder}Info.plist`);
  const executable = textAt(info, 'CFBundleExecutable');
  const slices = readMachO(await zip.read(folder + executable), folder + executable);
  const sealName = `${folder}_CodeSignature/CodeResources`;
  const resources = await readOptional(zip, sealName, unread, (bytes) => bytes);
  const signatures = await Promise.all(
    slices.map((slice) =>
      readCodeSignature(
        slice,
        `${folder}${executable} (${slice.architecture})`,
        { infoPlist: infoBytes, resources },
        ports,
      ),
    ),
  );
  const changed = await readOptional(zip, sealName, unread, (bytes, name) =>
    verifySealedResources(zip, folder, executable, parsePlistDict(bytes, name), ports),
  );
  const privacyManifests = await readPrivacyManifests(zip, folder, unread);
  const [first] = signatures;
  return {
    folder,
    info,
    executable,
    slices,
    entitlements: first?.entitlements ?? {},
    team: first?.team ?? '',
    signatures: signatures.map(({ check }) => withProblems(check, changed ?? [])),
    privacyManifests,
    reasons: findReasons(slices, privacyManifests),
  };
}

/** Reads a file that need not be there; one that cannot be read is told among `unread`. */
export async function readOptional<T>(
  zip: Zip,
  name: string,
  unread: Problem[],
  read: (bytes: Uint8Array, name: string) => T | Promise<T>,
): Promise<T | undefined> {
  return zip.entries.has(name)
    ? tryRead(unread, async () => read(await zip.read(name, MAX_PLIST_BYTES), name))
    : undefined;
}

const withProblems = (check: SchemeCheck, problems: readonly Problem[]): SchemeCheck => ({
  ...check,
  problems: [...check.problems, ...problems],
  outcome: problems.length > 0 ? 'broken' : check.outcome,
});

/** A folder in a path whose code is signed by itself. */
export const CODE_BUNDLE = /\.(framework|appex|app)\//;
const MAX_MANIFESTS = 500;

async function readPrivacyManifests(zip: Zip, folder: string, unread: Problem[]): Promise<PlistDict[]> {
  const own = `${folder}PrivacyInfo.xcprivacy`;
  const others = [...zip.entries.keys()].filter(
    (name) =>
      name.startsWith(folder) &&
      name.endsWith('/PrivacyInfo.xcprivacy') &&
      name !== own &&
      !CODE_BUNDLE.test(name.slice(folder.length)),
  );
  const manifests: PlistDict[] = [];
  for (const name of [own, ...others].slice(0, MAX_MANIFESTS)) {
    const manifest = await readOptional(zip, name, unread, parsePlistDict);
    if (manifest) manifests.push(manifest);
  }
  return manifests;
}

function findReasons(slices: readonly MachO[], manifests: readonly PlistDict[]): NeededReason[] {
  const declared = manifests.flatMap((manifest) => dictsAt(manifest, 'NSPrivacyAccessedAPITypes'));
  return needingReasons(slices.flatMap(({ imports }) => imports)).map(({ category, symbols }) => ({
    category,
    symbols,
    given: declared
      .filter(
        (type) => textAt(type, 'NSPrivacyAccessedAPIType') === `NSPrivacyAccessedAPICategory${category}`,
      )
      .flatMap((type) => textsAt(type, 'NSPrivacyAccessedAPITypeReasons')),
  }));
}

const NESTED_CODE = /^(.*\.(framework|appex|app)\/)Info\.plist$|^((?:.*\/)?Frameworks\/[^/]+\.dylib)$/;
const KINDS = { framework: 'framework', appex: 'extension', app: 'app' } as const;
const MAX_PARTS = 500;
// the system's own Swift libraries, which builds copied along before iOS had them
const SWIFT_LIBRARY = /(^|\/)libswift\w*\.dylib$/;

/**
 * @param app its folder in the archive, with a slash
 * @returns all code inside the app that is signed by itself; what cannot be read is told among `unread`
 */
export async function openParts(
  zip: Zip,
  app: string,
  ports: Ports,
  unread: Problem[],
): Promise<IosBundle[]> {
  const parts: IosBundle[] = [];
  for (const name of zip.entries.keys()) {
    const match = name.startsWith(app) && NESTED_CODE.exec(name.slice(app.length));
    if (!match) continue;
    if (parts.length >= MAX_PARTS) {
      unread.push({
        code: 'ios.parts',
        place: name,
        found: `more than ${MAX_PARTS} frameworks and extensions`,
      });
      break;
    }
    const [, folder, suffix, library] = match;
    const part = await tryRead(unread, () =>
      folder === undefined
        ? openLibrary(zip, app, library!, ports)
        : openNested(zip, app, folder, KINDS[suffix as keyof typeof KINDS], ports, unread),
    );
    if (part) parts.push(part);
  }
  return parts;
}

/** @returns undefined where it brings no code */
async function openNested(
  zip: Zip,
  app: string,
  folder: string,
  kind: IosBundle['kind'],
  ports: Ports,
  unread: Problem[],
): Promise<IosBundle | undefined> {
  const info = parsePlistDict(await zip.read(`${app}${folder}Info.plist`, MAX_PLIST_BYTES), app + folder);
  if (textAt(info, 'CFBundleExecutable') === '') return undefined;
  const bundle = await openBundle(zip, app + folder, ports, unread);
  return {
    kind,
    path: folder.slice(0, -1),
    id: textAt(info, 'CFBundleIdentifier'),
    team: bundle.team,
    signature: joinChecks(bundle.signatures),
    reasons: bundle.reasons,
  };
}

async function openLibrary(zip: Zip, app: string, path: string, ports: Ports): Promise<IosBundle> {
  const slices = readMachO(await zip.read(app + path), path);
  const read = await Promise.all(
    slices.map((slice) => readCodeSignature(slice, `${path} (${slice.architecture})`, {}, ports)),
  );
  return {
    kind: 'library',
    path,
    id: '',
    team: read[0]?.team ?? '',
    signature: joinChecks(read.map(({ check }) => check)),
    // a library has no bundle in which a manifest could lie, and the system's own needs none
    reasons: SWIFT_LIBRARY.test(path) ? [] : findReasons(slices, []),
  };
}

/** All slices as one: what is wrong with any of them is wrong with the file. */
function joinChecks(checks: readonly SchemeCheck[]): SchemeCheck {
  const problems = checks.flatMap((check) => check.problems);
  const anchor: Anchor | undefined = checks.find((check) => check.anchor)?.anchor;
  return {
    scheme: 'code-signature',
    outcome: problems.length > 0 ? 'broken' : 'verified',
    problems,
    signers: checks[0]?.signers ?? [],
    ...(anchor && { anchor }),
  };
}
