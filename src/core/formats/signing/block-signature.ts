/** Verifies APK Signature Scheme v2, v3 and v3.1 (Android Open Source Project, *Application signing*). */
import type { Certificate, SchemeCheck, Signer } from '../../model/app-package.ts';
import { type ByteSource, type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Problem, UnreadableError } from '../../model/problem.ts';
import { certificateView, parseCertificate } from './certificate.ts';
import { type ContentDigestKind, type ContentDigests, contentDigests } from './content-digest.ts';
import {
  BLOCK_ID,
  type BlockScheme,
  type BlockSigner,
  readBlockSigners,
  readLineage,
  type SigningBlock,
} from './signing-block.ts';

interface Algorithm {
  padding: 'pkcs1' | 'pss' | 'none';
  digest: DigestAlgorithm;
  content: ContentDigestKind;
}

// *APK Signature Scheme v2*, signature algorithm ids; the last ones are those of files with a hash tree.
const ALGORITHMS = new Map<number, Algorithm>([
  [0x0101, { padding: 'pss', digest: 'sha256', content: 'chunked-sha256' }],
  [0x0102, { padding: 'pss', digest: 'sha512', content: 'chunked-sha512' }],
  [0x0103, { padding: 'pkcs1', digest: 'sha256', content: 'chunked-sha256' }],
  [0x0104, { padding: 'pkcs1', digest: 'sha512', content: 'chunked-sha512' }],
  [0x0201, { padding: 'none', digest: 'sha256', content: 'chunked-sha256' }],
  [0x0202, { padding: 'none', digest: 'sha512', content: 'chunked-sha512' }],
  [0x0301, { padding: 'none', digest: 'sha256', content: 'chunked-sha256' }],
  [0x0421, { padding: 'pkcs1', digest: 'sha256', content: 'hash-tree' }],
  [0x0423, { padding: 'none', digest: 'sha256', content: 'hash-tree' }],
  [0x0425, { padding: 'none', digest: 'sha256', content: 'hash-tree' }],
]);

export interface SignedFile {
  source: ByteSource;
  block: SigningBlock;
  centralDirectoryOffset: number;
  endRecordOffset: number;
}

/** The schemes of the block, strongest first. */
export async function verifyBlock(file: SignedFile, ports: Ports): Promise<SchemeCheck[]> {
  const digests = contentDigests(file, ports);
  const schemes = (['v3.1', 'v3', 'v2'] as const).filter((scheme) => file.block.values.has(BLOCK_ID[scheme]));
  return Promise.all(schemes.map((scheme) => verifyScheme(scheme, file.block, digests, ports)));
}

async function verifyScheme(
  scheme: BlockScheme,
  block: SigningBlock,
  digests: ContentDigests,
  ports: Ports,
): Promise<SchemeCheck> {
  const problems: Problem[] = [];
  const signers: Signer[] = [];
  const refuse = (code: string, found: string) =>
    problems.push({ code: `signature.${code}`, place: `${scheme} signature`, found });
  try {
    const read = readBlockSigners(block.values.get(BLOCK_ID[scheme])!, scheme);
    if (read.length === 0) refuse('no-signer', 'no signer');
    for (const signer of read) {
      signers.push(await viewOf(signer, ports, refuse));
      await verifySigner(signer, digests, ports, refuse);
      verifyNothingStripped(signer, block, refuse);
    }
  } catch (error) {
    if (!(error instanceof UnreadableError)) throw error;
    problems.push(error.problem);
  }
  return { scheme, outcome: problems.length > 0 ? 'broken' : 'verified', problems, signers };
}

type Refuse = (code: string, found: string) => void;

async function viewOf(signer: BlockSigner, ports: Ports, refuse: Refuse): Promise<Signer> {
  const view = (der: Uint8Array): Promise<Certificate> => certificateView(parseCertificate(der), ports);
  const lineage = await verifyLineage(signer, ports, refuse);
  return {
    certificates: await Promise.all(signer.certificates.map(view)),
    ...(signer.sdkRange && { minSdk: signer.sdkRange.min, maxSdk: signer.sdkRange.max }),
    ...(lineage.length > 0 && { lineage: await Promise.all(lineage.map(view)) }),
  };
}

async function verifySigner(
  signer: BlockSigner,
  digests: ContentDigests,
  ports: Ports,
  refuse: Refuse,
): Promise<void> {
  const [certificate] = signer.certificates;
  if (!certificate) return refuse('no-certificate', 'a signer without a certificate');
  const parsed = parseCertificate(certificate);
  if (!sameBytes(parsed.publicKey, signer.publicKey))
    refuse('key', 'a public key that is not that of the certificate');
  const ids = (list: readonly { algorithm: number }[]) => list.map(({ algorithm }) => algorithm).join(' ');
  if (ids(signer.signatures) !== ids(signer.digests))
    refuse('algorithms', 'signatures and digests by different algorithms');
  const range = signer.sdkRange;
  if (range && (range.min !== range.signedMin || range.max !== range.signedMax))
    refuse('sdk-range', 'SDK levels that are not the signed ones');
  let known = 0;
  for (const { algorithm, signature } of signer.signatures) {
    const how = ALGORITHMS.get(algorithm);
    if (!how) continue;
    known += 1;
    const { padding, digest, content } = how;
    const check = { publicKey: signer.publicKey, padding, digest, data: signer.signedData, signature };
    if (!(await ports.verifySignature(check)))
      refuse('signature', `a signature that ${parsed.view.subject} did not make`);
    const signed = signer.digests.find((of) => of.algorithm === algorithm)?.digest;
    if (signed && !sameBytes(signed, await digests(content)))
      refuse('digest', 'contents that were changed after signing');
  }
  if (known === 0) refuse('algorithm', `no algorithm that is known (${ids(signer.signatures)})`);
}

/** Each certificate must have signed the next; the last is the signer's own. */
async function verifyLineage(signer: BlockSigner, ports: Ports, refuse: Refuse): Promise<Uint8Array[]> {
  const levels = readLineage(signer);
  for (const [i, level] of levels.entries()) {
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
  return levels.map(({ certificate }) => certificate);
}

// Attributes by which an older block says that a newer one must be there.
const STRIPPING_PROTECTION = 0xbeeff00d;
const ROTATION_MIN_SDK = 0x559f8b02;

function verifyNothingStripped(signer: BlockSigner, block: SigningBlock, refuse: Refuse): void {
  for (const { id, value } of signer.attributes) {
    if (id === STRIPPING_PROTECTION && value[0] === 3 && !block.values.has(BLOCK_ID.v3))
      refuse('stripped', 'no v3 signature, though the signer says that there is one');
    if (id === ROTATION_MIN_SDK && !block.values.has(BLOCK_ID['v3.1']))
      refuse('stripped', 'no v3.1 signature, though the signer says that there is one');
  }
}
