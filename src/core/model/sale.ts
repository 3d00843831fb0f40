/** A sale as a store signed it, from a file: whose app and product it is, and who vouches for that. */
import type { ProductKind } from './ledger.ts';

/** What a file is verified with besides Apple's roots. */
export interface SaleKeys {
  /** Of a test store: base64 of its root certificate. */
  root?: string;
  /** Of an Android app at its store, or of a test store: base64 of the subject public key info. */
  licenseKey?: string;
}

export type SaleTrust =
  | { is: 'verified'; by: 'apple' | 'test-store' | 'license-key' }
  /** Nothing was given to verify it with. */
  | { is: 'unchecked'; lacking: 'licenseKey' | 'root' }
  /** `why` in words, for people. */
  | { is: 'refused'; why: string };

export interface Sale {
  form: 'transaction' | 'purchase';
  trust: SaleTrust;
  appId: string;
  product: string;
  /** iOS; what Android signs does not tell. */
  productKind?: ProductKind;
  transaction: string;
  original: string;
  /** ISO 8601, as all times here. */
  boughtAt: string;
  until?: string;
  takenBackAt?: string;
  state: 'bought' | 'renewed' | 'pending' | 'cancelled';
  /** iOS: in the currency's own unit. */
  price?: { amount: number; currency: string };
  /** iOS: ISO 3166-1 alpha-3. */
  storefront?: string;
  /** iOS: of subscriptions that take each other's place. */
  group?: string;
  /** The app's own account, as it told when it was bought. */
  accountToken?: string;
  /** iOS. */
  environment?: string;
  /** Android. */
  acknowledged?: boolean;
}
