/** Signs what was sold as Apple's store does (App Store Server API, *JWSTransactionDecodedPayload*), with a chain that is made for it. */
import { CompactSign, exportJWK, generateKeyPair, importJWK, type JWK } from 'jose';
import { STORE_MARKS } from '../../core/formats/store/signed-transaction.ts';
import type { StoreCatalogue, StoreProduct } from './catalogue.ts';
import type { Transaction } from './transaction.ts';

export interface SigningChain {
  /** Base64 of DER: the signer's, the one between, and the root. */
  x5c: string[];
  key: JWK;
}

const ASN1_NULL = Uint8Array.of(5, 0);
const DAY_MS = 24 * 3600_000;
// the store's clock may be set years ahead
const VALID_DAYS = 30 * 365;

/** Root, intermediate and signer, each P-256, which nobody else trusts. */
export async function makeSigningChain(): Promise<SigningChain> {
  // the library wants its polyfill first, which changes a global; so both wait until they are needed
  await import('reflect-metadata');
  const { BasicConstraintsExtension, Extension, X509CertificateGenerator } = await import('@peculiar/x509');
  const newKeys = () => generateKeyPair('ES256', { extractable: true });
  const [root, between, signer] = await Promise.all([newKeys(), newKeys(), newKeys()]);
  const issue = async (
    name: string,
    keys: typeof root,
    issuer: string,
    by: typeof root,
    isCa: boolean,
    mark?: string,
  ) => {
    const certificate = await X509CertificateGenerator.create({
      subject: `CN=${name}`,
      issuer: `CN=${issuer}`,
      publicKey: keys.publicKey,
      signingKey: by.privateKey,
      notBefore: new Date(Date.now() - DAY_MS),
      notAfter: new Date(Date.now() + VALID_DAYS * DAY_MS),
      signingAlgorithm: { name: 'ECDSA', hash: 'SHA-256' },
      extensions: [
        new BasicConstraintsExtension(isCa, undefined, true),
        ...(mark === undefined ? [] : [new Extension(mark, false, ASN1_NULL)]),
      ],
    });
    return Buffer.from(certificate.rawData).toString('base64');
  };
  const [rootName, betweenName] = ['Test store root', 'Test store authority'];
  return {
    x5c: await Promise.all([
      issue('Test store signer', signer, betweenName, between, false, STORE_MARKS[0]),
      issue(betweenName, between, rootName, root, true, STORE_MARKS[1]),
      issue(rootName, root, rootName, root, true),
    ]),
    key: await exportJWK(signer.privateKey),
  };
}

const TYPES = {
  subscription: 'Auto-Renewable Subscription',
  'non-consumable': 'Non-Consumable',
  consumable: 'Consumable',
  'fixed-term': 'Non-Renewing Subscription',
} as const satisfies Record<StoreProduct['kind'], string>;

const REFUNDED_FOR_ANOTHER_REASON = 0;
const INTRODUCTORY_OFFER = 1;

export async function signTransaction(
  one: Transaction,
  { app, products }: StoreCatalogue,
  { key, x5c }: SigningChain,
  signedMs: number,
): Promise<string> {
  const kind = products.find(({ id }) => id === one.product)!.kind;
  const takenBackMs = one.refundedMs ?? one.revokedMs;
  const payload = {
    transactionId: one.id,
    originalTransactionId: one.original,
    bundleId: app,
    productId: one.product,
    purchaseDate: one.boughtMs,
    ...(one.untilMs !== undefined && { expiresDate: one.untilMs }),
    quantity: 1,
    type: TYPES[kind],
    inAppOwnershipType: 'PURCHASED',
    environment: 'Sandbox',
    transactionReason: one.isRenewal ? 'RENEWAL' : 'PURCHASE',
    ...(takenBackMs !== undefined && { revocationDate: takenBackMs }),
    ...(one.refundedMs !== undefined && { revocationReason: REFUNDED_FOR_ANOTHER_REASON }),
    ...(one.replacedMs !== undefined && { isUpgraded: true }),
    ...(one.isTrial && { offerType: INTRODUCTORY_OFFER, offerDiscountType: 'FREE_TRIAL' }),
    signedDate: signedMs,
  };
  return new CompactSign(new TextEncoder().encode(JSON.stringify(payload)))
    .setProtectedHeader({ alg: 'ES256', x5c })
    .sign(await importJWK(key, 'ES256'));
}
