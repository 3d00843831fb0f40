/** Every product through a test store: see `walks/buy.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { buyEverything } from './walks/buy.ts';

export const purchases: Drill = {
  id: 'purchases',
  needs: ['store', 'fresh-install'],
  *plan({ intent, kits: { store } }) {
    if (intent.purchases.products.every(({ buy }) => buy.length === 0))
      yield { what: 'purchases', why: 'fenlok.yaml names no products with the steps that buy them' };
    else if (!store) yield { what: 'purchases', why: 'it needs a test store to buy from: --store FILE' };
    else
      yield {
        drill: 'purchases',
        says: 'purchases',
        key: '',
        estimateS: 300,
        run: async ({ dossier, intent: current, signal, subject }) =>
          keepTrace(dossier, await buyEverything(subject, current, { ...store, signal })),
      };
  },
  doneBy: (fact) =>
    fact.kind === 'purchase-history' && fact.cell.procedure === 'purchases' ? '' : undefined,
  onOneDevice: true,
};
