/**
 * The certificates that a test store signs with, made again for each store: a root, one between and the signer's, as Apple's
 * store has them, and for each of the first two somebody who answers whether a certificate is still good (RFC 6960).
 */
import { randomBytes } from 'node:crypto';
import { exportJWK, generateKeyPair, type JWK } from 'jose';
import { STORE_MARKS } from '../../core/formats/store/signed-transaction.ts';

type KeyPair = Awaited<ReturnType<typeof generateKeyPair>>;

/** DER, and the key that belongs to it. */
interface Certified {
  certificate: Uint8Array;
  keys: KeyPair;
}

/** An issuer, and who answers for the certificates that it issued. */
export interface Issuer {
  certificate: Uint8Array;
  responder: Certified;
}

export interface SigningChain {
  /** Base64 of DER: the signer's, the one between, and the root. */
  x5c: string[];
  key: JWK;
  /** Of the one between, and of the signer's. */
  issuers: Issuer[];
}

const ASN1_NULL = Uint8Array.of(5, 0);
const VALID_DAYS = 30 * 365;
const DAY_MS = 24 * 3600_000;
const OCSP_SIGNING = '1.3.6.1.5.5.7.3.9';
/** Who answers is not asked about in its turn (RFC 6960, section 4.2.2.2.1). */
const OCSP_NO_CHECK = '1.3.6.1.5.5.7.48.1.5';
const SERIAL_BYTES = 8;

/** @param ocspUrl where is answered whether a certificate is still good */
export async function makeSigningChain(ocspUrl: string): Promise<SigningChain> {
  // the library wants its polyfill first, which changes a global; so both wait until they are needed
  await import('reflect-metadata');
  const x509 = await import('@peculiar/x509');
  const certify = async (
    name: string,
    issuer: { name: string; keys: KeyPair } | undefined,
    { isCa = false, marks = [] as [oid: string, critical: boolean][], answers = false } = {},
  ): Promise<Certified & { name: string }> => {
    const keys = await generateKeyPair('ES256', { extractable: true });
    const by = issuer ?? { name, keys };
    const certificate = await x509.X509CertificateGenerator.create({
      serialNumber: randomBytes(SERIAL_BYTES).toString('hex').replace(/^./, '1'),
      subject: `CN=${name}`,
      issuer: `CN=${by.name}`,
      publicKey: keys.publicKey,
      signingKey: by.keys.privateKey,
      // by the machine's clock: that of the store may be set years ahead, or back
      notBefore: new Date(Date.now() - VALID_DAYS * DAY_MS),
      notAfter: new Date(Date.now() + VALID_DAYS * DAY_MS),
      signingAlgorithm: { name: 'ECDSA', hash: 'SHA-256' },
      extensions: [
        new x509.BasicConstraintsExtension(isCa, undefined, true),
        ...(issuer && !answers ? [new x509.AuthorityInfoAccessExtension({ ocsp: ocspUrl })] : []),
        ...(answers ? [new x509.ExtendedKeyUsageExtension([OCSP_SIGNING])] : []),
        ...marks.map(([oid, isCritical]) => new x509.Extension(oid, isCritical, ASN1_NULL)),
      ],
    });
    return { name, certificate: new Uint8Array(certificate.rawData), keys };
  };
  const root = await certify('Test store root', undefined, { isCa: true });
  const between = await certify('Test store authority', root, {
    isCa: true,
    marks: [[STORE_MARKS[1], false]],
  });
  const signer = await certify('Test store signer', between, { marks: [[STORE_MARKS[0], false]] });
  const responderOf = (issuer: Certified & { name: string }) =>
    certify(`${issuer.name} status`, issuer, { answers: true, marks: [[OCSP_NO_CHECK, false]] });
  return {
    x5c: [signer, between, root].map(({ certificate }) => Buffer.from(certificate).toString('base64')),
    key: await exportJWK(signer.keys.privateKey),
    issuers: [
      { certificate: between.certificate, responder: await responderOf(between) },
      { certificate: root.certificate, responder: await responderOf(root) },
    ],
  };
}
