/**
 * Hands out what was sold as Android's store does: JSON, and a signature over its very bytes (Android Developers, *In-app
 * Billing reference, INAPP_PURCHASE_DATA*: RSA, PKCS #1 v1.5, SHA-1, Base64).
 */
import { createHash, generateKeyPair, type KeyObject, sign } from 'node:crypto';
import { promisify } from 'node:util';
import type { StoreCatalogue } from './catalogue.ts';
import type { SaleContext } from './sign-transaction.ts';
import type { Transaction } from './transaction.ts';

/** A purchase as an app gets it; `transaction` is the store's own number, which no real store tells. */
export interface SignedSale {
  transaction: string;
  /** JSON; the signature is over these bytes. */
  data: string;
  signature: string;
}

export interface PurchaseKey {
  privateKey: KeyObject;
  /** Base64 of the subject public key info, as a store's console shows it. */
  licenseKey: string;
}

const KEY_BITS = 2048;
const STATES = { purchased: 0, cancelled: 1 };

export async function makePurchaseKey(): Promise<PurchaseKey> {
  const { privateKey, publicKey } = await promisify(generateKeyPair)('rsa', { modulusLength: KEY_BITS });
  return {
    privateKey,
    licenseKey: publicKey.export({ type: 'spki', format: 'der' }).toString('base64'),
  };
}

/** @param periods how often the subscription was renewed by then, in the order of its periods */
export function signPurchase(
  one: Transaction,
  { first, subscription }: SaleContext,
  periods: number,
  { app }: StoreCatalogue,
  { privateKey }: PurchaseKey,
): SignedSale {
  const isTakenBack = one.refundedMs !== undefined || one.revokedMs !== undefined;
  const data = JSON.stringify({
    orderId: periods === 0 ? one.original : `${one.original}..${periods - 1}`,
    packageName: app,
    productId: one.product,
    // of a subscription the time of the first one, which all its periods share
    purchaseTime: subscription ? first.boughtMs : one.boughtMs,
    purchaseState: isTakenBack ? STATES.cancelled : STATES.purchased,
    purchaseToken: tokenOf(app, one),
    ...(one.accountToken !== undefined && { obfuscatedAccountId: one.accountToken }),
    quantity: 1,
    ...(subscription && { autoRenewing: subscription.renews && subscription.endedMs === undefined }),
    acknowledged: (subscription ? first : one).finishedMs !== undefined,
  });
  const signature = sign('sha1', Buffer.from(data), privateKey).toString('base64');
  return { transaction: one.id, data, signature };
}

/** All periods of a subscription have one; it stays the same over a restart of the store. */
function tokenOf(app: string, { account, original }: Transaction): string {
  const digest = createHash('sha512').update(`${app}\n${account}\n${original}`).digest('base64url');
  return `${digest.slice(0, 24).toLowerCase()}.${digest.slice(24)}`;
}
