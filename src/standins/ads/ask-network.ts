/** The library of an ad network on the phone: asks by OpenRTB, and understands what comes back. */
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { objectIn } from '../push/json-lines.ts';

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

const LARGEST_ANSWER_BYTES = 1024 * 1024;
const GIVES_UP_AFTER_MS = 5_000;

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

export async function askNetwork(
  ads: string,
  { format, network, test, unit }: AdRequest,
  { advertisingId, bundle }: { advertisingId: string; bundle: string },
): Promise<AdAnswer> {
  const request = {
    id: randomUUID(),
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
  };
  try {
    const response = await fetch(`${ads}/bid/${network}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(request),
      signal: AbortSignal.timeout(GIVES_UP_AFTER_MS),
    });
    if (response.status === 204) return { outcome: 'no-fill' };
    const text = await readUpTo(response);
    if (text === undefined)
      return { outcome: 'failed', reason: `answer above ${LARGEST_ANSWER_BYTES} bytes` };
    if (!response.ok) return { outcome: 'failed', reason: `HTTP ${response.status}` };
    return understand(text);
  } catch (error) {
    return {
      outcome: 'failed',
      reason: (error as Error).name === 'TimeoutError' ? 'no answer in time' : 'no connection',
    };
  }
}

function understand(text: string): AdAnswer {
  const parsed = answerSchema.safeParse(objectIn(text));
  if (!parsed.success) return { outcome: 'failed', reason: 'answer is no bid response' };
  const { nbr, seatbid } = parsed.data;
  const bid = seatbid?.[0]?.bid[0];
  if (bid) return { outcome: 'loaded', words: bid.adm, isTest: bid.ext?.test === true };
  return nbr === undefined ? { outcome: 'no-fill' } : { outcome: 'failed', reason: `no bid, nbr ${nbr}` };
}

async function readUpTo(response: Response): Promise<string | undefined> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const piece of response.body ?? []) {
    length += piece.length;
    if (length > LARGEST_ANSWER_BYTES) return undefined;
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString('utf8');
}
