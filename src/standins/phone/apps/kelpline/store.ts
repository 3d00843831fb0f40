/** What Kelpline sells, and what it gives for it. */
import type { AppStore, OwnedSale, ScreenHost, ScreenState, StoreHost } from '../../app-model.ts';

// planted: the last one is misspelt
const ASKED_FOR = ['pass.month', 'pass.year', 'no-ads', 'crossings.10', 'crossing.20'];
const GIVEN = ['pass.month', 'pass.year', 'no-ads'];

/** Once in a process. */
export function askStore(host: Pick<ScreenHost, 'storage' | 'store'>): void {
  host.storage.set('launch', host.storage.has('known') ? 'launched' : 'fresh');
  host.storage.set('known', 'yes');
  host.store.list(ASKED_FOR);
  host.store.refresh();
}

/** As the store wrote it, for a screen. */
export const offerIn = (storage: ReadonlyMap<string, string>, product: string): ScreenState => ({
  [`price ${product}`]: storage.get(`price ${product}`),
  [`name ${product}`]: storage.get(`name ${product}`),
});

export const logRestoring = (host: Pick<ScreenHost, 'log'>): void =>
  say(host, { kind: 'purchase.restoring' });

export const store: AppStore = {
  listed: ({ set, storage }, offers) => {
    for (const { id, name, price } of offers) {
      storage.set(`price ${id}`, price);
      storage.set(`name ${id}`, name);
      set(offerIn(storage, id));
    }
  },
  answered: (host, answer) => {
    const { product } = answer;
    switch (answer.outcome) {
      case 'bought':
        give(host, answer.sale);
        formatAccess(host, 'changed');
        break;
      case 'failed':
        say(host, { kind: 'purchase.failed', product, reason: answer.why });
        break;
      default:
        say(host, { kind: `purchase.${answer.outcome}`, product });
    }
  },
  owned: (host, sales, isAsked) => {
    const held = new Set(sales.filter(({ isHeld }) => isHeld).map(({ product }) => product));
    for (const sale of sales) {
      // planted: what was bought once and for all is only known where it was bought
      if (sale.product === 'no-ads') continue;
      if (!sale.isFinished || sale.isHeld) give(host, sale);
    }
    // planted: a year that is over is still given, and so is what was refunded
    if (!held.has('pass.month')) host.storage.delete('has pass.month');
    formatAccess(host, isAsked ? 'changed' : undefined);
  },
  unreachable: (host) => formatAccess(host),
};

function give(host: StoreHost, { isFinished, product, transaction }: OwnedSale): void {
  const key = product === 'crossings.10' ? `given ${transaction}` : `has ${product}`;
  if (!host.storage.has(key)) {
    host.storage.set(key, 'yes');
    say(host, { kind: 'purchase.granted', product, transaction });
  }
  // planted: crossings are never acknowledged
  if (!isFinished && product !== 'crossings.10') host.finish(transaction);
}

export function formatAccess(
  host: Pick<StoreHost, 'log' | 'storage'>,
  when = host.storage.get('launch'),
): void {
  const products = GIVEN.filter((product) => host.storage.has(`has ${product}`));
  say(host, { kind: 'access.now', products, when });
  if (when !== 'changed') host.storage.set('launch', 'resumed');
}

const say = (host: Pick<StoreHost, 'log'>, line: object): void => host.log('Fenlok', JSON.stringify(line));
