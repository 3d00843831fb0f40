/**
 * What a store and an app say of purchases, one timed event a line. None of it is a conclusion: the store says *bought*,
 * the app says *granted*, and whether the two agree is worked out elsewhere.
 */
import { z } from 'zod';
import { traceLineSchema } from './trace.ts';

const productKinds = ['consumable', 'non-consumable', 'subscription', 'fixed-term'] as const;
export const productKindSchema = z.enum(productKinds);
export type ProductKind = z.infer<typeof productKindSchema>;

const { at } = traceLineSchema.shape;
const id = z.string().min(1).max(256);
const time = z.iso.datetime({ offset: true });

const ofStore = { at, account: id, device: id.optional() };
const ofApp = { at, device: id.default('this device'), account: id.optional() };

/** One sale or one period of a subscription. */
const sale = {
  ...ofStore,
  product: id,
  transaction: id,
  /** The first transaction of the same subscription; itself where there is no other. */
  original: id,
  productKind: productKindSchema.optional(),
  /** End of what was paid for; none where it is for good. */
  until: time.optional(),
  /** The transaction that it takes the place of, from now on: another plan of the same group. */
  replaces: id.optional(),
  /** Not bought in this app on a device of the test: a web site, a gift, another app. */
  elsewhere: z.boolean().optional(),
};

export const ledgerLineSchema = z.discriminatedUnion('kind', [
  z.looseObject({ ...ofStore, kind: z.literal('store.asked'), product: id }),
  z.looseObject({ ...ofStore, kind: z.literal('store.cancelled'), product: id }),
  z.looseObject({ ...ofStore, kind: z.literal('store.failed'), product: id, reason: z.string() }),
  /** Somebody else has to agree first. */
  z.looseObject({ ...ofStore, kind: z.literal('store.deferred'), product: id, transaction: id }),
  /** A smaller plan takes the place of the one that runs, at the end of its period. */
  z.looseObject({ ...ofStore, kind: z.literal('store.planned'), product: id, original: id }),
  z.looseObject({ ...sale, kind: z.literal('store.bought') }),
  z.looseObject({ ...sale, kind: z.literal('store.renewed') }),
  /** Acknowledged: the goods were handed over. */
  z.looseObject({ ...ofStore, kind: z.literal('store.finished'), transaction: id }),
  /** A renewal could not be paid; with `until`, the goods stay until then. */
  z.looseObject({ ...ofStore, kind: z.literal('store.unpaid'), original: id, until: time.optional() }),
  z.looseObject({ ...ofStore, kind: z.literal('store.refunded'), transaction: id }),
  /** Taken back without money: a share in a family's purchase, a mistake of the store. */
  z.looseObject({ ...ofStore, kind: z.literal('store.revoked'), transaction: id }),
  z.looseObject({ ...ofStore, kind: z.literal('store.expired'), original: id }),
  z.looseObject({ ...ofStore, kind: z.literal('store.restored'), transactions: z.array(id) }),
  /** All that the tester ever bought is deleted. */
  z.looseObject({ ...ofStore, kind: z.literal('store.reset') }),
  /** What a device asked the store for, and what came back. */
  z.looseObject({
    ...ofStore,
    kind: z.literal('store.listed'),
    asked: z.array(id),
    returned: z.array(id),
  }),
  /** A product as the store describes it in one language and country. */
  z.looseObject({
    ...ofStore,
    kind: z.literal('store.offered'),
    product: id,
    productKind: productKindSchema,
    name: z.string(),
    description: z.string().default(''),
    /** As it is to be shown. */
    price: z.string(),
    amount: z.number(),
    currency: z.string(),
    period: z.string().optional(),
    locale: z.string(),
    country: z.string().optional(),
  }),
  /** A device cannot reach the store from now on; and it can again. */
  z.looseObject({ ...ofStore, kind: z.literal('store.away') }),
  z.looseObject({ ...ofStore, kind: z.literal('store.back') }),

  /** The user opens the app, or leaves it. */
  z.looseObject({ ...ofApp, kind: z.literal('app.opened') }),
  z.looseObject({ ...ofApp, kind: z.literal('app.left') }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.asked'), product: id }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.cancelled'), product: id }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.failed'), product: id, reason: z.string().optional() }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.deferred'), product: id }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.planned'), product: id }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.granted'), product: id, transaction: id.optional() }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.withdrawn'), product: id }),
  z.looseObject({ ...ofApp, kind: z.literal('purchase.restoring') }),
  /** All that the app gives the user now. */
  z.looseObject({
    ...ofApp,
    kind: z.literal('access.now'),
    products: z.array(id),
    /** What made it say so. */
    when: z.enum(['fresh', 'launched', 'resumed', 'changed']).optional(),
  }),
]);
export type LedgerLine = z.infer<typeof ledgerLineSchema>;
type LedgerKind = LedgerLine['kind'];
export type LedgerLineOf<K extends LedgerKind> = Extract<LedgerLine, { kind: K }>;

export const ledgerKinds: ReadonlySet<string> = new Set(
  ledgerLineSchema.options.map((option) => option.shape.kind.value),
);
export const isLedgerLine = (line: { kind: string }): line is LedgerLine => ledgerKinds.has(line.kind);

/** One sale, as all that was said of it adds up; the same in whatever order it was said. */
export interface LedgerTransaction {
  id: string;
  original: string;
  account: string;
  product: string;
  productKind?: ProductKind;
  boughtMs: number;
  /** Undefined where it is for good. */
  untilMs?: number;
  isRenewal: boolean;
  isElsewhere: boolean;
  /** On which device, where the store said. */
  device?: string;
}
