/**
 * The APK signing block (Android Open Source Project, *APK Signature Scheme v2*, v3 and v3.1), before the central directory.
 *
 *     u64 size · (u64 length · u32 id · value) × n · u64 size · "APK Sig Block 42"
 *
 *     v2 signer: signed data · signatures · public key
 *     v3 signer: signed data · u32 min SDK · u32 max SDK · signatures · public key
 *     signed data: digests · certificates · [v3: u32 min SDK · u32 max SDK] · attributes
 *
 * All but the fixed numbers have their length, u32, before them.
 */
import type { ByteSource } from '../../model/ports.ts';
import { UnreadableError } from '../../model/problem.ts';
import { ByteReader } from '../byte-reader.ts';

export const BLOCK_ID = { v2: 0x7109871a, v3: 0xf05368c0, 'v3.1': 0x1b93ad61 } as const;
export type BlockScheme = keyof typeof BLOCK_ID;

const MAGIC = 'APK Sig Block 42';
const MAX_BLOCK_BYTES = 16 * 2 ** 20;

export interface SigningBlock {
  offset: number;
  sizeBytes: number;
  values: ReadonlyMap<number, Uint8Array>;
}

interface DirectoryPlace {
  centralDirectoryOffset: number;
  centralDirectoryEnd: number;
  endRecordOffset: number;
}

export interface BlockSigner {
  signedData: Uint8Array;
  digests: { algorithm: number; digest: Uint8Array }[];
  certificates: Uint8Array[];
  attributes: { id: number; value: Uint8Array }[];
  /** As signed, and as written outside; both must agree. Only from v3 on. */
  sdkRange?: { min: number; max: number; signedMin: number; signedMax: number };
  signatures: { algorithm: number; signature: Uint8Array }[];
  publicKey: Uint8Array;
}

/**
 * @returns undefined where no such block lies before the central directory, or something lies between that and the end
 *   record: the platform does not look for a block then
 */
export async function readSigningBlock(
  source: ByteSource,
  { centralDirectoryEnd, centralDirectoryOffset, endRecordOffset }: DirectoryPlace,
): Promise<SigningBlock | undefined> {
  if (centralDirectoryOffset < 32 || centralDirectoryEnd !== endRecordOffset) return undefined;
  const footer = await source.read(centralDirectoryOffset - 24, 24);
  if (footer.length < 24 || new TextDecoder().decode(footer.subarray(8)) !== MAGIC) return undefined;
  const sizeBytes = new ByteReader(footer, 'signing block').u64(0) + 8;
  const offset = centralDirectoryOffset - sizeBytes;
  if (sizeBytes < 32 || sizeBytes > MAX_BLOCK_BYTES || offset < 0)
    throw damaged(`a block of ${sizeBytes} bytes`);
  const reader = new ByteReader(await source.read(offset, sizeBytes), 'signing block');
  if (reader.u64(0) + 8 !== sizeBytes) throw damaged('two sizes that differ');
  const values = new Map<number, Uint8Array>();
  for (let at = 8; at < sizeBytes - 24; ) {
    const length = reader.u64(at);
    if (length < 4) throw damaged(`a pair of ${length} bytes`);
    values.set(reader.u32(at + 8), reader.slice(at + 12, length - 4));
    at += 8 + length;
  }
  return { offset, sizeBytes, values };
}

export const readBlockSigners = (value: Uint8Array, scheme: BlockScheme): BlockSigner[] =>
  [...prefixed(new Fields(value, `${scheme} block`).bytes())].map((signer) => readSigner(signer, scheme));

function readSigner(bytes: Uint8Array, scheme: BlockScheme): BlockSigner {
  const what = `${scheme} signer`;
  const fields = new Fields(bytes, what);
  const signedData = fields.bytes();
  const outside = scheme === 'v2' ? undefined : { min: fields.u32(), max: fields.u32() };
  const signatures = [...prefixed(fields.bytes())].map((entry) => {
    const signature = new Fields(entry, what);
    return { algorithm: signature.u32(), signature: signature.bytes() };
  });
  const publicKey = fields.bytes();
  const signed = new Fields(signedData, what);
  const digests = [...prefixed(signed.bytes())].map((entry) => {
    const digest = new Fields(entry, what);
    return { algorithm: digest.u32(), digest: digest.bytes() };
  });
  const certificates = [...prefixed(signed.bytes())];
  const sdkRange = outside && { ...outside, signedMin: signed.u32(), signedMax: signed.u32() };
  const attributes = [...prefixed(signed.bytes())].map((entry) => {
    const attribute = new Fields(entry, what);
    return { id: attribute.u32(), value: attribute.rest() };
  });
  return { signedData, digests, certificates, attributes, sdkRange, signatures, publicKey };
}

const PROOF_OF_ROTATION = 0x3ba06f8c;

export interface LineageLevel {
  signedData: Uint8Array;
  certificate: Uint8Array;
  /** By which the certificate before this one signed it, as signed. */
  signedAlgorithm: number;
  /** By which this one signed the next. */
  nextAlgorithm: number;
  signature: Uint8Array;
}

/** The certificates that an app was signed with before, oldest first; the last is the signer's own. */
export function readLineage({ attributes }: BlockSigner): LineageLevel[] {
  const proof = attributes.find(({ id }) => id === PROOF_OF_ROTATION);
  if (!proof) return [];
  const fields = new Fields(proof.value, 'proof of rotation');
  fields.u32();
  return [...prefixed(fields.rest())].map((entry) => {
    const level = new Fields(entry, 'proof of rotation');
    const signedData = level.bytes();
    level.u32();
    const nextAlgorithm = level.u32();
    const signature = level.bytes();
    const signed = new Fields(signedData, 'proof of rotation');
    return {
      signedData,
      certificate: signed.bytes(),
      signedAlgorithm: signed.u32(),
      nextAlgorithm,
      signature,
    };
  });
}

/** Reads fields one after the other. */
class Fields {
  private readonly reader: ByteReader;
  private at = 0;

  constructor(bytes: Uint8Array, what: string) {
    this.reader = new ByteReader(bytes, what);
  }
  u32(): number {
    this.at += 4;
    return this.reader.u32(this.at - 4);
  }
  bytes(): Uint8Array {
    const length = this.u32();
    this.at += length;
    return this.reader.slice(this.at - length, length);
  }
  rest(): Uint8Array {
    return this.reader.bytes.subarray(this.at);
  }
  get left(): number {
    return this.reader.bytes.length - this.at;
  }
}

function* prefixed(bytes: Uint8Array): Generator<Uint8Array> {
  const fields = new Fields(bytes, 'signing block');
  while (fields.left > 0) yield fields.bytes();
}

const damaged = (found: string) =>
  new UnreadableError({
    code: 'signature.block',
    place: 'signing block',
    found,
    expected: 'an APK signing block as the scheme describes it',
    remedy: 'The signature is damaged: sign the package again.',
  });
