/**
 * A purchase as Google Play hands it to an app: JSON, and over its very bytes an RSA signature (PKCS #1 v1.5, SHA-1) by the
 * app's key at the store. Fields: Android Developers, *In-app Billing reference, INAPP_PURCHASE_DATA*.
 */
import { z } from 'zod';
import type { LedgerLine, ProductKind } from '../../model/ledger.ts';
import type { Ports } from '../../model/ports.ts';
import { fromBase64 } from '../base64.ts';
import type { SignedResult } from './signed-transaction.ts';

export const purchaseSchema = z.looseObject({
  /** A purchase that is not paid yet has none. */
  orderId: z.string().min(1).max(256).optional(),
  packageName: z.string(),
  productId: z.string().min(1).max(256),
  /** Milliseconds since 1970. */
  purchaseTime: z.number().int().nonnegative(),
  purchaseState: z.number().int().default(0),
  purchaseToken: z.string().min(1).max(2000),
  acknowledged: z.boolean().default(false),
  autoRenewing: z.boolean().optional(),
  obfuscatedAccountId: z.string().optional(),
});
export type SignedPurchase = z.infer<typeof purchaseSchema>;

const LARGEST_BYTES = 64 * 1024;

/**
 * @param data the JSON, byte for byte as it came
 * @param signature Base64
 * @param publicKey subject public key info, DER
 */
export async function readSignedPurchase(
  data: string,
  signature: string,
  { appId, ports, publicKey }: { appId: string; publicKey: Uint8Array; ports: Ports },
): Promise<SignedResult<SignedPurchase>> {
  if (data.length > LARGEST_BYTES) return { ok: false, fault: { code: 'too-large', bytes: data.length } };
  const isSigned = await ports.verifySignature({
    publicKey,
    padding: 'pkcs1',
    digest: 'sha1',
    data: new TextEncoder().encode(data),
    signature: fromBase64(signature),
  });
  if (!isSigned) return { ok: false, fault: { code: 'wrong-signature' } };
  const read = parse(data);
  if (!read.ok || read.value.packageName === appId) return read;
  return { ok: false, fault: { code: 'other-app', appId: read.value.packageName } };
}

function parse(data: string): SignedResult<SignedPurchase> {
  let value: unknown;
  try {
    value = JSON.parse(data);
  } catch (cause) {
    return { ok: false, fault: { code: 'wrong-payload', why: (cause as Error).message } };
  }
  const purchase = purchaseSchema.safeParse(value);
  if (purchase.success) return { ok: true, value: purchase.data };
  const [issue] = purchase.error.issues;
  return { ok: false, fault: { code: 'wrong-payload', why: `${issue!.path.join('.')}: ${issue!.message}` } };
}

const PENDING = new Set([2, 4]);
const CANCELLED = 1;

/**
 * A renewal has the order number of the first with `..0`, `..1` and so on behind it.
 *
 * @param until end of the period that is paid for; the purchase itself does not tell
 */
export function linesOfPurchase(
  purchase: SignedPurchase,
  account: string,
  { device, kind, until }: { kind?: ProductKind; until?: string; device?: string } = {},
): LedgerLine[] {
  const { acknowledged, orderId, productId, purchaseState, purchaseTime } = purchase;
  const of = {
    at: new Date(purchaseTime).toISOString(),
    account,
    product: productId,
    ...(device !== undefined && { device }),
  };
  const transaction = orderId ?? `pending-${productId}-${purchaseTime}`;
  if (PENDING.has(purchaseState)) return [{ ...of, kind: 'store.deferred', transaction }];
  if (purchaseState === CANCELLED) return [{ ...of, kind: 'store.cancelled' }];
  const [original = transaction, renewal] = transaction.split('..');
  const lines: LedgerLine[] = [
    {
      ...of,
      kind: renewal === undefined ? 'store.bought' : 'store.renewed',
      transaction,
      original,
      ...(kind && { productKind: kind }),
      ...(until !== undefined && { until }),
    },
  ];
  if (acknowledged) lines.push({ ...of, kind: 'store.finished', transaction });
  return lines;
}
