/**
 * Ad networks as one exchange: each knows its placements and its test devices, and answers requests of the shape of OpenRTB 2.6
 * (IAB Tech Lab; sections 3.2 for requests, 4.2 for responses; native ads as in *OpenRTB Native 1.2*). Pure: what it answers follows from what it was told.
 */
import { z } from 'zod';
import { objectIn } from '../json-lines.ts';

const id = z.string().min(1).max(256);
const currency = z.string().regex(/^[A-Z]{3}$/, 'a currency such as EUR');
const DEFAULT_CURRENCY = 'USD';

export const exchangeSchema = z.strictObject({
  fenlok: z.literal('ad-exchange/1'),
  networks: z
    .array(
      z.strictObject({
        id: z.string().regex(/^[a-z0-9][a-z0-9-]*$/),
        /** Placements that it knows, with their formats. */
        units: z.record(id, z.enum(['banner', 'interstitial', 'rewarded', 'native'])),
        /** What it pays for a thousand, by currency (ISO 4217). */
        prices: z.record(currency, z.number().positive()).default({ [DEFAULT_CURRENCY]: 1.2 }),
      }),
    )
    .min(1),
});
export type ExchangeSetup = z.infer<typeof exchangeSchema>;

export const bidRequestSchema = z.looseObject({
  id,
  imp: z
    .array(
      z.looseObject({
        id,
        tagid: id.optional(),
        instl: z.number().int().optional(),
        rwdd: z.number().int().optional(),
        banner: z.looseObject({}).optional(),
        video: z.looseObject({}).optional(),
        native: z.looseObject({ request: z.string().min(2) }).optional(),
        bidfloor: z.number().nonnegative().default(0),
        bidfloorcur: currency.default(DEFAULT_CURRENCY),
      }),
    )
    .min(1)
    .max(20),
  app: z.looseObject({ bundle: id.optional() }).optional(),
  device: z.looseObject({ ifa: id.optional(), os: z.string().optional() }).optional(),
  /** Currencies that are taken; all, where none is named. */
  cur: z.array(currency).min(1).optional(),
  /** 1: nothing is charged, and the ad says that it is a test. */
  test: z.union([z.literal(0), z.literal(1)]).default(0),
});
export type BidRequest = z.infer<typeof bidRequestSchema>;

export const responseModes = ['fill', 'no-fill', 'slow', 'malformed', 'live', 'huge', 'drop'] as const;
export type ResponseMode = (typeof responseModes)[number];

export interface BidResponse {
  id: string;
  cur?: string;
  /** Why there is no bid (list 5.24): 2 is an invalid request. */
  nbr?: number;
  seatbid?: { seat: string; bid: Bid[] }[];
}

interface Bid {
  id: string;
  impid: string;
  price: number;
  adm: string;
  crid: string;
  ext: { test: boolean };
}

/** What a network saw: who asked it for what. */
interface AskedLine {
  network: string;
  unit: string;
  test: boolean;
  isRegistered: boolean;
  outcome: 'filled' | 'no-fill' | 'invalid';
}

const INVALID_REQUEST = 2;

export class AdExchange {
  readonly asked: AskedLine[] = [];
  readonly #setup: ExchangeSetup;
  readonly #responseModes = new Map<string, ResponseMode>();
  readonly #devices = new Map<string, Set<string>>();
  #bids = 0;

  constructor(setup: ExchangeSetup) {
    this.#setup = setup;
  }

  get networks(): string[] {
    return this.#setup.networks.map((network) => network.id);
  }
  has = (network: string): boolean => this.networks.includes(network);
  modeOf = (network: string): ResponseMode => this.#responseModes.get(network) ?? 'fill';
  setMode(network: string, mode: ResponseMode): void {
    this.#responseModes.set(network, mode);
  }

  /** A device by its advertising id, as one for tests. */
  register(network: string, advertisingId: string): void {
    const devices = this.#devices.get(network) ?? new Set();
    devices.add(advertisingId);
    this.#devices.set(network, devices);
  }
  isRegistered = (network: string, advertisingId: string): boolean =>
    this.#devices.get(network)?.has(advertisingId) ?? false;

  /** A bid for each impression that it has something for; undefined where it has nothing to show. */
  bid(network: string, request: BidRequest): BidResponse | undefined {
    const own = this.#setup.networks.find((one) => one.id === network)!;
    const cur = currencyFor(own.prices, request);
    const isRegistered = this.isRegistered(network, request.device?.ifa ?? '');
    const outcomes = request.imp.map((imp) => {
      const unit = unitFor(own.units, imp);
      const outcome = this.#outcomeOf(network, own.prices, imp, unit, cur);
      const asked = {
        network,
        unit: imp.tagid ?? unit ?? '',
        test: request.test === 1,
        isRegistered,
        outcome,
      };
      this.asked.push(asked);
      return { imp, outcome };
    });
    if (outcomes.every(({ outcome }) => outcome === 'invalid'))
      return { id: request.id, nbr: INVALID_REQUEST };
    const filled = outcomes.filter(({ outcome }) => outcome === 'filled');
    if (filled.length === 0 || cur === undefined) return undefined;
    const test = request.test === 1 && this.modeOf(network) !== 'live';
    const bid = filled.map(({ imp }) => this.#bidFor(network, imp, own.prices[cur]!, test));
    return { id: request.id, cur, seatbid: [{ seat: network, bid }] };
  }

  #outcomeOf(
    network: string,
    prices: Prices,
    { bidfloor, bidfloorcur }: Impression,
    unit: string | undefined,
    cur: string | undefined,
  ): AskedLine['outcome'] {
    if (unit === undefined) return 'invalid';
    // nobody converts: a floor in a currency that it does not pay in is too high
    const isBelowFloor = bidfloor > (prices[bidfloorcur] ?? 0);
    return this.modeOf(network) === 'no-fill' || cur === undefined || isBelowFloor ? 'no-fill' : 'filled';
  }

  #bidFor(network: string, imp: Impression, price: number, test: boolean): Bid {
    const number = String(++this.#bids);
    const words = `${test ? 'Test ad' : 'Ad'} ${number} of ${network}`;
    return {
      id: number,
      impid: imp.id,
      price,
      adm: imp.native ? nativeMarkup(imp.native.request, words, network) : words,
      crid: `creative-${number}`,
      ext: { test },
    };
  }
}

type Impression = BidRequest['imp'][number];
type Prices = Readonly<Record<string, number>>;
type Units = ExchangeSetup['networks'][number]['units'];

/** The placement that is asked for, or one of the format where none is named; undefined where there is none. */
function unitFor(units: Units, imp: Impression): string | undefined {
  const format = formatOf(imp);
  if (imp.tagid !== undefined) return units[imp.tagid] === format ? imp.tagid : undefined;
  return Object.keys(units).find((unit) => units[unit] === format);
}

/** One that both sides take: of those that are named the first, else that of the floor, else the first that it pays in. */
function currencyFor(prices: Prices, { cur, imp }: BidRequest): string | undefined {
  const taken = cur ?? [imp[0]!.bidfloorcur, ...Object.keys(prices)];
  return taken.find((one) => prices[one] !== undefined);
}

const TITLE_ONLY = { assets: [{ id: 1, title: {} }] };
const nativeRequestSchema = z.looseObject({
  assets: z.array(z.looseObject({ id: z.number().int(), title: z.looseObject({}).optional() })),
});

/** Of the assets that are asked for the titles. */
function nativeMarkup(request: string, text: string, network: string): string {
  const asked = nativeRequestSchema.safeParse(objectIn(request));
  const { assets } = asked.success ? asked.data : TITLE_ONLY;
  return JSON.stringify({
    native: {
      ver: '1.2',
      link: { url: `https://${network}.example/` },
      assets: assets.filter(({ title }) => title).map(({ id: asset }) => ({ id: asset, title: { text } })),
    },
  });
}

const formatOf = ({ banner, instl, native, rwdd, video }: Impression): string => {
  if (rwdd === 1) return 'rewarded';
  if (instl === 1) return 'interstitial';
  if (native) return 'native';
  return banner || video ? 'banner' : 'none';
};
