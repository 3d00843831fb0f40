/** Certificates that vouch for one another up to one that is trusted (RFC 5280, section 6.1, as far as chains of stores go). */
import { type DigestAlgorithm, type Ports, sameBytes } from '../../model/ports.ts';
import { UnreadableError } from '../../model/problem.ts';
import { contentOf, membersOf, oidOf, parseAsn1 } from './asn1.ts';
import { extensionsOf, isTrue, type ParsedCertificate, parseCertificate, sameName } from './certificate.ts';

export type ChainFault =
  | { code: 'too-few' | 'too-many'; count: number }
  | { code: 'unreadable'; position: number; why: string }
  /** Its issuer is not the next one, or that one's key did not sign it. */
  | { code: 'not-signed'; position: number; subject: string }
  | { code: 'no-authority'; position: number; subject: string }
  | { code: 'out-of-date'; position: number; subject: string; validFrom: string; validUntil: string }
  /** It may vouch, or sign, but not for this purpose. */
  | { code: 'no-mark'; position: number; subject: string; oid: string }
  | { code: 'untrusted'; subject: string };

const LONGEST = 6;

/**
 * @param chain DER, the signer's first and each vouched for by the next
 * @param roots DER of those that are trusted as they stand
 * @param atMs the moment at which all of them must be valid
 * @param marks object identifiers of extensions that the signer's certificate, the next one and so on must have
 * @returns the signer's certificate, where nothing is wrong
 */
export async function verifyChain(
  chain: readonly Uint8Array[],
  roots: readonly Uint8Array[],
  atMs: number,
  ports: Ports,
  marks: readonly string[] = [],
): Promise<{ ok: true; leaf: ParsedCertificate } | { ok: false; fault: ChainFault }> {
  const no = (fault: ChainFault) => ({ ok: false, fault }) as const;
  if (chain.length < 2) return no({ code: 'too-few', count: chain.length });
  if (chain.length > LONGEST) return no({ code: 'too-many', count: chain.length });
  const certificates: ParsedCertificate[] = [];
  for (const [position, der] of chain.entries())
    try {
      certificates.push(parseCertificate(der, `certificate ${position + 1}`));
    } catch (error) {
      if (!(error instanceof UnreadableError)) throw error;
      return no({ code: 'unreadable', position, why: error.problem.found });
    }
  for (const [position, { view }] of certificates.entries())
    if (!(Date.parse(view.validFrom) <= atMs && atMs <= Date.parse(view.validUntil)))
      return no({ code: 'out-of-date', position, ...pickDates(view) });
  for (const [position, one] of certificates.entries()) {
    const issuer = certificates[position + 1];
    if (!issuer) continue;
    const { subject } = one.view;
    if (!isAuthority(issuer))
      return no({ code: 'no-authority', position: position + 1, subject: issuer.view.subject });
    const isIssued = sameName(one.issuer, issuer.subject) && (await isSignedBy(one, issuer, ports));
    if (!isIssued) return no({ code: 'not-signed', position, subject });
  }
  const last = certificates.at(-1)!;
  if (!roots.some((root) => sameBytes(root, last.der)))
    return no({ code: 'untrusted', subject: last.view.subject });
  for (const [position, oid] of marks.entries()) {
    const one = certificates[position];
    if (one && !extensionsOf(one).has(oid))
      return no({ code: 'no-mark', position, subject: one.view.subject, oid });
  }
  return { ok: true, leaf: certificates[0]! };
}

const pickDates = ({ subject, validFrom, validUntil }: ParsedCertificate['view']) => ({
  subject,
  validFrom,
  validUntil,
});

// RFC 5758 (ECDSA) and RFC 4055 (RSA with PKCS #1 v1.5).
const ALGORITHMS = new Map<string, { padding: 'none' | 'pkcs1'; digest: DigestAlgorithm }>([
  ['1.2.840.10045.4.3.2', { padding: 'none', digest: 'sha256' }],
  ['1.2.840.10045.4.3.3', { padding: 'none', digest: 'sha384' }],
  ['1.2.840.10045.4.3.4', { padding: 'none', digest: 'sha512' }],
  ['1.2.840.113549.1.1.11', { padding: 'pkcs1', digest: 'sha256' }],
  ['1.2.840.113549.1.1.12', { padding: 'pkcs1', digest: 'sha384' }],
  ['1.2.840.113549.1.1.13', { padding: 'pkcs1', digest: 'sha512' }],
]);

/**
 * From a signer's certificate through those that vouch for it, as far as the given ones lead. Each link holds: names,
 * authority and signature; dates are not looked at.
 */
export async function followChain(
  leaf: ParsedCertificate,
  others: readonly ParsedCertificate[],
  ports: Ports,
): Promise<ParsedCertificate[]> {
  const chain = [leaf];
  for (let last = leaf; !isSelfIssued(last) && chain.length < LONGEST; last = chain.at(-1)!) {
    const candidates = others.filter((of) => sameName(last.issuer, of.subject) && isAuthority(of));
    const held = await Promise.all(candidates.map((of) => isSignedBy(last, of, ports)));
    const issuer = candidates[held.indexOf(true)];
    if (!issuer) break;
    chain.push(issuer);
  }
  return chain;
}

export const isSelfIssued = ({ issuer, subject }: ParsedCertificate): boolean => sameName(issuer, subject);

async function isSignedBy(one: ParsedCertificate, issuer: ParsedCertificate, ports: Ports): Promise<boolean> {
  const [toBeSigned, algorithm, bits] = membersOf(parseAsn1(one.der, 'a certificate'));
  const how = ALGORITHMS.get(oidOf(membersOf(algorithm)[0]));
  if (!toBeSigned || !how) return false;
  return ports.verifySignature({
    publicKey: issuer.publicKey,
    ...how,
    data: toBeSigned.bytes,
    // the first byte of a bit string counts its unused bits
    signature: contentOf(bits).subarray(1),
  });
}

const BASIC_CONSTRAINTS = '2.5.29.19';

/** Basic constraints (RFC 5280, section 4.2.1.9): whether it may vouch for others. */
function isAuthority(certificate: ParsedCertificate): boolean {
  const constraints = extensionsOf(certificate).get(BASIC_CONSTRAINTS)?.value;
  if (!constraints) return false;
  const [isCa] = membersOf(parseAsn1(contentOf(constraints), 'basic constraints'));
  return isTrue(isCa);
}
