/** What the store sells: the team's test catalogue, from its file. */
import { z } from 'zod';
import { productKindSchema } from '../../core/model/ledger.ts';
import { isLocaleTag } from '../../core/model/locale.ts';
import { parsePeriod } from '../../core/platform/purchases/period.ts';

const text = z.string().max(4000);
const productId = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,99}$/, 'letters, digits, dot, dash and underscore');

const productSchema = z
  .strictObject({
    id: productId,
    kind: productKindSchema,
    /** ISO 8601, of a subscription or of something for a fixed term. */
    period: z
      .string()
      .refine((one) => parsePeriod(one) !== undefined, 'a period such as P1W, P1M or P1Y')
      .optional(),
    /** Only one plan of a group is owned at a time. */
    group: productId.optional(),
    /** Within its group, 1 is the highest: a change to a lower one waits for the end of the period. */
    level: z.number().int().min(1).max(100).optional(),
    /** What the first period of an account costs nothing for, ISO 8601. */
    trial: z
      .string()
      .refine((one) => parsePeriod(one) !== undefined, 'a period such as P3D or P1W')
      .optional(),
    names: z.record(
      z.string().refine(isLocaleTag, 'a BCP 47 language tag'),
      z.strictObject({ name: text.min(1), description: text.default('') }),
    ),
    /** By country, ISO 3166-1; `*` is everywhere else. */
    prices: z.record(
      z.string().regex(/^([A-Z]{2}|\*)$/, 'a country such as DE, or *'),
      z.strictObject({
        amount: z.number().nonnegative().max(1e9),
        currency: z.string().regex(/^[A-Z]{3}$/, 'a currency such as EUR'),
      }),
    ),
    /** Not for sale: a draft, or not approved yet. */
    isListed: z.boolean().default(true),
  })
  .superRefine(({ group, kind, level, period, trial }, context) => {
    const isTimed = kind === 'subscription' || kind === 'fixed-term';
    if (isTimed !== (period !== undefined))
      context.addIssue({
        code: 'custom',
        path: ['period'],
        message: isTimed ? `a ${kind} needs a period, such as P1M` : `a ${kind} has no period`,
      });
    if (trial !== undefined && kind !== 'subscription')
      context.addIssue({ code: 'custom', path: ['trial'], message: `a ${kind} has no trial` });
    if (level !== undefined && group === undefined)
      context.addIssue({ code: 'custom', path: ['level'], message: 'a level is one of a group' });
  });
export type StoreProduct = z.infer<typeof productSchema>;

const LARGEST_CATALOGUE = 20_000;

export const storeCatalogueSchema = z
  .strictObject({
    fenlok: z.literal('store-catalogue/1'),
    app: z.string().min(1),
    products: z.array(productSchema).max(LARGEST_CATALOGUE),
    testers: z
      .array(z.strictObject({ account: z.string().min(1), country: z.string().regex(/^[A-Z]{2}$/) }))
      .default([]),
  })
  .superRefine(({ products }, context) => {
    const seen = new Set<string>();
    for (const [i, { id }] of products.entries()) {
      if (seen.has(id))
        context.addIssue({ code: 'custom', path: ['products', i, 'id'], message: `"${id}" is there twice` });
      seen.add(id);
    }
  });
export type StoreCatalogue = z.infer<typeof storeCatalogueSchema>;

/** A product as a device is shown it. */
export interface Offer {
  id: string;
  kind: StoreProduct['kind'];
  name: string;
  description: string;
  /** Written out in the form of the language. */
  price: string;
  amount: number;
  currency: string;
  period?: string;
  /** Costs nothing for so long at first. */
  trial?: string;
}

export function offerOf(product: StoreProduct, country: string, locale: string): Offer | undefined {
  const price = product.prices[country] ?? product.prices['*'];
  const told = textsFor(product, locale);
  if (!product.isListed || !price || !told) return undefined;
  const { amount, currency } = price;
  return {
    id: product.id,
    kind: product.kind,
    ...told,
    price: new Intl.NumberFormat(locale, { style: 'currency', currency }).format(amount),
    amount,
    currency,
    ...(product.period !== undefined && { period: product.period }),
    ...(product.trial !== undefined && { trial: product.trial }),
  };
}

/** In the language, in the language of another country, or in the first that there is. */
function textsFor(
  { names }: StoreProduct,
  locale: string,
): { name: string; description: string } | undefined {
  const [language] = locale.split('-');
  const tag =
    [locale, language!].find((one) => names[one]) ??
    Object.keys(names).find((one) => one.split('-')[0] === language) ??
    Object.keys(names)[0];
  return tag === undefined ? undefined : names[tag];
}
