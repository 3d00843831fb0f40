/**
 * A transaction as Apple's store signs it: a compact JWS (RFC 7515, section 3.1), ES256, with its certificates in `x5c`
 * (section 4.1.6). Fields: App Store Server API, *JWSTransactionDecodedPayload*.
 */
import { compactVerify, decodeProtectedHeader, importX509 } from 'jose';
import { z } from 'zod';
import type { LedgerLine, ProductKind } from '../../model/ledger.ts';
import type { Ports } from '../../model/ports.ts';
import { fromBase64, toBase64 } from '../base64.ts';
import { type ChainFault, verifyChain } from '../signing/certificate-chain.ts';

/** Times are milliseconds since 1970. */
export const transactionSchema = z.looseObject({
  transactionId: z.string().min(1).max(256),
  originalTransactionId: z.string().min(1).max(256),
  bundleId: z.string(),
  productId: z.string().min(1).max(256),
  purchaseDate: z.number().int().nonnegative(),
  expiresDate: z.number().int().nonnegative().optional(),
  signedDate: z.number().int().nonnegative(),
  type: z.enum(['Auto-Renewable Subscription', 'Non-Consumable', 'Consumable', 'Non-Renewing Subscription']),
  environment: z.string().optional(),
  transactionReason: z.enum(['PURCHASE', 'RENEWAL']).optional(),
  revocationDate: z.number().int().nonnegative().optional(),
  revocationReason: z.number().int().optional(),
  inAppOwnershipType: z.string().optional(),
  appAccountToken: z.string().optional(),
  storefront: z.string().optional(),
  /** In thousandths of the currency's unit. */
  price: z.number().optional(),
  currency: z.string().optional(),
  subscriptionGroupIdentifier: z.string().optional(),
});
export type SignedTransaction = z.infer<typeof transactionSchema>;

export type SignatureFault =
  | { code: 'not-a-jws'; why: string }
  | { code: 'wrong-algorithm'; algorithm: string }
  | { code: 'no-chain' }
  | { code: 'chain'; chain: ChainFault }
  | { code: 'wrong-signature' }
  | { code: 'wrong-payload'; why: string }
  | { code: 'other-app'; appId: string }
  | { code: 'too-large'; bytes: number };

export type SignedResult<T> = { ok: true; value: T } | { ok: false; fault: SignatureFault };

const LARGEST_BYTES = 64 * 1024;
/** As far as clocks of a store and of a reader may differ. */
const SKEW_MS = 5 * 60_000;

/**
 * Extensions by which Apple tells who may sign for its store, and who may vouch for those (Apple, Worldwide Developer Relations
 * Certification Practice Statement, certificate profiles). Without them any developer's certificate under the same root would do.
 */
export const STORE_MARKS = ['1.2.840.113635.100.6.11.1', '1.2.840.113635.100.6.2.1'] as const;

/**
 * @param appId whose transaction it must be
 * @param roots DER of the certificates that are trusted
 * @param nowMs nothing may be signed after it
 */
export async function readSignedTransaction(
  jws: string,
  {
    appId,
    nowMs,
    ports,
    roots,
  }: { appId: string; roots: readonly Uint8Array[]; nowMs: number; ports: Ports },
): Promise<SignedResult<SignedTransaction>> {
  const no = (fault: SignatureFault) => ({ ok: false, fault }) as const;
  if (jws.length > LARGEST_BYTES) return no({ code: 'too-large', bytes: jws.length });
  const read = readParts(jws);
  if (!read.ok) return read;
  const { chain, payload } = read.value;
  // what is signed tells when, and so at which moment its certificates had to be valid
  const signedMs = Math.min(payload.signedDate, nowMs + SKEW_MS);
  const verified = await verifyChain(chain, roots, signedMs, ports, STORE_MARKS);
  if (!verified.ok) return no({ code: 'chain', chain: verified.fault });
  try {
    const key = await importX509(pemOf(chain[0]!), 'ES256');
    await compactVerify(jws, key, { algorithms: ['ES256'] });
  } catch {
    return no({ code: 'wrong-signature' });
  }
  return payload.bundleId === appId
    ? { ok: true, value: payload }
    : no({ code: 'other-app', appId: payload.bundleId });
}

function readParts(jws: string): SignedResult<{ chain: Uint8Array[]; payload: SignedTransaction }> {
  const parts = jws.split('.');
  const no = (fault: SignatureFault) => ({ ok: false, fault }) as const;
  if (parts.length !== 3) return no({ code: 'not-a-jws', why: `${parts.length} parts instead of three` });
  let header: ReturnType<typeof decodeProtectedHeader>;
  let value: unknown;
  try {
    header = decodeProtectedHeader(jws);
    value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(fromBase64(ofUrl(parts[1]!))));
  } catch (cause) {
    return no({ code: 'not-a-jws', why: (cause as Error).message });
  }
  if (header.alg !== 'ES256') return no({ code: 'wrong-algorithm', algorithm: String(header.alg) });
  const { x5c } = header;
  if (!Array.isArray(x5c) || !x5c.every((one) => typeof one === 'string')) return no({ code: 'no-chain' });
  const payload = transactionSchema.safeParse(value);
  if (!payload.success) {
    const [issue] = payload.error.issues;
    return no({ code: 'wrong-payload', why: `${issue!.path.join('.')}: ${issue!.message}` });
  }
  return { ok: true, value: { chain: x5c.map(fromBase64), payload: payload.data } };
}

const ofUrl = (text: string): string => text.replaceAll('-', '+').replaceAll('_', '/');
const pemOf = (der: Uint8Array): string =>
  `-----BEGIN CERTIFICATE-----\n${toBase64(der)}\n-----END CERTIFICATE-----`;

export const PRODUCT_KINDS: Readonly<Record<SignedTransaction['type'], ProductKind>> = {
  'Auto-Renewable Subscription': 'subscription',
  'Non-Consumable': 'non-consumable',
  Consumable: 'consumable',
  'Non-Renewing Subscription': 'fixed-term',
};

/** @param account whose it is, as the reader knows the tester */
export function linesOfTransaction(
  transaction: SignedTransaction,
  account: string,
  device?: string,
): LedgerLine[] {
  const { expiresDate, originalTransactionId, productId, purchaseDate, transactionId, type } = transaction;
  const of = { account, ...(device !== undefined && { device }) };
  const lines: LedgerLine[] = [
    {
      at: new Date(purchaseDate).toISOString(),
      kind: transaction.transactionReason === 'RENEWAL' ? 'store.renewed' : 'store.bought',
      ...of,
      product: productId,
      productKind: PRODUCT_KINDS[type],
      transaction: transactionId,
      original: originalTransactionId,
      ...(expiresDate !== undefined && { until: new Date(expiresDate).toISOString() }),
    },
  ];
  const { revocationDate } = transaction;
  if (revocationDate !== undefined)
    lines.push({
      at: new Date(revocationDate).toISOString(),
      // without a reason it is a share in a family's purchase that was taken back
      kind: transaction.revocationReason === undefined ? 'store.revoked' : 'store.refunded',
      ...of,
      transaction: transactionId,
    });
  return lines;
}
