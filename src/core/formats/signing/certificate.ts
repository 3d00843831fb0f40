/** X.509 certificates (RFC 5280, section 4.1): what people and signature checks need of them. */
import type { Certificate } from '../../model/app-package.ts';
import { type Ports, sha256Hex } from '../../model/ports.ts';
import {
  type Asn1,
  contentOf,
  membersOf,
  oidOf,
  parseAsn1,
  tagged,
  textOf,
  timeOf,
  unreadable,
} from './asn1.ts';

export interface ParsedCertificate {
  der: Uint8Array;
  /** Subject public key info, DER. */
  publicKey: Uint8Array;
  /** Issuer name and serial number, by which signatures name their signer. */
  issuer: Uint8Array;
  /** Its own name, as those that it vouches for bear it. */
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
    publicKey: key.bytes,
    issuer: issuer.bytes,
    subject: subject.bytes,
    serial: contentOf(serial),
    view: {
      subject: sayName(subject),
      issuer: sayName(issuer),
      validFrom: timeOf(from),
      validUntil: timeOf(until),
      key: sayKey(key),
    },
  };
}

export const certificateView = async (
  { der, view }: ParsedCertificate,
  ports: Ports,
): Promise<Certificate> => ({ sha256: await sha256Hex(ports, der), ...view });

// Attributes of names that certificates of app signers bear (RFC 4519, section 2).
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
const sayName = (name: Asn1): string =>
  membersOf(name)
    .flatMap((set) => membersOf(set))
    .map((part) => {
      const [type, value] = membersOf(part);
      const oid = oidOf(type);
      return `${NAME_PARTS.get(oid) ?? oid}=${textOf(value)}`;
    })
    .reverse()
    .join(', ');

const CURVES = new Map([
  ['1.2.840.10045.3.1.7', 'P-256'],
  ['1.3.132.0.34', 'P-384'],
  ['1.3.132.0.35', 'P-521'],
]);

function sayKey(spki: Asn1): string {
  const [algorithm, bits] = membersOf(spki);
  const [type, parameters] = membersOf(algorithm);
  switch (oidOf(type)) {
    case '1.2.840.113549.1.1.1': {
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
