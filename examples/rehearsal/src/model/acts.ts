/** What somebody can do in a rehearsal, as it is kept to be played again. */
import { responseModes, storeOrderSchema } from 'fenlok/standins/models';
import { z } from 'zod';
import { type Mistake, mistakes } from './careful-app.ts';

const id = z.string().min(1).max(256);
const phone = z.union([z.literal(0), z.literal(1)]);
const LONGEST_WAIT_MS = 10 * 366 * 24 * 3600_000;

export const actSchema = z.discriminatedUnion('do', [
  /** Time goes by. */
  z.strictObject({ do: z.literal('wait'), ms: z.number().int().min(0).max(LONGEST_WAIT_MS) }),
  /** A tester's order to the store. */
  z.strictObject({ do: z.literal('order'), order: storeOrderSchema }),
  /** An update of the app, on both phones. */
  z.strictObject({
    do: z.literal('app'),
    isKelpline: z.boolean(),
    mistakes: z.array(z.enum(Object.keys(mistakes) as [Mistake, ...Mistake[]])),
  }),
  z.strictObject({ do: z.literal('mode'), network: id, mode: z.enum(responseModes) }),
  /** Both phones as test devices at every network. */
  z.strictObject({ do: z.literal('register') }),
  z.strictObject({ do: z.literal('load-all') }),

  z.strictObject({ do: z.literal('open'), phone }),
  z.strictObject({ do: z.literal('leave'), phone }),
  z.strictObject({ do: z.literal('end'), phone }),
  z.strictObject({ do: z.literal('remove'), phone }),
  z.strictObject({ do: z.literal('network'), phone, isOn: z.boolean() }),
  z.strictObject({ do: z.literal('buy'), phone, product: id }),
  z.strictObject({ do: z.literal('answer'), phone, isYes: z.boolean() }),
  z.strictObject({ do: z.literal('restore'), phone }),
  z.strictObject({ do: z.literal('show'), phone, placement: id }),
]);
export type Act = z.infer<typeof actSchema>;
