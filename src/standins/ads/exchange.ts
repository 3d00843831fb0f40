/**
 * Ad networks as one exchange: each knows its placements and its test devices, and answers requests of the shape of OpenRTB 2.6
 * (IAB Tech Lab; sections 3.2 for requests, 4.2 for responses). Pure: what it answers follows from what it was told.
 */
import { z } from 'zod';

const id = z.string().min(1).max(256);

export const exchangeSchema = z.strictObject({
  fenlok: z.literal('ad-exchange/1'),
  networks: z
    .array(
      z.strictObject({
        id: z.string().regex(/^[a-z0-9][a-z0-9-]*$/),
        /** Placements that it knows, with their formats. */
        units: z.record(id, z.enum(['banner', 'interstitial', 'rewarded', 'native'])),
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
        tagid: id,
        instl: z.number().int().optional(),
        rwdd: z.number().int().optional(),
        banner: z.looseObject({}).optional(),
        video: z.looseObject({}).optional(),
        native: z.looseObject({}).optional(),
      }),
    )
    .min(1)
    .max(20),
  app: z.looseObject({ bundle: id }),
  device: z.looseObject({ ifa: id.optional(), os: z.string().optional() }),
  /** 1: nothing is charged, and the ad says that it is a test. */
  test: z.union([z.literal(0), z.literal(1)]).default(0),
});
export type BidRequest = z.infer<typeof bidRequestSchema>;

export const moods = ['fill', 'no-fill', 'slow', 'malformed', 'live', 'huge', 'drop'] as const;
export type Mood = (typeof moods)[number];

export interface BidResponse {
  id: string;
  cur?: string;
  /** Why there is no bid (list 5.24): 2 is an invalid request. */
  nbr?: number;
  seatbid?: {
    seat: string;
    bid: { id: string; impid: string; price: number; adm: string; crid: string; ext: { test: boolean } }[];
  }[];
}

/** What a network saw: who asked it for what. */
export interface AskedLine {
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
  readonly #moods = new Map<string, Mood>();
  readonly #devices = new Map<string, Set<string>>();
  #bids = 0;

  constructor(setup: ExchangeSetup) {
    this.#setup = setup;
  }

  get networks(): string[] {
    return this.#setup.networks.map((network) => network.id);
  }
  has = (network: string): boolean => this.networks.includes(network);
  moodOf = (network: string): Mood => this.#moods.get(network) ?? 'fill';
  setMood(network: string, mood: Mood): void {
    this.#moods.set(network, mood);
  }

  /** A device by its advertising id, as one for tests. */
  register(network: string, advertisingId: string): void {
    const devices = this.#devices.get(network) ?? new Set();
    devices.add(advertisingId);
    this.#devices.set(network, devices);
  }
  isRegistered = (network: string, advertisingId: string): boolean =>
    this.#devices.get(network)?.has(advertisingId) ?? false;

  /** Undefined where it has nothing to show. */
  bid(network: string, request: BidRequest): BidResponse | undefined {
    const { units } = this.#setup.networks.find((one) => one.id === network)!;
    const [imp] = request.imp;
    const unit = imp!.tagid;
    const isRegistered = this.isRegistered(network, request.device.ifa ?? '');
    const note = (outcome: AskedLine['outcome']) =>
      this.asked.push({ network, unit, test: request.test === 1, isRegistered, outcome });
    if (units[unit] === undefined || units[unit] !== formatOf(imp!)) {
      note('invalid');
      return { id: request.id, nbr: INVALID_REQUEST };
    }
    const mood = this.moodOf(network);
    if (mood === 'no-fill') {
      note('no-fill');
      return undefined;
    }
    note('filled');
    const test = request.test === 1 && mood !== 'live';
    const number = String(++this.#bids);
    return {
      id: request.id,
      cur: 'USD',
      seatbid: [
        {
          seat: network,
          bid: [
            {
              id: number,
              impid: imp!.id,
              price: test ? 0 : 1.2,
              adm: `${test ? 'Test ad' : 'Ad'} ${number} of ${network}`,
              crid: `creative-${number}`,
              ext: { test },
            },
          ],
        },
      ],
    };
  }
}

const formatOf = ({ banner, instl, native, rwdd }: BidRequest['imp'][number]): string => {
  if (rwdd === 1) return 'rewarded';
  if (instl === 1) return 'interstitial';
  if (native) return 'native';
  return banner ? 'banner' : 'none';
};
