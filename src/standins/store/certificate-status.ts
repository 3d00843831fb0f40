/** Whether a certificate is still good, as an OCSP responder answers (RFC 6960, sections 2.2 to 4.2): all that the store issued are. */
import { createHash, KeyObject, sign } from 'node:crypto';
import {
  BasicOCSPResponse,
  type CertID,
  CertStatus,
  id_pkix_ocsp_basic,
  KeyHash,
  OCSPRequest,
  OCSPResponse,
  OCSPResponseStatus,
  ResponderID,
  ResponseBytes,
  ResponseData,
  SingleResponse,
} from '@peculiar/asn1-ocsp';
import { AsnConvert, OctetString } from '@peculiar/asn1-schema';
import { AlgorithmIdentifier, Certificate, type Extension } from '@peculiar/asn1-x509';
import type { Issuer, SigningChain } from './signing-chain.ts';

const ECDSA_WITH_SHA256 = '1.2.840.10045.4.3.2';
const NONCE = '1.3.6.1.5.5.7.48.1.2';
const DIGESTS: Readonly<Record<string, string>> = {
  '1.3.14.3.2.26': 'sha1',
  '2.16.840.1.101.3.4.2.1': 'sha256',
  '2.16.840.1.101.3.4.2.2': 'sha384',
  '2.16.840.1.101.3.4.2.3': 'sha512',
};
/** An answer holds from a day before to a week after, so that clocks and zones may differ. */
const BEFORE_MS = 24 * 3600_000;
const AFTER_MS = 7 * BEFORE_MS;

/** @param request DER. @returns DER; where it is no request, an answer that says so */
export function answerStatus(request: Uint8Array, chain: SigningChain): Uint8Array {
  let asked: OCSPRequest;
  try {
    asked = AsnConvert.parse(request, OCSPRequest);
  } catch {
    return encode(new OCSPResponse({ responseStatus: OCSPResponseStatus.malformedRequest }));
  }
  const { requestExtensions = [], requestList } = asked.tbsRequest;
  const ids = requestList.map(({ reqCert }) => reqCert);
  const issuer = chain.issuers.find((one) => ids.every((id) => isBy(one, id)));
  if (!issuer || ids.length === 0)
    return encode(new OCSPResponse({ responseStatus: OCSPResponseStatus.unauthorized }));
  const nonce = requestExtensions.filter(({ extnID }) => extnID === NONCE);
  const response = new OctetString(signedAnswer(ids, issuer, nonce, serialsOf(chain)));
  return encode(
    new OCSPResponse({
      responseStatus: OCSPResponseStatus.successful,
      responseBytes: new ResponseBytes({ responseType: id_pkix_ocsp_basic, response }),
    }),
  );
}

function signedAnswer(
  ids: readonly CertID[],
  { responder }: Issuer,
  nonce: Extension[],
  issued: ReadonlySet<string>,
): ArrayBuffer {
  const now = new Date();
  const certificate = AsnConvert.parse(responder.certificate, Certificate);
  const { subjectPublicKeyInfo } = certificate.tbsCertificate;
  const tbsResponseData = new ResponseData({
    responderID: new ResponderID({
      byKey: new KeyHash(digest('sha1', subjectPublicKeyInfo.subjectPublicKey)),
    }),
    producedAt: now,
    responses: ids.map(
      (certID) =>
        new SingleResponse({
          certID,
          certStatus: new CertStatus(
            issued.has(hex(certID.serialNumber)) ? { good: null } : { unknown: null },
          ),
          thisUpdate: new Date(now.getTime() - BEFORE_MS),
          nextUpdate: new Date(now.getTime() + AFTER_MS),
        }),
    ),
    ...(nonce.length > 0 && { responseExtensions: nonce }),
  });
  const signature = sign('sha256', encode(tbsResponseData), KeyObject.from(responder.keys.privateKey));
  return AsnConvert.serialize(
    new BasicOCSPResponse({
      tbsResponseData,
      signatureAlgorithm: new AlgorithmIdentifier({ algorithm: ECDSA_WITH_SHA256 }),
      signature: Uint8Array.from(signature).buffer,
      certs: [certificate],
    }),
  );
}

/** Whether an issuer, by the digests of its name and key, is the one that is meant. */
function isBy({ certificate }: Issuer, { hashAlgorithm, issuerKeyHash, issuerNameHash }: CertID): boolean {
  const name = DIGESTS[hashAlgorithm.algorithm];
  if (!name) return false;
  const { subject, subjectPublicKeyInfo } = AsnConvert.parse(certificate, Certificate).tbsCertificate;
  return (
    hex(digest(name, AsnConvert.serialize(subject))) === hex(issuerNameHash) &&
    hex(digest(name, subjectPublicKeyInfo.subjectPublicKey)) === hex(issuerKeyHash)
  );
}

const serialsOf = ({ x5c }: SigningChain): Set<string> =>
  new Set(
    x5c.map((one) =>
      hex(AsnConvert.parse(Buffer.from(one, 'base64'), Certificate).tbsCertificate.serialNumber),
    ),
  );

const encode = (value: object): Uint8Array => new Uint8Array(AsnConvert.serialize(value));
const digest = (name: string, bytes: ArrayBuffer): Buffer =>
  createHash(name).update(new Uint8Array(bytes)).digest();
const hex = (bytes: ArrayBuffer | Uint8Array | OctetString): string =>
  Buffer.from(new Uint8Array(bytes instanceof OctetString ? bytes.buffer : bytes)).toString('hex');
