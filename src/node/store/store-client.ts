/** Drives a test store over the protocol of docs/purchases-and-ads.md. */
import { z } from 'zod';
import { type LedgerLine, ledgerLineSchema } from '../../core/model/ledger.ts';
import type { StoreFile } from './store-file.ts';

/** No answer, or none in time, or one that is not of the protocol. */
class StoreOutOfReach extends Error {
  override name = 'OutOfReach';
}

const offerSchema = z.object({
  id: z.string(),
  kind: z.enum(['consumable', 'non-consumable', 'subscription', 'fixed-term']),
  name: z.string(),
  description: z.string().default(''),
  price: z.string(),
  amount: z.number(),
  currency: z.string(),
  period: z.string().optional(),
});

const answerSchema = z.object({
  offers: z.array(offerSchema).max(20_000).optional(),
  transactions: z.array(z.string()).optional(),
  /** Why the store does not do it. */
  error: z.string().optional(),
  says: z.string().optional(),
});
const eventsSchema = z.object({ events: z.array(ledgerLineSchema), next: z.number().int() });
const clockSchema = z.object({ now: z.iso.datetime(), rate: z.number() });

export interface StoreClient {
  app: string;
  /** What the store does not do is in `error`. */
  order(order: object): Promise<z.infer<typeof answerSchema>>;
  /** All that happened from a place on, and the next place. */
  events(after: number): Promise<{ events: LedgerLine[]; next: number }>;
  nowMs(): Promise<number>;
  step(seconds: number): Promise<void>;
  /** @param times how many of the next requests go wrong; 0 puts an end to it */
  fail(fault: 'offline' | 'slow', times: number): Promise<void>;
}

const ANSWERS_WITHIN_MS = 10_000;
const LARGEST_ANSWER_BYTES = 16 * 1024 * 1024;

export function storeClient({ app, secret, store }: StoreFile): StoreClient {
  const call = async <T>(schema: z.ZodType<T>, path: string, body?: object): Promise<T> => {
    let text: string;
    try {
      const response = await fetch(store + path, {
        method: body ? 'POST' : 'GET',
        headers: { authorization: `Bearer ${secret}` },
        body: body && JSON.stringify(body),
        signal: AbortSignal.timeout(ANSWERS_WITHIN_MS),
      });
      text = await readUpTo(response, LARGEST_ANSWER_BYTES);
    } catch (cause) {
      throw new StoreOutOfReach(`the test store at ${store} does not answer: ${(cause as Error).message}`, {
        cause,
      });
    }
    try {
      return schema.parse(JSON.parse(text));
    } catch (cause) {
      throw new StoreOutOfReach(`the test store at ${store} answers ${path} with something else`, { cause });
    }
  };
  return {
    app,
    order: (order) => call(answerSchema, '/orders', order),
    async events(after) {
      const all: LedgerLine[] = [];
      for (let next = after; ; ) {
        const page = await call(eventsSchema, `/events?after=${next}`);
        all.push(...page.events);
        if (page.next === next) return { events: all, next };
        next = page.next;
      }
    },
    nowMs: async () => Date.parse((await call(clockSchema, '/clock')).now),
    step: async (stepS) => void (await call(clockSchema, '/clock', { stepS })),
    fail: async (fault, times) => void (await call(z.object({}), '/faults', { fault, times })),
  };
}

async function readUpTo(response: Response, limit: number): Promise<string> {
  const pieces: Uint8Array[] = [];
  let length = 0;
  for await (const piece of response.body ?? []) {
    length += piece.length;
    if (length > limit) throw new Error(`more than ${limit} bytes`);
    pieces.push(piece);
  }
  return Buffer.concat(pieces).toString('utf8');
}
