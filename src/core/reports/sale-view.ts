/** A signed sale for people: whether it is believed, what was sold, and where it differs from the catalogue. */

import type { SaleDifference } from '../areas/purchases/compare-sale.ts';
import type { Sale, SaleTrust } from '../model/sale.ts';
import type { TextStyle } from './text-style.ts';
import { wrap } from './wrap.ts';

interface SaleViewed {
  file: string;
  sale: Sale;
  /** Undefined where no catalogue was given. */
  differences?: readonly SaleDifference[];
}

const FORMS = {
  transaction: "a transaction as iOS's store signs it",
  purchase: "a purchase as Android's store signs it",
};
const VOUCHERS = {
  apple: 'by a certificate that leads to an Apple root',
  'test-store': 'by the test store that was given',
  'license-key': 'by the license key that was given',
};
const STATES = {
  bought: 'bought',
  renewed: 'renewed',
  pending: 'not paid yet',
  cancelled: 'cancelled or given back',
};
const PARTS = { product: 'product', kind: 'kind', group: 'group', price: 'price' };

export function saleView(
  { differences, file, sale }: SaleViewed,
  { style, widthColumns }: { style: TextStyle; widthColumns: number },
): string {
  const rows: [name: string, value: string | undefined][] = [
    ['app', sale.appId],
    [
      'product',
      [sale.product, sale.productKind, sale.group && `group ${sale.group}`].filter(Boolean).join(', '),
    ],
    [
      'sale',
      [sale.transaction || 'no order number', sale.original !== sale.transaction && `of ${sale.original}`]
        .filter(Boolean)
        .join(', '),
    ],
    [STATES[sale.state], [sale.boughtAt, sale.until && `until ${sale.until}`].filter(Boolean).join(', ')],
    ['taken back', sale.takenBackAt],
    [
      'price',
      sale.price &&
        `${sale.price.amount} ${sale.price.currency}${sale.storefront ? ` in ${sale.storefront}` : ''}`,
    ],
    ['account', sale.accountToken],
    [
      'finished',
      sale.acknowledged === undefined ? undefined : sale.acknowledged ? 'acknowledged' : 'not acknowledged',
    ],
    ['environment', sale.environment],
  ];
  const width = Math.max(...rows.map(([name]) => name.length)) + 2;
  return [
    `${style.strong(file)}  ${FORMS[sale.form]}`,
    ...wrap(formatTrust(sale.trust, style), widthColumns, 0, 4),
    '',
    ...rows.flatMap(([name, value]) =>
      value === undefined ? [] : wrap(`${name.padEnd(width)}${value}`, widthColumns, 0, width),
    ),
    ...(differences ? ['', ...formatDifferences(differences, style)] : []),
    '',
  ].join('\n');
}

function formatTrust(trust: SaleTrust, style: TextStyle): string {
  switch (trust.is) {
    case 'verified':
      return `${style.outcome('passed', '■')} Signed ${VOUCHERS[trust.by]}`;
    case 'refused':
      return `${style.outcome('failed', '▲')} Not signed as it should be: ${trust.why}`;
    case 'unchecked':
      return `${style.outcome('cantTell', '◐')} Its signature was not checked: ${
        trust.lacking === 'root'
          ? "its root is not Apple's; name the test store's file with --store"
          : "name the app's license key with --license-key, or the test store's file with --store"
      }`;
    default:
      return trust satisfies never;
  }
}

function formatDifferences(differences: readonly SaleDifference[], style: TextStyle): string[] {
  if (differences.length === 0) return [`${style.outcome('passed', '■')} As the catalogue has it`];
  return differences.map(
    ({ found, part, wanted }) =>
      `${style.outcome('failed', '▲')} ${PARTS[part]}: ${found}; the catalogue has ${wanted}`,
  );
}
