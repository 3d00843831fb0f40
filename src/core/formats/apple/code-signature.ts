/**
 * Code signatures in executables (Apple, `Security/CSCommon.h` and `cs_blobs.h`): a code directory with a digest of
 * each page, entitlements, and CMS over the code directory. All numbers are big-endian.
 *
 *     super blob:     u32 magic · length · count · (u32 slot · offset) × count
 *     code directory: u32 magic · length · version · flags · digests at · identifier at · special slots · code slots ·
 *                     code limit · u8 digest size · digest type · platform · page size (power of two) · u32 spare ·
 *                     scatter at · from version 2.2 on: team at
 *
 * Dates of certificates are not looked at: a device takes what was signed in time.
 */
import type { Anchor, PlistDict, SchemeCheck } from '../../model/app-package.ts';
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { APPLE_ROOTS } from '../../platform/apple/apple-roots.ts';
import { ByteReader } from '../byte-reader.ts';
import { certificateView, type ParsedCertificate } from '../signing/certificate.ts';
import { followChain, isSelfIssued } from '../signing/certificate-chain.ts';
import { parseSignedData, verifySignedData } from '../signing/cms.ts';
import type { MachO } from './mach-o.ts';
import { parsePlistDict } from './plist.ts';

const SUPER_BLOB = 0xfade0cc0;
const SLOT = { codeDirectory: 0, infoPlist: 1, resources: 3, entitlements: 5, cms: 0x10000 } as const;
const MAX_BLOBS = 64;
const DIGESTS: (DigestAlgorithm | undefined)[] = [undefined, 'sha1', 'sha256', 'sha256', 'sha384'];

/** Files that the code directory holds digests of, besides the code. */
interface SealedFiles {
  infoPlist?: Uint8Array;
  resources?: Uint8Array;
}

interface CodeSignature {
  entitlements: PlistDict;
  /** Empty where the code directory names none. */
  team: string;
  check: SchemeCheck;
}

export async function readCodeSignature(
  slice: MachO,
  name: string,
  sealed: SealedFiles,
  ports: Ports,
): Promise<CodeSignature> {
  const check: SchemeCheck = { scheme: 'code-signature', outcome: 'verified', problems: [], signers: [] };
  const result: CodeSignature = { entitlements: {}, team: '', check };
  const refuse = (code: string, found: string) => check.problems.push(problem(code, name, found));
  try {
    if (!slice.signature) refuse('none', 'no code signature');
    else {
      const blobs = readBlobs(slice, name);
      const entitlements = blobs.get(SLOT.entitlements);
      if (entitlements && entitlements.length > 8)
        result.entitlements = parsePlistDict(entitlements.subarray(8), `${name}, entitlements`);
      result.team = teamOf(blobs.get(SLOT.codeDirectory));
      Object.assign(check, await verifyCms(blobs, ports, refuse));
      await verifyDirectory(slice, blobs, sealed, ports, refuse);
    }
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    check.problems.push(error.problem);
  }
  check.outcome = check.problems.length > 0 ? 'broken' : 'verified';
  return result;
}

type Refuse = (code: string, found: string) => void;
type Blobs = ReadonlyMap<number, Uint8Array>;

function readBlobs({ bytes, signature }: MachO, name: string): Blobs {
  const { offset, sizeBytes } = signature!;
  const whole = new ByteReader(bytes, name).slice(offset, sizeBytes);
  const reader = new ByteReader(whole, `${name}, code signature`, 'big-endian');
  const count = reader.u32(8);
  if (reader.u32(0) !== SUPER_BLOB || count > MAX_BLOBS)
    throw new UnreadableError(problem('damaged', name, 'something that is not a code signature'));
  const blobs = new Map<number, Uint8Array>();
  for (let i = 0; i < count; i++) {
    const [slot, at] = [reader.u32(12 + 8 * i), reader.u32(16 + 8 * i)];
    blobs.set(slot, reader.slice(at, reader.u32(at + 4)));
  }
  return blobs;
}

async function verifyDirectory(
  slice: MachO,
  blobs: Blobs,
  sealed: SealedFiles,
  ports: Ports,
  refuse: Refuse,
): Promise<void> {
  const directory = blobs.get(SLOT.codeDirectory);
  if (!directory) return refuse('directory', 'no code directory');
  const reader = new ByteReader(directory, 'code directory', 'big-endian');
  const [digestsAt, specials, pages, limit] = [16, 24, 28, 32].map((at) => reader.u32(at)) as [
    number,
    number,
    number,
    number,
  ];
  const [digestBytes, type, pageBits] = [reader.u8(36), reader.u8(37), reader.u8(39)];
  const algorithm = DIGESTS[type];
  if (!algorithm || pageBits > 24 || pageBits < 9)
    return refuse('directory', `a code directory with digest type ${type}, pages of 2^${pageBits} bytes`);
  const slotAt = (slot: number) => reader.slice(digestsAt + slot * digestBytes, digestBytes);
  const holds = async (slot: number, bytes: Uint8Array) =>
    sameBytes(slotAt(slot), (await ports.digest(algorithm, bytes)).subarray(0, digestBytes));
  const code = new ByteReader(slice.bytes, 'the executable');
  const pageBytes = 2 ** pageBits;
  // all that lies before the signature itself must be covered
  if (limit !== slice.signature?.offset || pages * pageBytes < limit)
    refuse('directory', `a code directory that covers ${Math.min(limit, pages * pageBytes)} bytes only`);
  for (let page = 0; page < pages; page++) {
    const from = page * pageBytes;
    if (await holds(page, code.slice(from, Math.min(pageBytes, limit - from)))) continue;
    refuse('code', `code that was changed after signing (page ${page}, from byte ${from})`);
    break;
  }
  const specialFiles: [slot: number, bytes: Uint8Array | undefined, what: string][] = [
    [SLOT.infoPlist, sealed.infoPlist, 'Info.plist'],
    [SLOT.resources, sealed.resources, '_CodeSignature/CodeResources'],
    [SLOT.entitlements, blobs.get(SLOT.entitlements), 'the entitlements'],
  ];
  for (const [slot, bytes, what] of specialFiles)
    if (bytes && slot > specials) refuse('sealed', `${what}, which the signature does not cover`);
    else if (bytes && !(await holds(-slot, bytes)))
      refuse('sealed', `${what}, which was changed after signing`);
}

const FIRST_VERSION_WITH_TEAM = 0x20200;

function teamOf(directory: Uint8Array | undefined): string {
  const reader = directory && new ByteReader(directory, 'code directory', 'big-endian');
  if (!reader || reader.u32(8) < FIRST_VERSION_WITH_TEAM) return '';
  const at = reader.u32(48);
  if (at === 0) return '';
  const end = reader.bytes.indexOf(0, at);
  return new TextDecoder().decode(reader.slice(at, (end < 0 ? reader.bytes.length : end) - at));
}

async function verifyCms(
  blobs: Blobs,
  ports: Ports,
  refuse: Refuse,
): Promise<Pick<SchemeCheck, 'signers' | 'anchor'>> {
  const directory = blobs.get(SLOT.codeDirectory);
  const cms = blobs.get(SLOT.cms);
  if (!directory || !cms || cms.length <= 8) {
    refuse('ad-hoc', 'a signature by nobody (ad hoc)');
    return { signers: [{ certificates: [] }] };
  }
  const data = parseSignedData(cms.subarray(8), 'code signature');
  const { problems, signers } = await verifySignedData(data, directory, ports);
  for (const found of problems) refuse('signature', found);
  const shown = signers.length > 0 ? signers : data.certificates.slice(0, 1);
  const certificates = await Promise.all(shown.map((signer) => certificateView(signer, ports)));
  const [leaf] = signers;
  return {
    signers: [{ certificates }],
    ...(leaf && { anchor: await findAnchor(leaf, data.certificates, ports) }),
  };
}

async function findAnchor(
  leaf: ParsedCertificate,
  others: readonly ParsedCertificate[],
  ports: Ports,
): Promise<Anchor> {
  const last = (await followChain(leaf, others, ports)).at(-1)!;
  const { sha256, subject } = await certificateView(last, ports);
  return { is: APPLE_ROOTS.has(sha256) ? 'apple' : isSelfIssued(last) ? 'own' : 'open', subject };
}

const problem = (code: string, place: string, found: string): Problem => ({
  code: `signature.${code}`,
  place,
  found,
});
