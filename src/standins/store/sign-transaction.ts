/**
 * Signs what was sold as Apple's store does, with the chain of the store (App Store Server API,
 * *JWSTransactionDecodedPayload*, *JWSRenewalInfoDecodedPayload*): all documented fields that the catalogue and the order know.
 */
import { CompactSign, importJWK } from 'jose';
import type { StoreCatalogue, StoreProduct } from './catalogue.ts';
import type { SigningChain } from './signing-chain.ts';
import type { Subscription, Transaction } from './transaction.ts';

/** What is told of a transaction besides itself. */
export interface SaleContext {
  /** The first of its chain of renewals; itself, where it is the first. */
  first: Transaction;
  subscription?: Subscription;
}

const TYPES = {
  subscription: 'Auto-Renewable Subscription',
  'non-consumable': 'Non-Consumable',
  consumable: 'Consumable',
  'fixed-term': 'Non-Renewing Subscription',
} as const satisfies Record<StoreProduct['kind'], string>;

const ENVIRONMENT = 'Sandbox';
const REFUNDED_FOR_ANOTHER_REASON = 0;
const INTRODUCTORY_OFFER = 1;
const MILLIUNITS = 1000;
/** Why a subscription ended: its user ended it, it was not paid, or something else. */
const EXPIRATION_INTENT = { cancelled: 1, unpaid: 2, other: 5 };

export async function signTransaction(
  one: Transaction,
  { first, subscription }: SaleContext,
  { app, products }: StoreCatalogue,
  chain: SigningChain,
  signedMs: number,
): Promise<string> {
  const product = products.find(({ id }) => id === one.product)!;
  const takenBackMs = one.refundedMs ?? one.revokedMs;
  const price = priceOf(product, one.country);
  return sign(
    {
      transactionId: one.id,
      originalTransactionId: one.original,
      ...(subscription && { webOrderLineItemId: `wo-${one.id}` }),
      bundleId: app,
      productId: one.product,
      ...(product.group !== undefined && { subscriptionGroupIdentifier: product.group }),
      purchaseDate: one.boughtMs,
      originalPurchaseDate: first.boughtMs,
      ...(one.untilMs !== undefined && { expiresDate: one.untilMs }),
      quantity: 1,
      type: TYPES[product.kind],
      ...(one.accountToken !== undefined && { appAccountToken: one.accountToken }),
      inAppOwnershipType: 'PURCHASED',
      environment: ENVIRONMENT,
      storefront: await countryCode(one.country),
      ...(price && { price: one.isTrial ? 0 : price.milliunits, currency: price.currency }),
      transactionReason: one.isAutomatic ? 'RENEWAL' : 'PURCHASE',
      ...(takenBackMs !== undefined && { revocationDate: takenBackMs }),
      ...(one.refundedMs !== undefined && { revocationReason: REFUNDED_FOR_ANOTHER_REASON }),
      ...(one.replacedMs !== undefined && { isUpgraded: true }),
      ...(one.isTrial && {
        offerType: INTRODUCTORY_OFFER,
        offerDiscountType: 'FREE_TRIAL',
        offerPeriod: product.trial,
      }),
      signedDate: signedMs,
    },
    chain,
  );
}

/** @param began when it was bought last, be it again after it had ended */
export function signRenewal(
  subscription: Subscription,
  began: number,
  chain: SigningChain,
  signedMs: number,
): Promise<string> {
  const { current, endedMs, original, planned, product, unpaid } = subscription;
  const next = planned ?? product;
  const price = priceOf(next, current.country);
  return sign(
    {
      originalTransactionId: original,
      productId: product.id,
      autoRenewProductId: next.id,
      autoRenewStatus: Number(subscription.renews && endedMs === undefined),
      ...(endedMs !== undefined && { expirationIntent: intentOf(subscription) }),
      isInBillingRetryPeriod: unpaid !== undefined && endedMs === undefined,
      ...(unpaid && unpaid.graceUntilMs > unpaid.sinceMs && { gracePeriodExpiresDate: unpaid.graceUntilMs }),
      ...(current.untilMs !== undefined && { renewalDate: current.untilMs }),
      ...(price && { renewalPrice: price.milliunits, currency: price.currency }),
      recentSubscriptionStartDate: began,
      ...(current.accountToken !== undefined && { appAccountToken: current.accountToken }),
      environment: ENVIRONMENT,
      signedDate: signedMs,
    },
    chain,
  );
}

function intentOf({ paymentFails, renews, unpaid }: Subscription): number {
  if (unpaid || paymentFails) return EXPIRATION_INTENT.unpaid;
  return renews ? EXPIRATION_INTENT.other : EXPIRATION_INTENT.cancelled;
}

function priceOf(
  { prices }: StoreProduct,
  country: string,
): { milliunits: number; currency: string } | undefined {
  const price = prices[country] ?? prices['*'];
  return price && { milliunits: Math.round(price.amount * MILLIUNITS), currency: price.currency };
}

/** ISO 3166-1, from two letters to three. */
async function countryCode(country: string): Promise<string | undefined> {
  // without the names in all languages
  const { default: countries } = await import('i18n-iso-countries/index.js');
  return countries.alpha2ToAlpha3(country);
}

const sign = async (payload: object, { key, x5c }: SigningChain): Promise<string> =>
  new CompactSign(new TextEncoder().encode(JSON.stringify(payload)))
    .setProtectedHeader({ alg: 'ES256', x5c })
    .sign(await importJWK(key, 'ES256'));
