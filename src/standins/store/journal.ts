/** All orders that a store took, one a line, so that a restart plays them again. */
import { appendFileSync, chmodSync, existsSync, readFileSync, truncateSync } from 'node:fs';
import { z } from 'zod';
import { UnreadableError } from '../../core/model/problem.ts';
import type { StoreCatalogue } from './catalogue.ts';
import type { StoreSettings } from './sales.ts';
import { Store, type StoreReply } from './store.ts';
import { type StoreOrder, StoreRefusal, storeOrderSchema } from './store-order.ts';

const headSchema = z.strictObject({
  fenlok: z.literal('store-journal/1'),
  app: z.string(),
  startMs: z.number(),
  settings: z.strictObject({
    testClock: z.string().optional(),
    renewals: z.number().optional(),
    acknowledgeMs: z.number().optional(),
    graceMs: z.number().optional(),
    retryMs: z.number().optional(),
  }),
});
/** An order, or only that so much time had gone by. */
const entrySchema = z.strictObject({ atMs: z.number(), order: storeOrderSchema.optional() });

export interface JournaledStore {
  store: Store;
  /** Written down before it is answered. @throws StoreRefusal */
  take(order: StoreOrder, atMs: number): StoreReply;
  advanceTo(atMs: number): void;
}

/**
 * @param file made where there is none; without one, nothing is kept. Its own settings win over those given
 * @throws UnreadableError with the line that cannot be played again
 */
export function openJournal(
  file: string | undefined,
  catalogue: StoreCatalogue,
  settings: StoreSettings,
  nowMs: number,
): JournaledStore {
  const write = (entry: object) => {
    if (file === undefined) return;
    appendFileSync(file, `${JSON.stringify(entry)}\n`, { mode: 0o600 });
  };
  const journaled = (store: Store): JournaledStore => ({
    store,
    take(order, atMs) {
      // an order that is refused is told of too, and is refused again when it is played again
      write({ atMs: Math.max(atMs, store.nowMs + 1), order });
      return store.take(order, atMs);
    },
    advanceTo(atMs) {
      if (atMs <= store.nowMs) return;
      write({ atMs });
      store.advanceTo(atMs);
    },
  });
  // it tells who bought what, and the file may have been there
  if (file !== undefined && existsSync(file)) chmodSync(file, 0o600);
  if (file === undefined || !existsSync(file)) {
    write({ fenlok: 'store-journal/1', app: catalogue.app, startMs: nowMs, settings });
    return journaled(new Store(catalogue, settings, nowMs));
  }
  return journaled(playAgain(file, catalogue));
}

function playAgain(file: string, catalogue: StoreCatalogue): Store {
  const text = readFileSync(file, 'utf8');
  // a line that was being written when the store was ended is given up
  const whole = text.slice(0, text.lastIndexOf('\n') + 1);
  if (whole.length < text.length) truncateSync(file, Buffer.byteLength(whole));
  const [first = '', ...rest] = whole.split('\n').slice(0, -1);
  const head = readLine(file, first, 1, headSchema);
  if (head.app !== catalogue.app)
    throw unreadable(file, 1, `the journal of ${head.app}`, `one of ${catalogue.app}`);
  const store = new Store(catalogue, head.settings, head.startMs);
  for (const [i, line] of rest.entries()) {
    const { atMs, order } = readLine(file, line, i + 2, entrySchema);
    if (atMs < store.nowMs) throw unreadable(file, i + 2, 'a time before that of the line above');
    if (order) takeAgain(store, order, atMs);
    else store.advanceTo(atMs);
  }
  return store;
}

function takeAgain(store: Store, order: StoreOrder, atMs: number): void {
  try {
    store.take(order, atMs);
  } catch (error) {
    if (!(error instanceof StoreRefusal)) throw error;
  }
}

function readLine<T>(file: string, line: string, number: number, schema: z.ZodType<T>): T {
  try {
    return schema.parse(JSON.parse(line));
  } catch {
    throw unreadable(file, number, `“${line.slice(0, 60)}”`, 'a line that the store wrote');
  }
}

const unreadable = (file: string, line: number, found: string, expected?: string) =>
  new UnreadableError({
    code: 'store.journal',
    file,
    place: `line ${line}`,
    found,
    ...(expected !== undefined && { expected }),
    remedy: 'Begin a new journal, or give the catalogue that this one was begun with.',
  });
