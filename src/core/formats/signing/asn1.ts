/**
 * ASN.1 values as signatures carry them (ITU-T X.690: DER, and BER's indefinite lengths, which some signers write).
 *
 *     tag: class(2) constructed(1) number(5)  ·  length: one byte, or 0x80 + n and n bytes, or 0x80 and an end mark  ·  contents
 *
 * Values are read as deep as they are asked for. Written by hand for its start-up time: a library takes longer to load
 * than a package's signatures take to verify.
 */
import { UnreadableError } from '../../model/problem.ts';

export interface Asn1 {
  /** 0 universal, 1 application, 2 context-specific, 3 private. */
  tagClass: number;
  tagNumber: number;
  constructed: boolean;
  /** The whole value with its tag and length, as it stands. */
  bytes: Uint8Array;
  content: Uint8Array;
}

const MAX_DEPTH = 64;
const MAX_MEMBERS = 100_000;

/** @throws UnreadableError where the bytes do not begin with a value that they hold whole */
export const parseAsn1 = (bytes: Uint8Array, what: string): Asn1 => readValue(bytes, 0, what, 0);

function readValue(bytes: Uint8Array, at: number, what: string, depth: number): Asn1 {
  const cutOff = () => unreadable(what, `an ASN.1 value that is cut off at byte ${at}`);
  if (depth > MAX_DEPTH) throw unreadable(what, `values nested ${depth} deep`);
  const [tag, short] = [bytes[at], bytes[at + 1]];
  if (tag === undefined || short === undefined) throw cutOff();
  if ((tag & 0x1f) === 0x1f) throw unreadable(what, `a tag of several bytes at byte ${at}`);
  const head = { tagClass: tag >> 6, tagNumber: tag & 0x1f, constructed: (tag & 0x20) !== 0 };
  if (short === 0x80) {
    const from = at + 2;
    const end = findEnd(bytes, from, what, depth);
    return { ...head, bytes: bytes.subarray(at, end + 2), content: bytes.subarray(from, end) };
  }
  const lengthBytes = short & 0x80 ? short & 0x7f : 0;
  let length = lengthBytes === 0 ? short : 0;
  for (let i = 0; i < lengthBytes; i++) length = length * 256 + (bytes[at + 2 + i] ?? Number.NaN);
  const from = at + 2 + lengthBytes;
  if (!(from + length <= bytes.length)) throw cutOff();
  return { ...head, bytes: bytes.subarray(at, from + length), content: bytes.subarray(from, from + length) };
}

/** Of a value of indefinite length: its members go on to two zero bytes. */
function findEnd(bytes: Uint8Array, from: number, what: string, depth: number): number {
  for (let at = from; ; ) {
    if (bytes[at] === 0 && bytes[at + 1] === 0) return at;
    at += readValue(bytes, at, what, depth + 1).bytes.length;
  }
}

/** Members of a sequence or set; empty for a primitive value. */
export function membersOf(value: Asn1 | undefined): Asn1[] {
  const members: Asn1[] = [];
  if (!value?.constructed) return members;
  for (let at = 0; at < value.content.length; at += members.at(-1)!.bytes.length) {
    if (members.length >= MAX_MEMBERS) throw unreadable('a signature', `more than ${MAX_MEMBERS} values`);
    members.push(readValue(value.content, at, 'a signature', 0));
  }
  return members;
}

/** The value of `[tag]`, a context-specific member, where there is one. */
export const tagged = (members: readonly Asn1[], tag: number): Asn1 | undefined =>
  members.find(({ tagClass, tagNumber }) => tagClass === 2 && tagNumber === tag);

const OBJECT_IDENTIFIER = 6;

/** `1.2.840.113549`, or empty where the value is no object identifier. */
export function oidOf(value: Asn1 | undefined): string {
  if (value?.tagNumber !== OBJECT_IDENTIFIER || value.tagClass !== 0) return '';
  const arcs: number[] = [];
  let arc = 0;
  for (const byte of value.content) {
    arc = arc * 128 + (byte & 0x7f);
    if (byte & 0x80) continue;
    arcs.push(arc);
    arc = 0;
  }
  const [first = 0, ...rest] = arcs;
  const root = Math.min(2, Math.floor(first / 40));
  return [root, first - 40 * root, ...rest].join('.');
}

/** The contents of a primitive value, or of an octet string in parts. */
export const contentOf = (value: Asn1 | undefined): Uint8Array =>
  value?.constructed ? joinBytes(membersOf(value).map(contentOf)) : (value?.content ?? new Uint8Array());

const BMP_STRING = 30;
const T61_STRING = 20;

export function textOf(value: Asn1 | undefined): string {
  const encoding =
    value?.tagNumber === BMP_STRING ? 'utf-16be' : value?.tagNumber === T61_STRING ? 'latin1' : 'utf-8';
  return new TextDecoder(encoding).decode(contentOf(value));
}

const UTC_TIME = 23;

/** UTCTime (years 1950 to 2049) or GeneralizedTime, as ISO 8601; empty where it is neither. */
export function timeOf(value: Asn1 | undefined): string {
  const text = textOf(value);
  const full = value?.tagNumber === UTC_TIME ? (text < '50' ? '20' : '19') + text : text;
  const parts = /^(\d{4})(\d\d)(\d\d)(\d\d)(\d\d)(\d\d)?Z$/.exec(full)?.slice(1) ?? [];
  const [year, month, day, hour, minute, second = 0] = parts.map(Number);
  const date = new Date(Date.UTC(year!, month! - 1, day, hour, minute, second));
  return Number.isNaN(date.getTime()) ? '' : date.toISOString();
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

/** A value of a tag and what it holds, in DER. */
export function writeAsn1(tag: number, ...content: Uint8Array[]): Uint8Array {
  const body = joinBytes(content);
  const length: number[] = [];
  for (let rest = body.length; rest > 0; rest = Math.floor(rest / 256)) length.unshift(rest % 256);
  const head = body.length < 0x80 ? [body.length] : [0x80 | length.length, ...length];
  return joinBytes([Uint8Array.from([tag, ...head]), body]);
}

export const unreadable = (what: string, found: string): UnreadableError =>
  new UnreadableError({
    code: 'signature.damaged',
    place: what,
    found,
    remedy: 'The signature is damaged: sign the package again.',
  });
