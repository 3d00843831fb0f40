/** X.509 certificates (RFC 5280, section 4.1): what people and signature checks need of them. */
import type { Certificate } from '../../model/app-package.ts';
import { type Ports, sameBytes, sha256Hex } from '../../model/ports.ts';
import {
  type Asn1,
  contentOf,
  joinBytes,
  membersOf,
  oidOf,
  parseAsn1,
  tagged,
  textOf,
  timeOf,
  unreadable,
  writeAsn1,
} from './asn1.ts';

export interface ParsedCertificate {
  der: Uint8Array;
  /** Subject public key info, DER; a modulus that was written as a negative number stands here as the positive one. */
  publicKey: Uint8Array;
  /** Issuer name and serial number, by which signatures name their signer. */
  issuer: Uint8Array;
  /** Its own name, as those that it vouches for have it. */
  subject: Uint8Array;
  serial: Uint8Array;
  view: Omit<Certificate, 'sha256'>;
}

export function parseCertificate(der: Uint8Array, what = 'a certificate'): ParsedCertificate {
  const [toBeSigned] = membersOf(parseAsn1(der, what));
  const members = membersOf(toBeSigned);
  // the version is optional and tagged; all others follow by position
  const at = tagged(members.slice(0, 1), 0) ? 1 : 0;
  const [serial, , issuer, validity, subject, key] = members.slice(at);
  if (!serial || !issuer || !validity || !subject || !key)
    throw unreadable(what, 'something that is not an X.509 certificate');
  const [from, until] = membersOf(validity);
  return {
    der,
    publicKey: positiveModulus(key),
    issuer: issuer.bytes,
    subject: subject.bytes,
    serial: contentOf(serial),
    view: {
      subject: formatName(subject),
      issuer: formatName(issuer),
      validFrom: timeOf(from),
      validUntil: timeOf(until),
      key: formatKey(key),
    },
  };
}

export const certificateView = async (
  { der, view }: ParsedCertificate,
  ports: Ports,
): Promise<Certificate> => ({ sha256: await sha256Hex(ports, der), ...view });

// Attributes of names that certificates of app signers have (RFC 4519, section 2).
const NAME_PARTS = new Map([
  ['2.5.4.3', 'CN'],
  ['2.5.4.6', 'C'],
  ['2.5.4.7', 'L'],
  ['2.5.4.8', 'ST'],
  ['2.5.4.10', 'O'],
  ['2.5.4.11', 'OU'],
  ['0.9.2342.19200300.100.1.1', 'UID'],
  ['1.2.840.113549.1.9.1', 'emailAddress'],
]);

/** As RFC 4514 writes names: the last part first. */
const formatName = (name: Asn1): string =>
  membersOf(name)
    .flatMap((set) => membersOf(set))
    .map((part) => {
      const [type, value] = membersOf(part);
      const oid = oidOf(type);
      return `${NAME_PARTS.get(oid) ?? oid}=${textOf(value)}`;
    })
    .reverse()
    .join(', ');

const RSA = '1.2.840.113549.1.1.1';

/**
 * Some signers wrote the modulus without the zero byte that keeps it positive (X.690, 8.3). The platform takes such
 * keys as what was meant, libraries for cryptography do not.
 */
function positiveModulus(spki: Asn1): Uint8Array {
  const [algorithm, bits] = membersOf(spki);
  if (oidOf(membersOf(algorithm)[0]) !== RSA) return spki.bytes;
  const [modulus, exponent] = membersOf(parseAsn1(contentOf(bits).subarray(1), 'an RSA key'));
  if (!modulus || !exponent || !(contentOf(modulus)[0]! & 0x80)) return spki.bytes;
  const positive = joinBytes([new Uint8Array(1), contentOf(modulus)]);
  const key = writeAsn1(0x30, writeAsn1(0x02, positive), exponent.bytes);
  return writeAsn1(0x30, algorithm!.bytes, writeAsn1(0x03, new Uint8Array(1), key));
}

const CURVES = new Map([
  ['1.2.840.10045.3.1.7', 'P-256'],
  ['1.3.132.0.34', 'P-384'],
  ['1.3.132.0.35', 'P-521'],
]);

function formatKey(spki: Asn1): string {
  const [algorithm, bits] = membersOf(spki);
  const [type, parameters] = membersOf(algorithm);
  switch (oidOf(type)) {
    case RSA: {
      // the first byte of a bit string counts its unused bits
      const key = parseAsn1(contentOf(bits).subarray(1), 'an RSA key');
      const modulus = contentOf(membersOf(key)[0]);
      return `RSA ${(modulus[0] === 0 ? modulus.length - 1 : modulus.length) * 8}`;
    }
    case '1.2.840.10045.2.1':
      return `EC ${CURVES.get(oidOf(parameters)) ?? oidOf(parameters)}`;
    case '1.2.840.10040.4.1':
      return 'DSA';
    default:
      return oidOf(type);
  }
}

/** By their object identifiers, what each extension holds (RFC 5280, section 4.2). */
export function extensionsOf({ der }: ParsedCertificate): Map<string, { critical: boolean; value: Asn1 }> {
  const [toBeSigned] = membersOf(parseAsn1(der, 'a certificate'));
  const extensions = membersOf(membersOf(tagged(membersOf(toBeSigned), 3))[0]).map((one) => membersOf(one));
  return new Map(
    extensions.map((members) => [
      oidOf(members[0]),
      { critical: members.length > 2 && isTrue(members[1]), value: members.at(-1)! },
    ]),
  );
}

const BOOLEAN = 1;

export const isTrue = (value: Asn1 | undefined): boolean =>
  value?.tagClass === 0 && value.tagNumber === BOOLEAN && value.content[0] !== 0 && value.content.length > 0;

/**
 * Whether two names are the same (RFC 5280, section 7.1): part by part, by what they say and not by the kind of string
 * that says it; capitals and runs of blanks make no difference.
 */
export function sameName(a: Uint8Array, b: Uint8Array): boolean {
  if (sameBytes(a, b)) return true;
  const [one, other] = [a, b].map((name) => membersOf(parseAsn1(name, 'a name')).map(partsOf));
  return one!.length === other!.length && one!.every((parts, i) => parts === other![i]);
}

const partsOf = (set: Asn1): string =>
  membersOf(set)
    .map((part) => {
      const [type, value] = membersOf(part);
      return `${oidOf(type)}=${textOf(value).normalize('NFKC').trim().replace(/\s+/g, ' ').toLowerCase()}`;
    })
    .sort()
    .join('\n');

/** Whole numbers are the same with or without what pads them. */
export const sameInteger = (a: Uint8Array, b: Uint8Array): boolean => sameBytes(unpadded(a), unpadded(b));

function unpadded(bytes: Uint8Array): Uint8Array {
  let at = 0;
  const pads = (byte: number, next: number) => (byte === 0 && next < 0x80) || (byte === 0xff && next >= 0x80);
  while (at + 1 < bytes.length && pads(bytes[at]!, bytes[at + 1]!)) at += 1;
  return bytes.subarray(at);
}
