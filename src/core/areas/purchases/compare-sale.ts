/** A signed sale held against the catalogue of what is sold: the product, its kind, its group, and the price of its country. */
import type { ProductKind } from '../../model/ledger.ts';
import type { Sale } from '../../model/sale.ts';
import { nearest } from '../../platform/text/nearest.ts';

interface CatalogueProduct {
  id: string;
  kind: ProductKind;
  group?: string;
  trial?: string;
  isListed?: boolean;
  /** By country, ISO 3166-1 alpha-2; `*` is everywhere else. */
  prices: Readonly<Record<string, { amount: number; currency: string }>>;
}

export interface SaleDifference {
  part: 'product' | 'kind' | 'group' | 'price';
  found: string;
  wanted: string;
}

/** Two amounts are the same when they are, in thousandths. */
const THOUSANDTHS = 1000;

/** @param country ISO 3166-1 alpha-2 of the sale's storefront, where it is known */
export function compareSale(
  sale: Sale,
  products: readonly CatalogueProduct[],
  country?: string,
): SaleDifference[] {
  const product = products.find(({ id }) => id === sale.product);
  if (!product) {
    const near = nearest(
      sale.product,
      products.map(({ id }) => id),
    );
    return [{ part: 'product', found: sale.product, wanted: near ?? 'a product of the catalogue' }];
  }
  const differences: SaleDifference[] = [];
  if (sale.productKind !== undefined && sale.productKind !== product.kind)
    differences.push({ part: 'kind', found: sale.productKind, wanted: product.kind });
  if (sale.form === 'transaction' && (sale.group ?? '') !== (product.group ?? ''))
    differences.push({ part: 'group', found: sale.group ?? 'none', wanted: product.group ?? 'none' });
  const price = product.prices[country ?? ''] ?? product.prices['*'];
  // a trial costs nothing
  const isFree = sale.price?.amount === 0 && product.trial !== undefined;
  if (sale.price && price && !isFree) {
    const isSame =
      sale.price.currency === price.currency &&
      Math.round(sale.price.amount * THOUSANDTHS) === Math.round(price.amount * THOUSANDTHS);
    if (!isSame)
      differences.push({ part: 'price', found: formatMoney(sale.price), wanted: formatMoney(price) });
  }
  return differences;
}

const formatMoney = ({ amount, currency }: { amount: number; currency: string }): string =>
  `${amount} ${currency}`;
