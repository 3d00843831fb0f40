/**
 * APK Signature Scheme v2, v3 and v3.1 (Android Open Source Project, *Application signing*), as each platform level
 * verifies them.
 */
import type { Certificate, Signer } from '../../model/app-package.ts';
import { type ByteSource, type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { certificateView, parseCertificate } from './certificate.ts';
import { type ContentDigestKind, type ContentDigests, contentDigests } from './content-digest.ts';
import type { SchemeVerdict } from './jar-signature.ts';
import {
  BLOCK_ID,
  type BlockScheme,
  type BlockSigner,
  type LineageLevel,
  readBlockSigners,
  readLineage,
  type SigningBlock,
} from './signing-block.ts';

interface Algorithm {
  padding: 'pkcs1' | 'pss' | 'none';
  digest: DigestAlgorithm;
  content: ContentDigestKind;
  /** The first platform level that knows it. */
  since: number;
}

const of = (padding: Algorithm['padding'], digest: 'sha256' | 'sha512', tree = false): Algorithm => ({
  padding,
  digest,
  content: tree ? 'hash-tree' : `chunked-${digest}`,
  since: tree ? 28 : 24,
});

// *APK Signature Scheme v2*, signature algorithm ids; the last ones are those of files with a hash tree.
const ALGORITHMS = new Map<number, Algorithm>([
  [0x0101, of('pss', 'sha256')],
  [0x0102, of('pss', 'sha512')],
  [0x0103, of('pkcs1', 'sha256')],
  [0x0104, of('pkcs1', 'sha512')],
  [0x0201, of('none', 'sha256')],
  [0x0202, of('none', 'sha512')],
  [0x0301, of('none', 'sha256')],
  [0x0421, of('pkcs1', 'sha256', true)],
  [0x0423, of('none', 'sha256', true)],
  [0x0425, of('none', 'sha256', true)],
]);

// Of several signatures the platform verifies the strongest by this order.
const STRENGTH: Record<ContentDigestKind, number> = {
  'chunked-sha256': 0,
  'hash-tree': 1,
  'chunked-sha512': 2,
};

const MAX_V2_SIGNERS = 10;

interface SignedFile {
  source: ByteSource;
  block: SigningBlock;
  centralDirectoryOffset: number;
  endRecordOffset: number;
}

export interface BlockSchemes {
  has(scheme: BlockScheme): boolean;
  /** The platform levels that a scheme's signers are meant for; undefined where the block has none of the scheme. */
  rangeOf(scheme: BlockScheme): { min: number; max: number } | undefined;
  /** Levels at which the verdict may change. */
  turns: number[];
  verifyAt(scheme: BlockScheme, level: number): Promise<SchemeVerdict>;
}

/** Signatures and digests are computed once, however many levels are asked about. */
export function openBlock(file: SignedFile, ports: Ports): BlockSchemes {
  const { block } = file;
  const digests = contentDigests(file, ports);
  const read = new Map<BlockScheme, SignersRead>();
  for (const scheme of ['v3.1', 'v3', 'v2'] as const) {
    const value = block.values.get(BLOCK_ID[scheme]);
    if (value) read.set(scheme, readSigners(value, scheme));
  }
  const signersOf = (scheme: BlockScheme) => read.get(scheme)?.signers ?? [];
  const ranges = [...read.values()].flatMap(({ signers }) =>
    signers.flatMap(({ sdkRange }) => sdkRange ?? []),
  );
  const rangeOf = (scheme: BlockScheme) => {
    if (!read.has(scheme)) return undefined;
    const of = signersOf(scheme).flatMap(({ sdkRange }) => sdkRange ?? []);
    // signers that cannot be read are met by every level that knows the scheme
    if (of.length === 0) return { min: 0, max: 0x7fffffff };
    return { min: Math.min(...of.map(({ min }) => min)), max: Math.max(...of.map(({ max }) => max)) };
  };
  const checks = new Map<BlockSigner, Map<string, Promise<SignerVerdict>>>();
  const verify = (signer: BlockSigner, chosen: readonly number[], scheme: BlockScheme) => {
    const kept = checks.get(signer) ?? new Map<string, Promise<SignerVerdict>>();
    checks.set(signer, kept);
    const key = chosen.join(' ');
    const verdict = kept.get(key) ?? verifySigner(signer, chosen, scheme, digests, ports);
    kept.set(key, verdict);
    return verdict;
  };
  return {
    has: (scheme) => read.has(scheme),
    rangeOf,
    turns: ranges.flatMap(({ max, min }) => [min, max + 1]),
    verifyAt: async (scheme, level) => {
      const { problem, signers } = read.get(scheme)!;
      const problems: Problem[] = problem ? [problem] : [];
      const refuse = (code: string, found: string) =>
        problems.push({ code: `signature.${code}`, place: `${scheme} signature`, found });
      if (!problem && signers.length === 0) refuse('no-signer', 'no signer');
      if (scheme === 'v2' && signers.length > MAX_V2_SIGNERS)
        refuse('signers', `${signers.length} signers, where at most ${MAX_V2_SIGNERS} are taken`);
      const views: Signer[] = [];
      const lineages: LineageLevel[][] = [];
      for (const signer of signers) {
        const chosen = chooseSignatures(signer, level);
        if (chosen.length === 0)
          refuse('algorithm', `no algorithm that is known (${idsOf(signer.signatures)})`);
        const { lineage, problems: ofSigner, view } = await verify(signer, chosen, scheme);
        problems.push(...ofSigner);
        views.push(view);
        lineages.push(lineage);
        verifyNothingStripped(signer, scheme, level, rangeOf, refuse);
      }
      if (scheme !== 'v2') verifyRanges(signers, lineages, scheme, level, rangeOf, refuse);
      return { problems, signers: views };
    },
  };
}

interface SignersRead {
  signers: BlockSigner[];
  problem?: Problem;
}

function readSigners(value: Uint8Array, scheme: BlockScheme): SignersRead {
  try {
    return { signers: readBlockSigners(value, scheme) };
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    return { signers: [], problem: error.problem };
  }
}

type Refuse = (code: string, found: string) => void;

const idsOf = (list: readonly { algorithm: number }[]) => list.map(({ algorithm }) => algorithm).join(' ');

/** Of each generation of algorithms that the level knows, the strongest; a v3 signer is asked for its own levels. */
function chooseSignatures({ sdkRange, signatures }: BlockSigner, level: number): number[] {
  const [lowest, highest] = sdkRange ? [sdkRange.min, sdkRange.max] : [level, level];
  const best = new Map<number, number>();
  for (const { algorithm } of signatures) {
    const how = ALGORITHMS.get(algorithm);
    if (!how || how.since > highest) continue;
    const other = best.get(how.since);
    if (other === undefined || STRENGTH[how.content] > STRENGTH[ALGORITHMS.get(other)!.content])
      best.set(how.since, algorithm);
  }
  return Math.min(...best.keys()) > Math.max(lowest, 24) ? [] : [...best.values()].sort((a, b) => a - b);
}

interface SignerVerdict {
  problems: Problem[];
  view: Signer;
  lineage: LineageLevel[];
}

/** @param chosen ids of the signatures that count */
async function verifySigner(
  signer: BlockSigner,
  chosen: readonly number[],
  scheme: BlockScheme,
  digests: ContentDigests,
  ports: Ports,
): Promise<SignerVerdict> {
  const problems: Problem[] = [];
  const refuse = (code: string, found: string) =>
    problems.push({ code: `signature.${code}`, place: `${scheme} signature`, found });
  const view = (der: Uint8Array): Promise<Certificate> => certificateView(parseCertificate(der), ports);
  const verdict: SignerVerdict = { problems, view: { certificates: [] }, lineage: [] };
  try {
    verdict.lineage = readLineage(signer);
    verdict.view = {
      certificates: await Promise.all(signer.certificates.map(view)),
      ...(signer.sdkRange && { minSdk: signer.sdkRange.min, maxSdk: signer.sdkRange.max }),
      ...(verdict.lineage.length > 0 && {
        lineage: await Promise.all(verdict.lineage.map(({ certificate }) => view(certificate))),
      }),
    };
    await verifyLineage(verdict.lineage, signer, ports, refuse);
    await verifyChosen(signer, chosen, digests, ports, refuse);
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    problems.push(error.problem);
  }
  return verdict;
}

async function verifyChosen(
  signer: BlockSigner,
  chosen: readonly number[],
  digests: ContentDigests,
  ports: Ports,
  refuse: Refuse,
): Promise<void> {
  const [certificate] = signer.certificates;
  if (!certificate) return refuse('no-certificate', 'a signer without a certificate');
  const parsed = parseCertificate(certificate);
  if (!sameBytes(parsed.publicKey, signer.publicKey))
    refuse('key', 'a public key that is not that of the certificate');
  if (idsOf(signer.signatures) !== idsOf(signer.digests))
    refuse('algorithms', 'signatures and digests by different algorithms');
  const range = signer.sdkRange;
  if (range && (range.min !== range.signedMin || range.max !== range.signedMax || range.min > range.max))
    refuse('sdk-range', 'SDK levels that are not the signed ones');
  for (const id of chosen) {
    const { digest, padding } = ALGORITHMS.get(id)!;
    const signature = signer.signatures.findLast((one) => one.algorithm === id)!.signature;
    const check = { publicKey: signer.publicKey, padding, digest, data: signer.signedData, signature };
    if (!(await ports.verifySignature(check)))
      refuse('signature', `a signature that ${parsed.view.subject} did not make`);
  }
  const kinds = new Set(chosen.map((id) => ALGORITHMS.get(id)!.content));
  for (const { algorithm, digest } of signer.digests) {
    const kind = ALGORITHMS.get(algorithm)?.content;
    if (!kind || !kinds.has(kind) || sameBytes(digest, await digests(kind))) continue;
    refuse('digest', 'contents that were changed after signing');
    break;
  }
}

/** Each certificate must have signed the next; the last is the signer's own. */
async function verifyLineage(
  levels: readonly LineageLevel[],
  signer: BlockSigner,
  ports: Ports,
  refuse: Refuse,
): Promise<void> {
  for (const [i, level] of levels.entries()) {
    if (levels.slice(0, i).some(({ certificate }) => sameBytes(certificate, level.certificate)))
      refuse('lineage', `a certificate that stands in it twice (level ${i + 1})`);
    const before = levels[i - 1];
    if (!before) continue;
    const how = ALGORITHMS.get(before.nextAlgorithm);
    const holds =
      how !== undefined &&
      before.nextAlgorithm === level.signedAlgorithm &&
      (await ports.verifySignature({
        publicKey: parseCertificate(before.certificate).publicKey,
        padding: how.padding,
        digest: how.digest,
        data: level.signedData,
        signature: level.signature,
      }));
    if (!holds) refuse('lineage', `a certificate that the one before it did not sign (level ${i + 1})`);
  }
  const own = levels.at(-1)?.certificate;
  if (own && !(signer.certificates[0] && sameBytes(own, signer.certificates[0])))
    refuse('lineage', 'a lineage that does not end at the signer');
}

// Attributes by which an older block says that a newer one must be there.
const STRIPPING_PROTECTION = 0xbeeff00d;
const ROTATION_MIN_SDK = 0x559f8b02;
const ANDROID_9 = 28;
const ANDROID_13 = 33;

type RangeOf = BlockSchemes['rangeOf'];

function verifyNothingStripped(
  signer: BlockSigner,
  scheme: BlockScheme,
  level: number,
  rangeOf: RangeOf,
  refuse: Refuse,
): void {
  for (const { id, value } of signer.attributes) {
    const named = u32Of(value);
    if (scheme === 'v2' && id === STRIPPING_PROTECTION && named === 3 && level >= ANDROID_9 && !rangeOf('v3'))
      refuse('stripped', 'no v3 signature, though the signer says that there is one');
    if (scheme !== 'v3' || id !== ROTATION_MIN_SDK || level < ANDROID_13) continue;
    const rotation = rangeOf('v3.1');
    if (!rotation) refuse('stripped', 'no v3.1 signature, though the signer says that there is one');
    else if (rotation.min !== named)
      refuse('rotation', `a v3.1 signature from level ${rotation.min} on, though the signer says ${named}`);
  }
}

const u32Of = (bytes: Uint8Array): number | undefined =>
  bytes.length < 4 ? undefined : new DataView(bytes.buffer, bytes.byteOffset, 4).getUint32(0, true);

const TARGETS_DEVELOPMENT = 0xc2a6b3ba;

/** The signers of v3 share the levels out between them, without a hole, and later ones follow earlier ones. */
function verifyRanges(
  signers: readonly BlockSigner[],
  lineages: readonly LineageLevel[][],
  scheme: BlockScheme,
  level: number,
  rangeOf: RangeOf,
  refuse: Refuse,
): void {
  const range = rangeOf(scheme);
  if (!range || signers.length === 0) return;
  const order = signers.map((signer, i) => ({ signer, range: signer.sdkRange!, lineage: lineages[i]! }));
  order.sort((a, b) => a.range.max - b.range.max);
  for (const [i, { range: own, signer }] of order.entries()) {
    const before = order[i - 1];
    if (!before || own.min === before.range.max + 1) continue;
    const forDevelopment = signer.attributes.some(({ id }) => id === TARGETS_DEVELOPMENT);
    if (own.min !== before.range.max || !forDevelopment)
      refuse('sdk-range', 'signers for levels that overlap or leave some out');
  }
  const longest = order.map(({ lineage }) => lineage).filter(({ length }) => length > 0);
  for (const [i, lineage] of longest.entries()) {
    const next = longest[i + 1];
    const follows = next
      ?.slice(0, lineage.length)
      .every((one, j) => sameBytes(one.certificate, lineage[j]!.certificate));
    if (next && (next.length < lineage.length || !follows))
      refuse('lineage', 'signers whose lineages do not follow from one another');
  }
  const rotation = scheme === 'v3' ? rangeOf('v3.1') : undefined;
  const last = rotation && level >= rotation.min ? rotation.min - 1 : level;
  if (range.min > level || range.max < last)
    refuse('sdk-range', `signers for levels ${range.min} to ${range.max} only`);
}
