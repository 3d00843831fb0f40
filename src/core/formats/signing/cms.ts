/** Signed data of the Cryptographic Message Syntax (RFC 5652, section 5), as app packages and profiles carry it. */
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Asn1, contentOf, membersOf, oidOf, parseAsn1, tagged, unreadable } from './asn1.ts';
import {
  extensionsOf,
  type ParsedCertificate,
  parseCertificate,
  sameInteger,
  sameName,
} from './certificate.ts';

const SIGNED_DATA = '1.2.840.113549.1.7.2';
const CONTENT_TYPE = '1.2.840.113549.1.9.3';
const MESSAGE_DIGEST = '1.2.840.113549.1.9.4';
const SUBJECT_KEY_ID = '2.5.29.14';

// RFC 5754, section 2, and RFC 3370, section 2.
const DIGESTS = new Map<string, DigestAlgorithm>([
  ['1.2.840.113549.2.5', 'md5'],
  ['1.3.14.3.2.26', 'sha1'],
  ['2.16.840.1.101.3.4.2.4', 'sha224'],
  ['2.16.840.1.101.3.4.2.1', 'sha256'],
  ['2.16.840.1.101.3.4.2.2', 'sha384'],
  ['2.16.840.1.101.3.4.2.3', 'sha512'],
]);

export type KeyKind = 'RSA' | 'DSA' | 'EC';

export interface SignatureAlgorithm {
  key: KeyKind;
  padding: 'pkcs1' | 'pss' | 'none';
  /** Where the algorithm names one; else it is the signer's own. */
  digest?: DigestAlgorithm;
}

const named = (key: KeyKind, digest?: DigestAlgorithm): SignatureAlgorithm => ({
  key,
  padding: key === 'RSA' ? 'pkcs1' : 'none',
  ...(digest && { digest }),
});

// RFC 3279, RFC 4055, RFC 5754 and RFC 5758, sections on signature algorithms.
const SIGNATURES = new Map<string, SignatureAlgorithm>([
  ['1.2.840.113549.1.1.1', named('RSA')],
  ['1.2.840.113549.1.1.4', named('RSA', 'md5')],
  ['1.2.840.113549.1.1.5', named('RSA', 'sha1')],
  ['1.2.840.113549.1.1.14', named('RSA', 'sha224')],
  ['1.2.840.113549.1.1.11', named('RSA', 'sha256')],
  ['1.2.840.113549.1.1.12', named('RSA', 'sha384')],
  ['1.2.840.113549.1.1.13', named('RSA', 'sha512')],
  ['1.2.840.113549.1.1.10', { key: 'RSA', padding: 'pss' }],
  ['1.2.840.10040.4.1', named('DSA')],
  ['1.2.840.10040.4.3', named('DSA', 'sha1')],
  ['2.16.840.1.101.3.4.3.1', named('DSA', 'sha224')],
  ['2.16.840.1.101.3.4.3.2', named('DSA', 'sha256')],
  ['2.16.840.1.101.3.4.3.3', named('DSA', 'sha384')],
  ['2.16.840.1.101.3.4.3.4', named('DSA', 'sha512')],
  ['1.2.840.10045.2.1', named('EC')],
  ['1.2.840.10045.4.1', named('EC', 'sha1')],
  ['1.2.840.10045.4.3.1', named('EC', 'sha224')],
  ['1.2.840.10045.4.3.2', named('EC', 'sha256')],
  ['1.2.840.10045.4.3.3', named('EC', 'sha384')],
  ['1.2.840.10045.4.3.4', named('EC', 'sha512')],
]);

export interface SignedData {
  /** What kind of content is signed: an object identifier. */
  contentType: string;
  /** What is signed, where it is carried along. */
  content?: Uint8Array;
  certificates: ParsedCertificate[];
  signers: SignerInfo[];
}

export interface SignerInfo {
  certificate?: ParsedCertificate;
  /** Names its certificate by a key id, and not by issuer and serial number. */
  byKeyId: boolean;
  digest?: DigestAlgorithm;
  algorithm?: SignatureAlgorithm;
  attributes?: SignedAttributes;
  signature: Uint8Array;
}

interface SignedAttributes {
  /** As they were signed: a set, not `[0]`. */
  bytes: Uint8Array;
  /** By object identifier; of an attribute that stands there twice, the values of both. */
  values: ReadonlyMap<string, Asn1[]>;
  repeated: boolean;
}

export function parseSignedData(bytes: Uint8Array, what: string): SignedData {
  const [type, wrapped] = membersOf(parseAsn1(bytes, what));
  const members = membersOf(membersOf(wrapped)[0]);
  if (oidOf(type) !== SIGNED_DATA || members.length < 4)
    throw unreadable(what, 'something that is not CMS signed data');
  const [, , encapsulated] = members;
  const inner = tagged(membersOf(encapsulated), 0);
  const certificates = membersOf(tagged(members, 0))
    // other certificate formats are tagged; X.509 is a plain sequence
    .filter(({ tagClass }) => tagClass === 0)
    .map((value) => parseCertificate(value.bytes, what));
  return {
    contentType: oidOf(membersOf(encapsulated)[0]),
    content: inner && contentOf(membersOf(inner)[0]),
    certificates,
    signers: membersOf(members.at(-1)).map((signer) => parseSigner(signer, certificates)),
  };
}

/** version · issuer and serial, or [0] key id · digest · [0] signed attributes · signature algorithm · signature */
function parseSigner(signer: Asn1, certificates: readonly ParsedCertificate[]): SignerInfo {
  const members = membersOf(signer);
  const attributes = tagged(members.slice(3), 0);
  const [algorithm, signature] = members.slice(attributes ? 4 : 3);
  const byKeyId = members[1]?.tagClass === 2;
  return {
    certificate: byKeyId
      ? findByKeyId(contentOf(members[1]), certificates)
      : findByIssuer(members[1], certificates),
    byKeyId,
    digest: DIGESTS.get(oidOf(membersOf(members[2])[0])),
    algorithm: SIGNATURES.get(oidOf(membersOf(algorithm)[0])),
    ...(attributes && { attributes: parseAttributes(attributes) }),
    signature: contentOf(signature),
  };
}

function findByIssuer(id: Asn1 | undefined, certificates: readonly ParsedCertificate[]) {
  const [issuer, serial] = membersOf(id);
  return certificates.find(
    (of) =>
      issuer && serial && sameInteger(of.serial, contentOf(serial)) && sameName(of.issuer, issuer.bytes),
  );
}

const findByKeyId = (id: Uint8Array, certificates: readonly ParsedCertificate[]) =>
  certificates.find((of) => {
    const extension = extensionsOf(of).get(SUBJECT_KEY_ID);
    return extension && sameBytes(contentOf(parseAsn1(contentOf(extension.value), 'a key id')), id);
  });

/** RFC 5652, 5.4: they are signed under the tag of a set. */
function parseAttributes(attributes: Asn1): SignedAttributes {
  const bytes = attributes.bytes.slice();
  bytes[0] = 0x31;
  const values = new Map<string, Asn1[]>();
  const members = membersOf(attributes);
  for (const member of members) {
    const [type, set] = membersOf(member);
    const oid = oidOf(type);
    values.set(oid, [...(values.get(oid) ?? []), ...membersOf(set)]);
  }
  return { bytes, values, repeated: values.size < members.length };
}

interface AttributeFault {
  code: 'type-missing' | 'type-wrong' | 'digest-missing' | 'digest-wrong' | 'repeated';
  found: string;
}

/** What is wrong with what a signer says of the content (RFC 5652, sections 11.1 and 11.2), worst first. */
export async function findAttributeFaults(
  { attributes, digest }: SignerInfo,
  contentType: string,
  content: Uint8Array,
  ports: Ports,
): Promise<AttributeFault[]> {
  if (!attributes || !digest) return [];
  const types = attributes.values.get(CONTENT_TYPE) ?? [];
  const digests = attributes.values.get(MESSAGE_DIGEST) ?? [];
  const faults: AttributeFault[] = [];
  if (attributes.repeated || types.length > 1 || digests.length > 1)
    faults.push({ code: 'repeated', found: 'a signed attribute that stands there twice' });
  if (types.length === 0)
    faults.push({ code: 'type-missing', found: 'signed attributes without a content type' });
  else if (oidOf(types[0]) !== contentType)
    faults.push({
      code: 'type-wrong',
      found: `a content type that is not the signed one (${oidOf(types[0])})`,
    });
  if (digests.length === 0)
    faults.push({ code: 'digest-missing', found: 'signed attributes without a digest' });
  else if (!sameBytes(contentOf(digests[0]), await ports.digest(digest, content)))
    faults.push({ code: 'digest-wrong', found: `contents whose digest is not the signed one (${digest})` });
  return faults;
}

/** Whether the signer's key made the signature, over its attributes or over the content where there are none. */
export async function holdsSignature(
  signer: SignerInfo,
  content: Uint8Array,
  ports: Ports,
): Promise<boolean> {
  const { algorithm, attributes, certificate, digest, signature } = signer;
  const hashed = algorithm?.digest ?? digest;
  if (!certificate || !algorithm || !hashed) return false;
  return ports.verifySignature({
    publicKey: certificate.publicKey,
    padding: algorithm.padding,
    digest: hashed,
    data: attributes?.bytes ?? content,
    signature,
  });
}

/** @returns the certificates whose signature over `content` holds, and why others do not */
export async function verifySignedData(
  data: SignedData,
  content: Uint8Array,
  ports: Ports,
): Promise<{ signers: ParsedCertificate[]; problems: string[] }> {
  const signers: ParsedCertificate[] = [];
  const problems: string[] = data.signers.length === 0 ? ['no signer'] : [];
  for (const signer of data.signers) {
    const why = await findFault(signer, data.contentType, content, ports);
    if (why) problems.push(why);
    else signers.push(signer.certificate!);
  }
  return { signers, problems };
}

async function findFault(
  signer: SignerInfo,
  contentType: string,
  content: Uint8Array,
  ports: Ports,
): Promise<string | undefined> {
  const { algorithm, certificate, digest } = signer;
  if (!certificate) return 'a signer whose certificate is not there';
  if (!digest) return 'a digest algorithm that is not known';
  if (!algorithm) return 'a signature algorithm that is not known';
  const [fault] = await findAttributeFaults(signer, contentType, content, ports);
  if (fault) return fault.found;
  return (await holdsSignature(signer, content, ports))
    ? undefined
    : `a signature that ${certificate.view.subject} did not make`;
}
