/** An app that does everything right with what an intent file says of purchases and ads; and mistakes that it can be given. */
import type { Intent } from 'fenlok';
import type { AdRequest, OwnedSale, StoreHost } from 'fenlok/standins/models';
import type { AppHost, RehearsedApp } from './app.ts';

export const mistakes = {
  'never-finishes': 'never finishes a sale',
  'gives-unpaid': 'gives it before it is paid',
  'asks-only-on-request': 'asks the store only when its user restores',
  'keeps-ended': 'keeps what has expired or was refunded',
  'knows-own-only': 'knows only what was bought on the same phone',
  'needs-the-store': 'gives nothing while the store is away',
  'asks-in-background': 'goes on asking the store after it was left',
  'asks-no-consent': 'asks networks before its user has agreed',
  'asks-live': 'asks for live ads',
  'shows-after-removal': 'shows ads after their removal was bought',
} as const;
export type Mistake = keyof typeof mistakes;

const BACKGROUND_MS = 12 * 3600_000;

export function carefulApp(intent: Intent, made: ReadonlySet<Mistake>): RehearsedApp {
  const { placements, removedBy } = intent.ads;
  const asked = intent.purchases.products.map(({ id }) => id);
  /** What is not used up, and so is given as long as it is paid for. */
  const kept = intent.purchases.products.filter(({ kind }) => kind !== 'consumable').map(({ id }) => id);
  const networks = [
    ...new Set(placements.flatMap(({ waterfall }) => waterfall.map(({ network }) => network))),
  ];
  const waterfalls = new Map(
    placements.map(({ format, id, waterfall }) => [
      id,
      waterfall.map(
        ({ network, parameters }): AdRequest => ({
          network,
          unit: onAndroid(parameters.unit ?? Object.values(parameters)[0]) ?? id,
          format,
          test: !made.has('asks-live'),
        }),
      ),
    ]),
  );

  function askStore(host: AppHost): void {
    if (asked.length === 0) return;
    host.store.list(asked);
    if (made.has('asks-only-on-request')) formatAccess(host);
    else host.store.refresh();
  }

  function startAds(host: AppHost): void {
    if (networks.length === 0 || !host.ads.isThere) return;
    const consent = host.storage.get('consent');
    if (consent === undefined) {
      say(host, { kind: 'consent.asked' });
      host.askConsent();
    }
    if (consent === undefined && !made.has('asks-no-consent')) return;
    initialise(host);
  }
  function initialise(host: AppHost): void {
    host.memory.set('initialised', true);
    for (const network of networks) say(host, { kind: 'ad.initialised', network });
  }

  /** What ran out before it was ever finished is finished only. */
  function give(host: StoreHost, { isFinished, isHeld, original, product, transaction }: OwnedSale): void {
    const key = kept.includes(product) ? `has ${product}` : `given ${transaction}`;
    if (isHeld && host.storage.get(key) !== original) {
      host.storage.set(key, original);
      say(host, { kind: 'purchase.granted', product, transaction });
    }
    if (!isFinished && !made.has('never-finishes')) host.finish(transaction);
  }

  const given = ({ storage }: Pick<StoreHost, 'storage'>) =>
    kept.filter((product) => storage.has(`has ${product}`));
  function formatAccess(host: Pick<StoreHost, 'log' | 'storage'>, when = host.storage.get('launch')): void {
    say(host, { kind: 'access.now', products: given(host), when });
    if (when !== 'changed') host.storage.set('launch', 'resumed');
  }

  const isShown = (host: Pick<StoreHost, 'storage'>): boolean =>
    removedBy === undefined || !host.storage.has(`has ${removedBy}`) || made.has('shows-after-removal');

  return {
    launched: (host) => {
      host.storage.set('launch', host.storage.has('known') ? 'launched' : 'fresh');
      host.storage.set('known', 'yes');
      if (made.has('asks-only-on-request')) for (const product of kept) host.storage.delete(`has ${product}`);
      askStore(host);
      startAds(host);
    },
    resumed: (host) => {
      if (!made.has('asks-only-on-request')) host.store.refresh();
    },
    looked: (host) => formatAccess(host),
    buying: (host, product) => {
      if (made.has('gives-unpaid') && kept.includes(product)) {
        host.storage.set(`has ${product}`, 'unpaid');
        say(host, { kind: 'purchase.granted', product });
        formatAccess(host, 'changed');
      }
      host.store.buy(product);
    },
    restoring: (host) => {
      say(host, { kind: 'purchase.restoring' });
      host.store.restore();
    },
    consented: (host, agrees) => {
      host.storage.set('consent', agrees ? 'given' : 'refused');
      say(host, { kind: agrees ? 'consent.given' : 'consent.refused' });
      if (!host.memory.has('initialised')) initialise(host);
    },
    load: (host, placement, place) => {
      const request = waterfalls.get(placement)?.[place];
      if (!request || !host.memory.has('initialised') || !isShown(host)) return;
      say(host, { kind: 'ad.requested', placement, network: request.network, test: request.test });
      host.ads.load(placement, request);
    },
    show: (host, placement) => {
      const loaded = host.memory.get(`ad ${placement}`) as { network: string; words: string } | undefined;
      if (!loaded || !isShown(host)) return;
      host.memory.delete(`ad ${placement}`);
      say(host, { kind: 'ad.showed', placement, network: loaded.network });
      host.ads.show(placement, loaded.network, loaded.words);
    },
    ...(made.has('asks-in-background') && {
      background: { everyMs: BACKGROUND_MS, run: (host: AppHost) => host.store.refresh() },
    }),
    store: {
      listed: () => {},
      answered: (host, answer) => {
        if (answer.outcome === 'bought') {
          host.storage.set(`own ${answer.sale.original}`, 'yes');
          give(host, answer.sale);
          formatAccess(host, 'changed');
        } else if (answer.outcome === 'failed')
          say(host, { kind: 'purchase.failed', product: answer.product, reason: answer.why });
        else say(host, { kind: `purchase.${answer.outcome}`, product: answer.product });
      },
      owned: (host, sales, isAsked) => {
        const known = made.has('knows-own-only')
          ? sales.filter(({ original }) => host.storage.has(`own ${original}`))
          : sales;
        for (const sale of known) give(host, sale);
        const held = new Set(known.filter(({ isHeld }) => isHeld).map(({ product }) => product));
        if (!made.has('keeps-ended'))
          for (const product of kept) if (!held.has(product)) host.storage.delete(`has ${product}`);
        formatAccess(host, isAsked ? 'changed' : undefined);
      },
      unreachable: (host) => {
        if (made.has('needs-the-store')) for (const product of kept) host.storage.delete(`has ${product}`);
        formatAccess(host);
      },
    },
    ads: {
      answered: (host, placement, request, answer) => {
        const { network } = request;
        if (answer.outcome === 'loaded') {
          say(host, { kind: 'ad.loaded', placement, network });
          host.memory.set(`ad ${placement}`, { network, words: answer.words });
          return;
        }
        const reason = answer.outcome === 'no-fill' ? 'no-fill' : answer.reason;
        say(host, { kind: 'ad.failed', placement, network, reason });
      },
      closed: (host, placement) => say(host, { kind: 'ad.closed', placement }),
    },
  };
}

type Parameter = string | { android?: string | undefined; ios?: string | undefined } | undefined;
const onAndroid = (value: Parameter): string | undefined =>
  typeof value === 'object' ? value.android : value;

const say = (host: Pick<StoreHost, 'log'>, line: object): void => host.log('Fenlok', JSON.stringify(line));
