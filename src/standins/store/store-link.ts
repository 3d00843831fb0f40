/** A device's way to the store: orders over HTTP. */
import type { StoreAnswer } from './serve-store.ts';
import type { StoreOrderInput } from './store-order.ts';

interface StoreLinkOptions {
  /** What the store's file says. */
  store: string;
  secret: string;
}

type Ordered =
  | ({ ok: true } & StoreAnswer)
  /** `offline` where it cannot be reached, or breaks off in the middle; else why the store does not do it. */
  | { ok: false; why: string };

const GIVES_UP_AFTER_MS = 10_000;

export class StoreLink {
  readonly #options: StoreLinkOptions;

  constructor(options: StoreLinkOptions) {
    this.#options = options;
  }

  async order(order: StoreOrderInput): Promise<Ordered> {
    const { secret, store } = this.#options;
    try {
      const response = await fetch(`${store}/orders`, {
        method: 'POST',
        headers: { authorization: `Bearer ${secret}` },
        body: JSON.stringify(order),
        signal: AbortSignal.timeout(GIVES_UP_AFTER_MS),
      });
      const answer = (await response.json()) as StoreAnswer & { error?: string };
      return response.ok ? { ok: true, ...answer } : { ok: false, why: answer.error ?? 'offline' };
    } catch {
      return { ok: false, why: 'offline' };
    }
  }
}
