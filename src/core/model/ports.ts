/** 8-bit sRGB with straight alpha, row by row: 4 × widthPx × heightPx bytes. */
export interface Pixels {
  widthPx: number;
  heightPx: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** Random access to bytes that are not read whole: a file, a blob, an array. */
export interface ByteSource {
  readonly sizeBytes: number;
  /** Fewer bytes only where the source ends. */
  read(offset: number, length: number): Promise<Uint8Array>;
  /** Fills an array that the caller keeps, so that long runs of reading need no new memory. */
  readInto(offset: number, into: Uint8Array): Promise<void>;
  /** Digests of parts of the source, where the place has a way to make them beside everything else. */
  digestParts?(algorithm: DigestAlgorithm, parts: readonly SourcePart[]): Promise<Uint8Array[]>;
}

export interface SourcePart {
  offset: number;
  length: number;
  /** Hashed before the part itself. */
  before: Uint8Array;
}

export type DigestAlgorithm = 'md5' | 'sha1' | 'sha224' | 'sha256' | 'sha384' | 'sha512';

export interface SignatureCheck {
  /** Subject public key info, DER. */
  publicKey: Uint8Array;
  /** Of RSA, whether by PKCS #1 v1.5 or by PSS with a salt as long as the digest; else by the key's own algorithm. */
  padding: 'pkcs1' | 'pss' | 'none';
  digest: DigestAlgorithm;
  data: Uint8Array;
  signature: Uint8Array;
}

/**
 * What the core asks of the place that it runs in.
 *
 * `inflateRaw` undoes DEFLATE (RFC 1951) and must stop at `maxBytes`.
 * `crc32` is that of zip and PNG. `verifySignature` answers no for keys and signatures that cannot be read.
 */
export interface Ports {
  inflateRaw(bytes: Uint8Array, maxBytes: number): Promise<Uint8Array>;
  crc32(bytes: Uint8Array): number;
  digest(algorithm: DigestAlgorithm, bytes: Uint8Array): Promise<Uint8Array>;
  verifySignature(check: SignatureCheck): Promise<boolean>;
}

const toHexDigits = (bytes: Uint8Array): string => {
  let text = '';
  for (const byte of bytes) text += byte.toString(16).padStart(2, '0');
  return text;
};

/** Lower-case hex. */
export const sha256Hex = async (ports: Ports, bytes: Uint8Array): Promise<string> =>
  toHexDigits(await ports.digest('sha256', bytes));

export const bytesSource = (bytes: Uint8Array): ByteSource => ({
  sizeBytes: bytes.length,
  read: async (offset, length) => bytes.subarray(offset, offset + length),
  readInto: async (offset, into) => into.set(bytes.subarray(offset, offset + into.length)),
});

export const sameBytes = (a: Uint8Array, b: Uint8Array): boolean =>
  a.length === b.length && a.every((byte, i) => byte === b[i]);
