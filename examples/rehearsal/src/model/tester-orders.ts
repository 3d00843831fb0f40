/** What a tester can let the store do to one product, and on what of it. */
import type { StoreOrder } from 'fenlok/standins/models';
import type { Rehearsal } from './rehearsal.ts';

export interface TesterOrder {
  label: string;
  /** Undefined where there is nothing to do it to. */
  order?: StoreOrder;
}

export function testerOrders({ account, lines, store }: Rehearsal, product: string): TesterOrder[] {
  const own = store.transactions.filter(
    (one) => one.account === account && one.product === product && !one.isDeleted,
  );
  const sale = own.findLast(
    ({ refundedMs, revokedMs }) => refundedMs === undefined && revokedMs === undefined,
  );
  const kind = store.catalogue.products.find(({ id }) => id === product)?.kind;
  const original = kind === 'subscription' ? own.at(-1)?.original : undefined;
  const waiting = lines.findLast((line) => line.kind === 'store.deferred' && line.product === product);
  const deferred = waiting?.transaction as string | undefined;
  const isAnswered =
    waiting === undefined ||
    lines
      .slice(lines.indexOf(waiting))
      .some(({ kind, product: of, transaction }) =>
        kind === 'store.bought' ? transaction === deferred : kind === 'store.cancelled' && of === product,
      );
  const of = <O extends StoreOrder>(target: string | undefined, make: (id: string) => O): O | undefined =>
    target === undefined ? undefined : make(target);
  const waits = isAnswered ? undefined : deferred;
  return [
    { label: 'Bought elsewhere', order: { do: 'elsewhere', account, product } },
    { label: 'Refund', order: of(sale?.id, (transaction) => ({ do: 'refund', transaction })) },
    { label: 'Take back', order: of(sale?.id, (transaction) => ({ do: 'revoke', transaction })) },
    { label: 'Somebody agrees', order: of(waits, (transaction) => ({ do: 'agree', transaction })) },
    { label: 'Somebody declines', order: of(waits, (transaction) => ({ do: 'decline', transaction })) },
    ...(kind === 'subscription'
      ? [
          { label: 'Renew now', order: of(original, (id) => ({ do: 'renew', original: id })) },
          { label: 'End now', order: of(original, (id) => ({ do: 'expire', original: id })) },
          {
            label: 'Renew no more',
            order: of(original, (id) => ({ do: 'renewal', original: id, isOn: false })),
          },
          {
            label: 'Renew again',
            order: of(original, (id) => ({ do: 'renewal', original: id, isOn: true })),
          },
          {
            label: 'Payments fail',
            order: of(original, (id) => ({ do: 'payment', original: id, fails: true })),
          },
          {
            label: 'Payments work',
            order: of(original, (id) => ({ do: 'payment', original: id, fails: false })),
          },
        ]
      : []),
  ];
}
