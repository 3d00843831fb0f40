/** Every placement from every network of its waterfall: see `walks/load-ads.ts`. */
import type { Drill } from './drill.ts';
import { keepTrace } from './keep-trace.ts';
import { loadAds } from './walks/load-ads.ts';

export const ads: Drill = {
  id: 'ads',
  needs: ['ads', 'fresh-install'],
  *plan({ intent, kits }) {
    const kit = kits.ads;
    if (intent.ads.placements.every(({ load }) => load === undefined))
      yield { what: 'ads', why: 'fenlok.yaml names no placements with the steps that load them' };
    else if (!kit) yield { what: 'ads', why: 'it needs ad networks that answer: --ads FILE' };
    else
      yield {
        drill: 'ads',
        says: 'ads',
        key: '',
        estimateS: 120,
        run: async ({ dossier, intent: current, signal, subject }) =>
          keepTrace(dossier, await loadAds(subject, current, { ...kit, signal })),
      };
  },
  doneBy: (fact) => (fact.kind === 'ad-load' ? '' : undefined),
  onOneDevice: true,
};
