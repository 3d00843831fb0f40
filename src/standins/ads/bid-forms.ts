/** Requests and answers between the library of an ad network in an app and the network itself: shapes of OpenRTB 2.6. Pure. */
import { z } from 'zod';
import { objectIn } from '../json-lines.ts';
import type { BidResponse, ResponseMode } from './exchange.ts';

export interface AdRequest {
  network: string;
  unit: string;
  format: 'banner' | 'interstitial' | 'rewarded' | 'native';
  test: boolean;
  /** For less than this, for a thousand, nothing is shown. */
  floor?: { amount: number; currency: string };
}

export type AdAnswer =
  | { outcome: 'loaded'; words: string; isTest: boolean }
  | { outcome: 'no-fill' }
  | { outcome: 'failed'; reason: string };

/** Who asks. */
export interface AdDevice {
  advertisingId: string;
  /** Id of the app. */
  bundle: string;
}

const NATIVE_VERSION = '1.2';
const TITLE_LENGTH = 90;
/** A title and nothing else (*OpenRTB Native 1.2*, section 4). */
const NATIVE_REQUEST = JSON.stringify({
  ver: NATIVE_VERSION,
  assets: [{ id: 1, required: 1, title: { len: TITLE_LENGTH } }],
});

export const bidRequestOf = (
  id: string,
  { floor, format, test, unit }: AdRequest,
  { advertisingId, bundle }: AdDevice,
) => ({
  id,
  imp: [
    {
      id: '1',
      tagid: unit,
      ...(format === 'native'
        ? { native: { request: NATIVE_REQUEST, ver: NATIVE_VERSION } }
        : { banner: {} }),
      ...((format === 'interstitial' || format === 'rewarded') && { instl: 1 as const }),
      ...(format === 'rewarded' && { rwdd: 1 as const }),
      ...(floor && { bidfloor: floor.amount, bidfloorcur: floor.currency }),
    },
  ],
  ...(floor && { cur: [floor.currency] }),
  app: { bundle },
  device: { ifa: advertisingId, os: 'Android' },
  test: test ? (1 as const) : (0 as const),
});

const HUGE_BYTES = 10 * 1024 * 1024;

/** The body of an answer, as a network in this mode sends it. */
export function bodyIn(mode: ResponseMode, answered: BidResponse): string {
  if (mode === 'malformed') return JSON.stringify(answered).slice(0, -9);
  if (mode === 'huge') return JSON.stringify({ ...answered, ext: { fill: 'x'.repeat(HUGE_BYTES) } });
  return JSON.stringify(answered);
}

/** More of an answer is not read. */
export const LARGEST_ANSWER_BYTES = 1024 * 1024;
export const tooLarge: AdAnswer = {
  outcome: 'failed',
  reason: `answer above ${LARGEST_ANSWER_BYTES} bytes`,
};

const answerSchema = z.looseObject({
  nbr: z.number().int().optional(),
  cur: z.string().default('USD'),
  seatbid: z
    .array(
      z.looseObject({
        bid: z.array(
          z.looseObject({
            price: z.number(),
            /** It may come by another way, which nobody here goes. */
            adm: z.string().optional(),
            ext: z.looseObject({ test: z.boolean().optional() }).optional(),
          }),
        ),
      }),
    )
    .optional(),
});

export function readBid(text: string, { floor, format }: AdRequest): AdAnswer {
  const parsed = answerSchema.safeParse(objectIn(text));
  if (!parsed.success) return failed('answer is no bid response');
  const { cur, nbr, seatbid } = parsed.data;
  const bid = seatbid?.[0]?.bid[0];
  if (!bid) return nbr === undefined ? { outcome: 'no-fill' } : failed(`no bid, nbr ${nbr}`);
  if (floor && (cur !== floor.currency || bid.price < floor.amount))
    return failed(`bid of ${bid.price} ${cur}, below ${floor.amount} ${floor.currency}`);
  const words = format === 'native' ? titleIn(bid.adm ?? '') : bid.adm;
  return words ? { outcome: 'loaded', words, isTest: bid.ext?.test === true } : failed('bid without an ad');
}

const failed = (reason: string): AdAnswer => ({ outcome: 'failed', reason });

const nativeSchema = z.looseObject({
  native: z.looseObject({
    assets: z.array(z.looseObject({ title: z.looseObject({ text: z.string() }).optional() })),
  }),
});

function titleIn(markup: string): string | undefined {
  const parsed = nativeSchema.safeParse(objectIn(markup));
  return parsed.success ? parsed.data.native.assets.find(({ title }) => title)?.title?.text : undefined;
}

/** Under which a network's library logs. */
export const logTagOf = ({ network }: AdRequest): string =>
  network.charAt(0).toUpperCase() + network.slice(1);

export const formatRequest = ({ test, unit }: AdRequest): string => `loading ${unit}${test ? ' (test)' : ''}`;

export function formatAnswer({ unit }: AdRequest, answer: AdAnswer): string {
  if (answer.outcome === 'loaded') return `loaded ${unit}${answer.isTest ? ' (test)' : ''}`;
  return `${unit}: ${answer.outcome === 'failed' ? answer.reason : 'no fill'}`;
}
