/** A sale that the store signed holds: its signature, and it is of this app and of a product that is meant, of its kind. */
import type { SignedSaleFact } from '../../model/facts/purchases.ts';
import type { Intent } from '../../model/intent.ts';
import { nearest } from '../../platform/text/nearest.ts';
import type { Assertion, Check, Draft } from '../check.ts';

type Fault = 'refused' | 'other-app' | 'not-intended' | 'kind';

export const signedSale = {
  id: 'signed-sale',
  area: 'purchases',
  needs: ['signed-sale'],
  *run(facts, intent): Iterable<Assertion> {
    for (const fact of facts.of('signed-sale')) {
      const faults = [...faultsOf(fact, intent)];
      for (const { data, fault } of faults)
        yield { outcome: 'failed', draft: draftOf(fact, fault, 'measured', data) };
      if (faults.length > 0) continue;
      const { trust } = fact.sale;
      if (trust.is === 'unchecked')
        yield {
          outcome: 'cantTell',
          draft: draftOf(fact, 'unchecked', 'estimated', { lacking: trust.lacking }),
        };
      else yield { outcome: 'passed' };
    }
  },
} satisfies Check;

function* faultsOf(
  { sale: { appId, product, productKind, trust } }: SignedSaleFact,
  { app, purchases: { products } }: Intent,
): Iterable<{ fault: Fault; data: Record<string, string> }> {
  if (trust.is === 'refused') yield { fault: 'refused', data: { why: trust.why } };
  if (appId !== app.id) yield { fault: 'other-app', data: { found: appId, wanted: app.id } };
  const ids = products.map(({ id }) => id);
  const intended = products.find(({ id }) => id === product);
  if (products.length > 0 && !intended)
    yield { fault: 'not-intended', data: { near: nearest(product, ids) ?? '' } };
  if (intended && productKind !== undefined && intended.kind !== productKind)
    yield { fault: 'kind', data: { found: productKind, wanted: intended.kind } };
}

const draftOf = (
  { evidence, name, sale: { product } }: SignedSaleFact,
  fault: Fault | 'unchecked',
  basis: Draft['basis'],
  data: Record<string, string>,
): Draft => ({
  identity: { subject: `sale ${name}`, aspect: fault },
  basis,
  severity: fault === 'refused' || fault === 'other-app' ? 2 : 1,
  digest: fault,
  occurrence: { evidence, shown: product, data: { name, product, fault, ...data } },
});
