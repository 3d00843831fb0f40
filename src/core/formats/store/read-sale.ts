/**
 * A signed sale from a file: a transaction of Apple's store (a compact JWS and nothing else), or a purchase of Android's as an
 * object with `INAPP_PURCHASE_DATA` and `INAPP_DATA_SIGNATURE`, the names under which the store hands both to an app.
 */
import { decodeJwt, decodeProtectedHeader } from 'jose';
import { z } from 'zod';
import { type Ports, sha256Hex } from '../../model/ports.ts';
import { UnreadableError } from '../../model/problem.ts';
import type { Sale, SaleKeys, SaleTrust } from '../../model/sale.ts';
import { APPLE_ROOTS } from '../../platform/apple/apple-roots.ts';
import { fromBase64 } from '../base64.ts';
import { formatFault } from './signature-fault.ts';
import { purchaseSchema, readSignedPurchase, type SignedPurchase } from './signed-purchase.ts';
import {
  PRODUCT_KINDS,
  readSignedTransaction,
  type SignedTransaction,
  transactionSchema,
} from './signed-transaction.ts';

/** Far above what a store signs. */
export const SALE_FILE_LIMIT_BYTES = 256 * 1024;

const COMPACT_JWS = /^[\w-]+\.[\w-]+\.[\w-]+$/;
const fileSchema = z.looseObject({ INAPP_PURCHASE_DATA: z.string(), INAPP_DATA_SIGNATURE: z.string() });
const MILLIUNITS = 1000;

/** Whether a text is a signed sale, good or bad. */
export const isSaleText = (text: string): boolean =>
  COMPACT_JWS.test(text.trim()) || fileSchema.safeParse(jsonIn(text)).success;

export interface SaleReading {
  keys: SaleKeys;
  /** Nothing may be signed after it. */
  nowMs: number;
  ports: Ports;
}

/** @throws UnreadableError where it is no sale; one that is not verified is read, and says so */
export async function readSale(file: string, text: string, reading: SaleReading): Promise<Sale> {
  const jws = text.trim();
  if (COMPACT_JWS.test(jws)) return readTransaction(file, jws, reading);
  const purchase = fileSchema.safeParse(jsonIn(text));
  if (purchase.success) return readPurchase(file, purchase.data, reading);
  throw noSale(file, 'neither a compact JWS nor a signed purchase');
}

const noSale = (file: string, found: string) =>
  new UnreadableError({
    code: 'sale.form',
    file,
    found,
    expected:
      'a transaction as iOS gives it (JWS), or JSON with INAPP_PURCHASE_DATA and INAPP_DATA_SIGNATURE as Android does',
  });

async function readTransaction(
  file: string,
  jws: string,
  { keys, nowMs, ports }: SaleReading,
): Promise<Sale> {
  let value: unknown;
  let chain: unknown;
  try {
    value = decodeJwt(jws);
    chain = decodeProtectedHeader(jws).x5c;
  } catch (error) {
    throw noSale(file, `a JWS that cannot be read: ${(error as Error).message}`);
  }
  const payload = transactionSchema.safeParse(value);
  if (!payload.success) {
    const [issue] = payload.error.issues;
    throw noSale(file, `a JWS that is no transaction (${issue!.path.join('.')}: ${issue!.message})`);
  }
  const certificates = Array.isArray(chain) ? chain.map((one) => fromBase64(String(one))) : [];
  const last = certificates.at(-1);
  const isApples = last !== undefined && APPLE_ROOTS.has(await sha256Hex(ports, last));
  const own = keys.root === undefined ? undefined : fromBase64(keys.root);
  const roots = isApples ? [last] : own ? [own] : [];
  const { bundleId: appId } = payload.data;
  const result = await readSignedTransaction(jws, { appId, roots, nowMs, ports });
  const isUntrusted = !result.ok && result.fault.code === 'chain' && result.fault.chain.code === 'untrusted';
  const trust: SaleTrust = result.ok
    ? { is: 'verified', by: isApples ? 'apple' : 'test-store' }
    : isUntrusted && roots.length === 0
      ? { is: 'unchecked', lacking: 'root' }
      : { is: 'refused', why: formatFault(result.fault) };
  return saleOfTransaction(payload.data, trust);
}

function saleOfTransaction(one: SignedTransaction, trust: SaleTrust): Sale {
  const { appAccountToken, currency, environment, expiresDate, price, revocationDate } = one;
  return {
    form: 'transaction',
    trust,
    appId: one.bundleId,
    product: one.productId,
    productKind: PRODUCT_KINDS[one.type],
    transaction: one.transactionId,
    original: one.originalTransactionId,
    boughtAt: iso(one.purchaseDate),
    ...(expiresDate !== undefined && { until: iso(expiresDate) }),
    ...(revocationDate !== undefined && { takenBackAt: iso(revocationDate) }),
    state: one.transactionReason === 'RENEWAL' ? 'renewed' : 'bought',
    ...(price !== undefined && currency !== undefined && { price: { amount: price / MILLIUNITS, currency } }),
    ...(one.storefront !== undefined && { storefront: one.storefront }),
    ...(one.subscriptionGroupIdentifier !== undefined && { group: one.subscriptionGroupIdentifier }),
    ...(appAccountToken !== undefined && { accountToken: appAccountToken }),
    ...(environment !== undefined && { environment }),
  };
}

async function readPurchase(
  file: string,
  { INAPP_DATA_SIGNATURE: signature, INAPP_PURCHASE_DATA: data }: z.infer<typeof fileSchema>,
  { keys: { licenseKey }, ports }: SaleReading,
): Promise<Sale> {
  const appId = String((jsonIn(data) as { packageName?: unknown } | undefined)?.packageName);
  const publicKey = fromBase64(licenseKey ?? '');
  const result = await readSignedPurchase(data, signature, { appId, publicKey, ports });
  if (result.ok) return saleOfPurchase(result.value, { is: 'verified', by: 'license-key' });
  const trust: SaleTrust =
    licenseKey === undefined
      ? { is: 'unchecked', lacking: 'licenseKey' }
      : { is: 'refused', why: formatFault(result.fault) };
  return saleOfPurchase(parsePurchase(file, data), trust);
}

function parsePurchase(file: string, data: string): SignedPurchase {
  const parsed = purchaseSchema.safeParse(jsonIn(data));
  if (parsed.success) return parsed.data;
  const [issue] = parsed.error.issues;
  throw noSale(file, `a purchase that cannot be read (${issue!.path.join('.')}: ${issue!.message})`);
}

const PENDING: readonly number[] = [2, 4];
const CANCELLED = 1;

function saleOfPurchase(one: SignedPurchase, trust: SaleTrust): Sale {
  const { obfuscatedAccountId, orderId, productId, purchaseState, purchaseTime } = one;
  const transaction = orderId ?? '';
  const [original = transaction, period] = transaction.split('..');
  return {
    form: 'purchase',
    trust,
    appId: one.packageName,
    product: productId,
    transaction,
    original,
    boughtAt: iso(purchaseTime),
    state: PENDING.includes(purchaseState)
      ? 'pending'
      : purchaseState === CANCELLED
        ? 'cancelled'
        : period === undefined
          ? 'bought'
          : 'renewed',
    ...(obfuscatedAccountId !== undefined && { accountToken: obfuscatedAccountId }),
    acknowledged: one.acknowledged,
  };
}

const iso = (ms: number): string => new Date(ms).toISOString();

function jsonIn(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
