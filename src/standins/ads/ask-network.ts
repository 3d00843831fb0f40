/** The library of an ad network on the phone asks by HTTP, and understands what comes back. */
import { randomUUID } from 'node:crypto';
import {
  type AdAnswer,
  type AdDevice,
  type AdRequest,
  bidRequestOf,
  LARGEST_ANSWER_BYTES,
  readBid,
  tooLarge,
} from './bid-forms.ts';

const GIVES_UP_AFTER_MS = 5_000;

/** @param ads address of the networks, `http://127.0.0.1:PORT` */
export async function askNetwork(ads: string, request: AdRequest, device: AdDevice): Promise<AdAnswer> {
  try {
    const response = await fetch(`${ads}/bid/${request.network}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(bidRequestOf(randomUUID(), request, device)),
      signal: AbortSignal.timeout(GIVES_UP_AFTER_MS),
    });
    if (response.status === 204) return { outcome: 'no-fill' };
    const text = await readUpTo(response);
    if (text === undefined) return tooLarge;
    if (!response.ok) return { outcome: 'failed', reason: `HTTP ${response.status}` };
    return readBid(text, request);
  } catch (error) {
    return {
      outcome: 'failed',
      reason: (error as Error).name === 'TimeoutError' ? 'no answer in time' : 'no connection',
    };
  }
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
