import type { SignedSaleFact } from '../../../model/facts/purchases.ts';
import type { SaleObserver } from '../../observer.ts';

/** A sale as a store signed it, verified and taken apart. */
export const observeSale = {
  id: 'sale',
  reads: 'sale',
  *observe({ digest, name, platform, sale }) {
    yield { kind: 'signed-sale', platform, evidence: digest, name, sale } satisfies SignedSaleFact;
  },
} satisfies SaleObserver;
