import type { Assertion, Check } from '../check.ts';

/** A release that is signed for the development push environment gets tokens that the production gateway refuses. */
export const pushEnvironment = {
  id: 'push-environment',
  area: 'push',
  needs: ['package', 'entitlement'],
  *run(facts): Iterable<Assertion> {
    for (const { evidence, key, signed } of facts.of('entitlement')) {
      if (key !== 'aps-environment' || signed === undefined) continue;
      if (signed === 'production') yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: key },
            basis: 'measured',
            severity: 1,
            digest: String(signed),
            occurrence: { evidence, shown: key, data: { environment: String(signed) } },
          },
        };
    }
  },
} satisfies Check;
