/** Signed data of the Cryptographic Message Syntax (RFC 5652, section 5), as app packages and profiles carry it. */
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { type Asn1, contentOf, membersOf, oidOf, parseAsn1, tagged, unreadable } from './asn1.ts';
import { type ParsedCertificate, parseCertificate } from './certificate.ts';

const SIGNED_DATA = '1.2.840.113549.1.7.2';
const MESSAGE_DIGEST = '1.2.840.113549.1.9.4';

const DIGESTS = new Map<string, DigestAlgorithm>([
  ['1.2.840.113549.2.5', 'md5'],
  ['1.3.14.3.2.26', 'sha1'],
  ['2.16.840.1.101.3.4.2.1', 'sha256'],
  ['2.16.840.1.101.3.4.2.2', 'sha384'],
  ['2.16.840.1.101.3.4.2.3', 'sha512'],
]);
const PSS = '1.2.840.113549.1.1.10';
const RSA = '1.2.840.113549.1.1';

export interface SignedData {
  /** What is signed, where it is carried along. */
  content?: Uint8Array;
  certificates: ParsedCertificate[];
  signers: SignerInfo[];
}

interface SignerInfo {
  certificate?: ParsedCertificate;
  digest?: DigestAlgorithm;
  padding: 'pkcs1' | 'pss' | 'none';
  /** Signed attributes as they were signed: a set, not `[0]`. */
  signedAttributes?: Uint8Array;
  messageDigest?: Uint8Array;
  signature: Uint8Array;
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
  const algorithmOid = oidOf(membersOf(algorithm)[0]);
  const messageDigest = membersOf(attributes)
    .map(membersOf)
    .find(([type]) => oidOf(type) === MESSAGE_DIGEST);
  return {
    certificate: findSigner(members[1], certificates),
    digest: DIGESTS.get(oidOf(membersOf(members[2])[0])),
    padding: algorithmOid === PSS ? 'pss' : algorithmOid.startsWith(RSA) ? 'pkcs1' : 'none',
    signedAttributes: attributes && asSet(attributes),
    messageDigest: messageDigest && contentOf(membersOf(messageDigest[1])[0]),
    signature: contentOf(signature),
  };
}

function findSigner(
  id: Asn1 | undefined,
  certificates: readonly ParsedCertificate[],
): ParsedCertificate | undefined {
  const [issuer, serial] = membersOf(id);
  if (!issuer || !serial) return certificates[0];
  return certificates.find(
    (certificate) =>
      sameBytes(certificate.issuer, issuer.bytes) && sameBytes(certificate.serial, contentOf(serial)),
  );
}

/** RFC 5652, 5.4: the attributes are signed under the tag of a set. */
function asSet(attributes: Asn1): Uint8Array {
  const bytes = attributes.bytes.slice();
  bytes[0] = 0x31;
  return bytes;
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
    const why = await verifySigner(signer, content, ports);
    if (why) problems.push(why);
    else signers.push(signer.certificate!);
  }
  return { signers, problems };
}

async function verifySigner(
  signer: SignerInfo,
  content: Uint8Array,
  ports: Ports,
): Promise<string | undefined> {
  const { certificate, digest, messageDigest, padding, signature, signedAttributes } = signer;
  if (!certificate) return 'a signer whose certificate is not there';
  if (!digest) return 'a digest algorithm that is not known';
  if (signedAttributes && !(messageDigest && sameBytes(messageDigest, await ports.digest(digest, content))))
    return `contents whose digest is not the signed one (${digest})`;
  const holds = await ports.verifySignature({
    publicKey: certificate.publicKey,
    padding,
    digest,
    data: signedAttributes ?? content,
    signature,
  });
  return holds ? undefined : `a signature that ${certificate.view.subject} did not make`;
}
