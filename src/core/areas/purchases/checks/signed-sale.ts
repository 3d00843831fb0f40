/** A sale that the store signed holds: its signature, and it is of this app and of a product that is meant, and of the kind that is meant. */

import { z } from 'zod';
import type { SignedSaleFact } from '../../../model/facts/purchases.ts';
import { nearest } from '../../../platform/text/nearest.ts';
import type { Assertion, Draft, IntentWith } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { quote } from '../../words.ts';

const dataSchema = z.intersection(
  /** Of the file. */
  z.object({ name: z.string() }),
  z.union([
    z.object({ fault: z.literal('refused'), why: z.string() }),
    z.object({ fault: z.literal('other-app'), found: z.string(), wanted: z.string() }),
    z.object({ fault: z.literal('not-intended'), product: z.string(), near: z.string() }),
    z.object({ fault: z.literal('kind'), product: z.string(), found: z.string(), wanted: z.string() }),
    z.object({ fault: z.literal('unchecked'), lacking: z.enum(['root', 'licenseKey']) }),
  ]),
);
type Data = z.infer<typeof dataSchema>;

export const signedSale = defineCheck({
  id: 'signed-sale',
  area: 'purchases',
  priority: 'cannot-use',
  standard: 'RFC 7515 (JWS); Apple, JWSTransaction; Android, Google Play Billing, Verify purchases',
  basis: 'either',
  needs: 'signed-sale',
  data: dataSchema,
  words: (data) => {
    const [what, measured, required, remedy] = wordsOf(data);
    return {
      what: `${data.name}: ${what}`,
      measured,
      required,
      why: 'Who gives goods for a sale that the store did not sign, or for another product, gives them away.',
      remedy,
    };
  },

  *run(facts, intent): Iterable<Assertion<Data>> {
    for (const fact of facts.of('signed-sale')) {
      const faults = [...faultsOf(fact, intent)];
      for (const data of faults) yield { outcome: 'failed', draft: draftOf(fact, 'measured', data) };
      if (faults.length > 0) continue;
      const { trust } = fact.sale;
      if (trust.is === 'unchecked')
        yield {
          outcome: 'cantTell',
          draft: draftOf(fact, 'estimated', { name: fact.name, fault: 'unchecked', lacking: trust.lacking }),
        };
      else yield { outcome: 'passed' };
    }
  },

  doc: {
    looksAt: 'A signed transaction or purchase that was added as a file',
    against:
      "Signed by Apple's store, by the app's own key at Android's, or by the test store that is named; of this app; a product of `purchases.products`, of the kind that it says",
    matters: 'Who gives goods for a sale that the store did not sign gives them away.',
    measured:
      "The signature of the file, up to Apple's root, by the app's own key at Android's store, or by the key of a named test store; app id, product and kind.",
    errs: 'Without the key nothing is decided. Revocation is asked for only where a test store answers.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'check(Signature.getInstance("SHA1withRSA").run { initVerify(key); update(json); verify(signature) })',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'guard case .verified(let sale) = result, sale.appBundleID == Bundle.main.bundleIdentifier else { return }',
      },
    ],
  },
});

function* faultsOf(
  { name, sale: { appId, product, productKind, trust } }: SignedSaleFact,
  { app, purchases: { products } }: IntentWith,
): Iterable<Data> {
  if (trust.is === 'refused') yield { name, fault: 'refused', why: trust.why };
  if (appId !== app.id) yield { name, fault: 'other-app', found: appId, wanted: app.id };
  const ids = products.map(({ id }) => id);
  const intended = products.find(({ id }) => id === product);
  if (products.length > 0 && !intended)
    yield { name, fault: 'not-intended', product, near: nearest(product, ids) ?? '' };
  if (intended && productKind !== undefined && intended.kind !== productKind)
    yield { name, fault: 'kind', product, found: productKind, wanted: intended.kind };
}

const draftOf = (
  { evidence, name, sale: { product } }: SignedSaleFact,
  basis: Draft<Data>['basis'],
  data: Data,
): Draft<Data> => ({
  identity: { subject: `sale ${name}`, aspect: data.fault },
  basis,
  severity: data.fault === 'refused' || data.fault === 'other-app' ? 2 : 1,
  digest: data.fault,
  occurrence: { evidence, shown: product, data },
});

function wordsOf(data: Data): [what: string, measured: string, required: string, remedy: string] {
  switch (data.fault) {
    case 'refused':
      return [
        'its signature does not hold',
        data.why,
        'a signature of the store, over these bytes',
        'Take the file as the store handed it out; if it came from an app, the app must not give anything for it.',
      ];
    case 'other-app':
      return [
        'it is of another app',
        quote(data.found),
        quote(data.wanted),
        'Compare the app id before anything is given for a sale.',
      ];
    case 'not-intended':
      return [
        `${quote(data.product)} is no product of fenlok.yaml`,
        quote(data.product),
        data.near ? `${quote(data.near)}, which is near` : 'a product of purchases.products',
        'Write it under purchases.products, or correct its id at the store.',
      ];
    case 'kind':
      return [
        `${quote(data.product)} is of another kind than fenlok.yaml says`,
        data.found,
        data.wanted,
        'Correct the kind at the store, or in fenlok.yaml.',
      ];
    case 'unchecked':
      return [
        'its signature could not be checked',
        data.lacking === 'root' ? "its root is not Apple's" : 'no key to check it with',
        'a signature of the store, over these bytes',
        data.lacking === 'root'
          ? 'Add it again with --store FILE, the file of the test store that signed it.'
          : 'Add it again with --license-key FILE (the key that the store shows for the app), or with --store FILE of a test store.',
      ];
  }
}
