/** 8-bit sRGB with straight alpha, row by row: 4 × widthPx × heightPx bytes. */
export interface Pixels {
  widthPx: number;
  heightPx: number;
  data: Uint8Array | Uint8ClampedArray;
}

/** Random access to bytes that are not read whole: a file, a blob, an array. */
export interface ByteSource {
  readonly sizeBytes: number;
  read(offset: number, length: number): Promise<Uint8Array>;
}

/**
 * What the core asks of the place that it runs in.
 *
 * `inflateRaw` undoes DEFLATE (RFC 1951) and must stop at `maxBytes`.
 * `sha256` gives lower-case hex.
 */
export interface Ports {
  inflateRaw(bytes: Uint8Array, maxBytes: number): Promise<Uint8Array>;
  sha256(bytes: Uint8Array): Promise<string>;
}

export const bytesSource = (bytes: Uint8Array): ByteSource => ({
  sizeBytes: bytes.length,
  read: async (offset, length) => bytes.subarray(offset, offset + length),
});
