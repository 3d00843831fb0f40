/** Requests and answers between the library of an ad network in an app and the network itself: shapes of OpenRTB 2.6. Pure. */
import { z } from 'zod';
import { objectIn } from '../push/json-lines.ts';
import type { BidResponse, Mood } from './exchange.ts';

export interface AdRequest {
  network: string;
  unit: string;
  format: 'banner' | 'interstitial' | 'rewarded' | 'native';
  test: boolean;
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

export const bidRequestOf = (
  id: string,
  { format, test, unit }: AdRequest,
  { advertisingId, bundle }: AdDevice,
) => ({
  id,
  imp: [
    {
      id: '1',
      tagid: unit,
      ...(format === 'native' ? { native: {} } : { banner: {} }),
      ...((format === 'interstitial' || format === 'rewarded') && { instl: 1 }),
      ...(format === 'rewarded' && { rwdd: 1 }),
    },
  ],
  app: { bundle },
  device: { ifa: advertisingId, os: 'Android' },
  test: test ? 1 : 0,
});

const HUGE_BYTES = 10 * 1024 * 1024;

/** The body of an answer, as a network in this mood sends it. */
export function bodyIn(mood: Mood, answered: BidResponse): string {
  if (mood === 'malformed') return JSON.stringify(answered).slice(0, -9);
  if (mood === 'huge') return JSON.stringify({ ...answered, ext: { fill: 'x'.repeat(HUGE_BYTES) } });
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
  seatbid: z
    .array(
      z.looseObject({
        bid: z.array(
          z.looseObject({
            adm: z.string(),
            ext: z.looseObject({ test: z.boolean().optional() }).optional(),
          }),
        ),
      }),
    )
    .optional(),
});

export function readBid(text: string): AdAnswer {
  const parsed = answerSchema.safeParse(objectIn(text));
  if (!parsed.success) return { outcome: 'failed', reason: 'answer is no bid response' };
  const { nbr, seatbid } = parsed.data;
  const bid = seatbid?.[0]?.bid[0];
  if (bid) return { outcome: 'loaded', words: bid.adm, isTest: bid.ext?.test === true };
  return nbr === undefined ? { outcome: 'no-fill' } : { outcome: 'failed', reason: `no bid, nbr ${nbr}` };
}

/** Under which a network's library logs. */
export const logTagOf = ({ network }: AdRequest): string =>
  network.charAt(0).toUpperCase() + network.slice(1);

export const sayRequest = ({ test, unit }: AdRequest): string => `loading ${unit}${test ? ' (test)' : ''}`;

export function sayAnswer({ unit }: AdRequest, answer: AdAnswer): string {
  if (answer.outcome === 'loaded') return `loaded ${unit}${answer.isTest ? ' (test)' : ''}`;
  return `${unit}: ${answer.outcome === 'failed' ? answer.reason : 'no fill'}`;
}
