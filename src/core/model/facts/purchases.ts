/** Facts of purchases: what a test store offers, what an app asked it for, and what both said of sales. */
import type { LedgerLine, ProductKind } from '../ledger.ts';
import type { Sale } from '../sale.ts';
import type { OfCapture, OfPackage } from './base.ts';

/** All that the store and the app said of sales, from one trace. */
export interface PurchaseHistoryFact extends OfCapture {
  kind: 'purchase-history';
  at: string;
  /** Of the device that the drill was run on; empty where it is no drill's. */
  deviceId: string;
  lines: LedgerLine[];
}

/** A product as the store describes it in one language and country. */
export interface StoreOfferFact extends OfPackage {
  kind: 'store-offer';
  at: string;
  product: string;
  productKind: ProductKind;
  name: string;
  description: string;
  price: string;
  amount: number;
  /** ISO 4217. */
  currency: string;
  period?: string;
  locale: string;
  country?: string;
}

/** A sale as a store signed it, from a file. */
export interface SignedSaleFact extends OfPackage {
  kind: 'signed-sale';
  /** Of its file. */
  name: string;
  sale: Sale;
}

/** What an app asked the store for, and what came back. */
export interface StoreListingFact extends OfPackage {
  kind: 'store-listing';
  at: string;
  device: string;
  asked: string[];
  returned: string[];
}
