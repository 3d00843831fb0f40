/**
 * JAR signing, the v1 scheme (Java SE 17, *JAR File Specification*, Signed JAR file), as Android verifies it:
 * MANIFEST.MF holds a digest of each entry, NAME.SF digests of the manifest, NAME.RSA (or DSA, EC) signs NAME.SF.
 *
 * Departures of the platform from the specification: no digest is asked for of anything in META-INF, every other entry
 * must be signed by the same signers, and each level takes other algorithms.
 */
import type { Signer } from '../../model/app-package.ts';
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { fromBase64 } from '../base64.ts';
import { canInflateAll, type Zip } from '../zip.ts';
import { contentOf, parseAsn1 } from './asn1.ts';
import { certificateView, extensionsOf, type ParsedCertificate } from './certificate.ts';
import {
  findAttributeFaults,
  holdsSignature,
  parseSignedData,
  type SignedData,
  type SignerInfo,
} from './cms.ts';
import { digestAt, isTakenAt, STRONGEST_SINCE } from './jar-algorithms.ts';
import { type JarManifest, type ManifestSection, parseManifest } from './jar-manifest.ts';

const MANIFEST = 'META-INF/MANIFEST.MF';
const SIGNATURE_FILE = /^META-INF\/.+\.SF$/;
const BLOCK_FILE = /^(META-INF\/.+)\.(RSA|DSA|EC)$/;
// What a report can hold of a package that was repacked as a whole.
const MAX_PROBLEMS = 20;
const MAX_SIGNERS = 10;
const MAX_TEXT_BYTES = 32 * 2 ** 20;
const MAX_BLOCK_BYTES = 2 ** 20;

// Android 4.4 is the first that checks signed attributes for what they are: before, they protected nothing.
const ATTRIBUTES_SINCE = 19;
// Android 7 looks at all signers of a block, at the content type, and at which other schemes there should be.
const ANDROID_7 = 24;
const ANDROID_9 = 28;

/** What one platform level makes of one scheme; nothing in `problems` means that it takes it. */
export interface SchemeVerdict {
  problems: Problem[];
  signers: Signer[];
  /** Which signers of their blocks the level went by, where a block has several. */
  wentBy?: string;
}

export type VerifyAt = (level: number) => Promise<SchemeVerdict>;

export const hasJarSignature = (zip: Zip): boolean =>
  [...zip.entries.keys()].some((name) => SIGNATURE_FILE.test(name));

/** Reads each file once, however many levels are asked about. */
export function openJarSignature(zip: Zip, ports: Ports): VerifyAt {
  let opened: Promise<JarFiles> | undefined;
  return async (level) => {
    try {
      opened ??= openFiles(zip, ports);
      return await verifyAt(level, await opened);
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      return { problems: [error.problem], signers: [] };
    }
  };
}

interface JarFiles {
  zip: Zip;
  ports: Ports;
  manifest: { bytes: Uint8Array; parsed: JarManifest };
  /** By entry; a name that stands there twice is in `problems`. */
  sections: ReadonlyMap<string, ManifestSection>;
  problems: Problem[];
  signers: JarSigner[];
  digestOfEntry(name: string, algorithm: DigestAlgorithm): Promise<Uint8Array>;
  checkedEntries: Map<string, ReturnType<typeof verifyEntries>>;
}

interface JarSigner {
  /** META-INF/NAME.SF */
  file: string;
  bytes: Uint8Array;
  parsed: JarManifest;
  block: string;
  data: SignedData;
}

async function openFiles(zip: Zip, ports: Ports): Promise<JarFiles> {
  const bytes = await zip.read(MANIFEST, MAX_TEXT_BYTES);
  const parsed = parseManifest(bytes);
  const { problems, sections } = indexSections(parsed, zip);
  const signers: JarSigner[] = [];
  for (const block of zip.entries.keys()) {
    const file = `${BLOCK_FILE.exec(block)?.[1]}.SF`;
    if (!zip.entries.has(file)) continue;
    const signed = await zip.read(file, MAX_TEXT_BYTES);
    const data = parseSignedData(await zip.read(block, MAX_BLOCK_BYTES), block);
    signers.push({ file, bytes: signed, parsed: parseManifest(signed), block, data });
  }
  const digests = new Map<string, Promise<Uint8Array>>();
  const digestOfEntry = (name: string, algorithm: DigestAlgorithm): Promise<Uint8Array> => {
    const key = `${algorithm} ${name}`;
    const known = digests.get(key) ?? zip.read(name).then((data) => ports.digest(algorithm, data));
    digests.set(key, known);
    return known;
  };
  const manifest = { bytes, parsed };
  return { zip, ports, manifest, sections, problems, signers, digestOfEntry, checkedEntries: new Map() };
}

function indexSections(manifest: JarManifest, zip: Zip) {
  const problems: Problem[] = [];
  const sections = new Map<string, ManifestSection>();
  for (const [i, section] of manifest.sections.entries()) {
    const { name } = section;
    if (name === undefined) problems.push(problem('manifest', MANIFEST, `section ${i + 1} names no entry`));
    else if (sections.has(name)) problems.push(problem('manifest', entry(name), 'two sections for it'));
    else if (!zip.entries.has(name))
      problems.push(problem('entry', entry(name), 'a signed entry that is not there'));
    if (name !== undefined) sections.set(name, section);
  }
  return { problems, sections };
}

async function verifyAt(level: number, files: JarFiles): Promise<SchemeVerdict> {
  const { ports, signers } = files;
  const no = (problems: Problem[]) => ({ problems: problems.slice(0, MAX_PROBLEMS), signers: [] });
  if (files.problems.length > 0) return no(files.problems);
  if (signers.length === 0)
    return no([problem('block', MANIFEST, 'no signature file with a signature beside it')]);
  if (signers.length > MAX_SIGNERS)
    return no([
      problem('signers', 'META-INF', `${signers.length} signers, where at most ${MAX_SIGNERS} are taken`),
    ]);
  const problems: Problem[] = [];
  const certificates = new Map<JarSigner, ParsedCertificate>();
  const wentBy: number[] = [];
  for (const signer of signers) {
    const found = await verifyBlock(level, signer, ports);
    if ('problem' in found) problems.push(found.problem);
    else {
      certificates.set(signer, found.certificate);
      wentBy.push(found.position);
    }
  }
  if (problems.length > 0) return no(problems);
  const counted = new Map<JarSigner, Set<string>>();
  for (const signer of signers) {
    const found = await verifySignatureFile(level, signer, files);
    if (found.ignored) continue;
    if (found.problems.length > 0) problems.push(...found.problems);
    else counted.set(signer, found.names);
  }
  if (problems.length === 0 && counted.size === 0)
    problems.push(problem('block', 'META-INF', 'no signature file that counts'));
  if (problems.length > 0) return no(problems);
  // entry by entry levels differ only in which digest they compare
  const key = [level >= STRONGEST_SINCE, ...[...counted.keys()].map(({ file }) => file)].join(' ');
  const checked = files.checkedEntries.get(key) ?? verifyEntries(level, counted, files);
  files.checkedEntries.set(key, checked);
  const { covering, problems: ofEntries } = await checked;
  const views = await Promise.all(
    covering.map((signer) => certificateView(certificates.get(signer)!, ports)),
  );
  return {
    problems: ofEntries,
    signers: views.map((certificate) => ({ certificates: [certificate] })),
    wentBy: wentBy.join(' '),
  };
}

/** Whether NAME.RSA holds over NAME.SF, and by whose certificate. */
async function verifyBlock(
  level: number,
  { block, bytes, data }: JarSigner,
  ports: Ports,
): Promise<{ certificate: ParsedCertificate; position: number } | { problem: Problem }> {
  const refuse = (found: string) => ({ problem: problem('signature', block, found) });
  if (data.signers.length === 0) return refuse('no signer');
  const tried = level < ANDROID_7 ? data.signers.slice(0, 1) : data.signers;
  let verified: { certificate: ParsedCertificate; position: number } | undefined;
  let why = 'a signature that does not hold';
  for (const [position, signer] of tried.entries()) {
    const fatal = findFatal(level, signer);
    if (fatal) return refuse(fatal);
    const faults = await findAttributeFaults(signer, data.contentType, bytes, ports);
    const met = faults.filter(({ code }) => level >= ANDROID_7 || !code.startsWith('type-'));
    // what is missing or repeated ends it; what does not agree leaves it to the other signers of the block
    const end = met.find(({ code }) => !code.endsWith('-wrong'));
    if (end) return refuse(end.found);
    if (met.length > 0) why = met[0]!.found;
    else if (await holdsSignature(signer, bytes, ports))
      verified ??= { certificate: signer.certificate!, position };
    else why = `a signature that ${signer.certificate!.view.subject} did not make`;
  }
  return verified ?? refuse(why);
}

const KEY_USAGE = '2.5.29.15';
// Extensions of RFC 5280, section 4.2.1, that path validation knows; others that are critical refuse the certificate.
const KNOWN_EXTENSION = /^2\.5\.29\.(14|15|17|18|19|30|31|32|33|35|36|37|46|54)$/;

/** What refuses a signature whatever other signers the block has. */
function findFatal(level: number, { algorithm, attributes, byKeyId, certificate, digest }: SignerInfo) {
  if (!digest || !algorithm) return 'an algorithm that is not known';
  if (!isTakenAt(level, digest, algorithm))
    return `${digest} with ${algorithm.digest ?? ''}${algorithm.key}, which Android at level ${level} does not take`;
  if (!certificate || byKeyId) return 'a signer whose certificate is not there';
  const extensions = extensionsOf(certificate);
  const unknown = [...extensions].find(([oid, { critical }]) => critical && !KNOWN_EXTENSION.test(oid));
  if (unknown) return `a certificate with a critical extension that is not known (${unknown[0]})`;
  const usage = extensions.get(KEY_USAGE)?.value;
  // bits 0 and 1: digital signature, non-repudiation (RFC 5280, section 4.2.1.3)
  if (usage && !((contentOf(parseAsn1(contentOf(usage), 'key usage'))[1] ?? 0) & 0xc0))
    return 'a certificate whose key is not meant for signatures';
  if (attributes && level < ATTRIBUTES_SINCE)
    return `signed attributes, which Android before level ${ATTRIBUTES_SINCE} does not check`;
  return undefined;
}

interface CheckedFile {
  /** Such a file counts for nothing; the package is not refused for it alone. */
  ignored: boolean;
  problems: Problem[];
  /** Entries that it speaks for. */
  names: Set<string>;
}

async function verifySignatureFile(
  level: number,
  { file, parsed: { main, sections } }: JarSigner,
  files: JarFiles,
): Promise<CheckedFile> {
  const { manifest, ports } = files;
  const names = new Set<string>();
  const problems: Problem[] = [];
  const ignored = { ignored: true, problems: [], names };
  const refuse = (code: string, place: string, found: string) => problems.push(problem(code, place, found));
  const holds = async (section: ManifestSection, suffix: string, bytes: Uint8Array) => {
    const named = digestAt(level, section, suffix);
    return named && sameBytes(fromBase64(named.base64), await ports.digest(named.algorithm, bytes));
  };
  if (main.attribute('Signature-Version') === undefined) return ignored;
  for (const id of missingSchemes(level, main))
    refuse('stripped', file, `no v${id} signature, though it says that there is one`);
  // signtool, long out of use, wrote the manifest's digest elsewhere
  const bySigntool = main.attribute('Created-By')?.includes('signtool') ?? false;
  const whole = await holds(main, bySigntool ? '-Digest' : '-Digest-Manifest', manifest.bytes);
  if (
    !bySigntool &&
    (await holds(main, '-Digest-Manifest-Main-Attributes', manifest.parsed.main.bytes)) === false
  )
    refuse('manifest', MANIFEST, 'a main section that was changed after signing');
  for (const section of sections) {
    const { name } = section;
    if (name === undefined || names.has(name)) return ignored;
    names.add(name);
    if (whole) continue;
    const signed = files.sections.get(name);
    if (!signed) return ignored;
    if (!(await holds(section, '-Digest', trimmed(signed.bytes, bySigntool))))
      refuse(
        'manifest',
        entry(name),
        `a section of ${MANIFEST} that was changed after signing, or that ${file} has no digest of`,
      );
  }
  return { ignored: false, problems, names };
}

/** Signtool left the last of two line ends out. */
const trimmed = (section: Uint8Array, bySigntool: boolean): Uint8Array =>
  bySigntool && section.at(-1) === 10 && section.at(-2) === 10 ? section.subarray(0, -1) : section;

/**
 * `X-Android-APK-Signed: 2, 3` says which other schemes the package was signed by. A level that knows one of them and
 * still came to look at this file did not find it.
 */
function missingSchemes(level: number, main: ManifestSection): string[] {
  const known = level >= ANDROID_9 ? ['2', '3'] : level >= ANDROID_7 ? ['2'] : [];
  const named = (main.attribute('X-Android-APK-Signed') ?? '').split(',').map((id) => id.trim());
  return known.filter((id) => named.includes(id));
}

async function verifyEntries(level: number, signers: ReadonlyMap<JarSigner, Set<string>>, files: JarFiles) {
  const { digestOfEntry, sections, zip } = files;
  const problems: Problem[] = [];
  let covering: JarSigner[] | undefined;
  if (!canInflateAll(zip))
    return {
      covering: [],
      problems: [problem('too-large', MANIFEST, 'more than can be checked entry by entry')],
    };
  for (const name of zip.entries.keys()) {
    if (problems.length >= MAX_PROBLEMS) break;
    if (name.endsWith('/') || name.startsWith('META-INF/')) continue;
    const refuse = (found: string) => problems.push(problem('entry', entry(name), found));
    const section = sections.get(name);
    const by = [...signers].filter(([, names]) => names.has(name)).map(([signer]) => signer);
    const named = section && digestAt(level, section, '-Digest');
    if (!named || by.length === 0) {
      refuse('an entry that is not signed');
      continue;
    }
    covering ??= by;
    if (by.length !== covering.length || by.some((signer, i) => signer !== covering![i]))
      refuse('an entry that other signers signed than the first');
    try {
      if (!sameBytes(fromBase64(named.base64), await digestOfEntry(name, named.algorithm)))
        refuse('an entry that was changed after signing');
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      problems.push(error.problem);
    }
  }
  if (!covering && problems.length === 0)
    problems.push(problem('entry', MANIFEST, 'no entry that is signed'));
  return { covering: covering ?? [], problems };
}

const entry = (name: string): string => `entry ${name}`;

const problem = (code: string, place: string, found: string): Problem => ({
  code: `signature.${code}`,
  place,
  found,
});
