/** What can be asked of the store. Each order is written into its journal, and played again after a restart. */
import { z } from 'zod';

const id = z.string().min(1).max(256);
const whose = { account: id, device: id.optional() };

export const storeOrderSchema = z.discriminatedUnion('do', [
  // --- by a device
  z.strictObject({
    do: z.literal('list'),
    ...whose,
    products: z.array(id).max(20_000),
    locale: z.string().min(2).max(40).default('en'),
  }),
  /** The user touched the button: the store's own question comes up. */
  z.strictObject({
    do: z.literal('ask'),
    ...whose,
    product: id,
    /** By which the app tells its own account, kept with what is sold. */
    accountToken: z.uuid().optional(),
  }),
  z.strictObject({ do: z.literal('answer'), ...whose, order: id, buys: z.boolean() }),
  z.strictObject({ do: z.literal('finish'), ...whose, transaction: id }),
  z.strictObject({ do: z.literal('restore'), ...whose }),

  // --- by the tester
  z.strictObject({ do: z.literal('tester'), account: id, country: z.string().regex(/^[A-Z]{2}$/) }),
  /** How the next purchases of an account come out, whatever is answered. */
  z.strictObject({
    do: z.literal('next'),
    account: id,
    outcome: z.enum(['buy', 'cancel', 'fail', 'defer']),
    times: z.number().int().min(1).max(1000).default(1),
  }),
  /** Bought on the web, or in another app. */
  z.strictObject({ do: z.literal('elsewhere'), account: id, product: id }),
  /** Somebody agrees to what was deferred, or does not. */
  z.strictObject({ do: z.literal('agree'), transaction: id }),
  z.strictObject({ do: z.literal('decline'), transaction: id }),
  z.strictObject({ do: z.literal('refund'), transaction: id }),
  z.strictObject({ do: z.literal('revoke'), transaction: id }),
  z.strictObject({ do: z.literal('renew'), original: id }),
  z.strictObject({ do: z.literal('expire'), original: id }),
  /** From now on it is not renewed by itself; or it is again. */
  z.strictObject({ do: z.literal('renewal'), original: id, isOn: z.boolean() }),
  /** Its payments fail from now on, or succeed again; the store goes on trying, and may leave the goods for a while. */
  z.strictObject({ do: z.literal('payment'), original: id, fails: z.boolean() }),
  z.strictObject({ do: z.literal('reset'), account: id }),
]);
export type StoreOrder = z.infer<typeof storeOrderSchema>;
export type StoreOrderInput = z.input<typeof storeOrderSchema>;

/** Why the store does not do it. */
export type Refusal =
  | 'unknown-product'
  | 'unknown-transaction'
  | 'unknown-order'
  | 'owned'
  | 'payment-refused'
  | 'clock-goes-back';

export class StoreRefusal extends Error {
  readonly code: Refusal;
  constructor(code: Refusal, message: string) {
    super(message);
    this.name = 'StoreRefusal';
    this.code = code;
  }
}
