/** A thin layer over the ASN.1 reader: values by position, and damage as an `UnreadableError`. */
import { type AsnType, fromBER, ObjectIdentifier } from 'asn1js';
import { UnreadableError } from '../../model/problem.ts';

export type Asn1 = AsnType;

/** @throws UnreadableError where the bytes are no DER or BER value, or nest too deep */
export function parseAsn1(bytes: Uint8Array, what: string): Asn1 {
  try {
    const { offset, result } = fromBER(bytes, { maxNodes: 100_000 });
    if (offset >= 0 && !result.error) return result;
    throw unreadable(what, `bytes that are no ASN.1 value (${result.error || 'cut off'})`);
  } catch (cause) {
    // the library throws plain errors at times and names that are none
    throw cause instanceof UnreadableError
      ? cause
      : unreadable(what, 'an ASN.1 value that cannot be decoded');
  }
}

/** Members of a sequence or set; empty for a primitive value. */
export function membersOf(value: Asn1 | undefined): Asn1[] {
  const block = value?.valueBlock as { value?: unknown } | undefined;
  return Array.isArray(block?.value) ? (block.value as Asn1[]) : [];
}

/** The value of `[tag]`, a context-specific member, where there is one. */
export const tagged = (members: readonly Asn1[], tag: number): Asn1 | undefined =>
  members.find(({ idBlock }) => idBlock.tagClass === 3 && idBlock.tagNumber === tag);

export const oidOf = (value: Asn1 | undefined): string =>
  value instanceof ObjectIdentifier ? value.getValue() : '';

/** The whole value with its tag and length, as it stood. */
export const encodingOf = (value: Asn1): Uint8Array => new Uint8Array(value.valueBeforeDecodeView);

/** The contents of a primitive value, or of an octet string in parts. */
export function contentOf(value: Asn1 | undefined): Uint8Array {
  if (!value) return new Uint8Array();
  if (value.idBlock.isConstructed) return joinBytes(membersOf(value).map(contentOf));
  const { lenBlock, valueBeforeDecodeView: view } = value;
  return new Uint8Array(view.subarray(view.length - lenBlock.length));
}

export function joinBytes(pieces: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length, 0));
  let at = 0;
  for (const piece of pieces) {
    whole.set(piece, at);
    at += piece.length;
  }
  return whole;
}

export const unreadable = (what: string, found: string): UnreadableError =>
  new UnreadableError({
    code: 'signature.damaged',
    place: what,
    found,
    remedy: 'The signature is damaged: sign the package again.',
  });
