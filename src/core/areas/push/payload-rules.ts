/** A message that a gateway refuses, or reads otherwise than it was meant. Sources stand with the rules in platform/push. */
import type { Assertion, Check } from '../check.ts';
import { payloadsOf } from './payloads-of.ts';

export const payloadRules = {
  id: 'payload-rules',
  area: 'push',
  needs: ['package', 'payload'],
  *run(facts, intent): Iterable<Assertion> {
    for (const one of payloadsOf(facts, intent)) {
      if ('lacking' in one) {
        yield { outcome: 'untested', lacking: one.lacking };
        continue;
      }
      const { evidence, name, payload } = one;
      if (payload.problems.length === 0) yield { outcome: 'passed' };
      for (const { at, code, expected, found, level } of payload.problems)
        yield {
          outcome: level === 'error' ? 'failed' : 'cantTell',
          draft: {
            identity: { subject: name, aspect: `${code} ${at}`.trim() },
            basis: level === 'error' ? 'measured' : 'estimated',
            severity: level === 'error' ? 2 : 1,
            digest: found,
            occurrence: { evidence, shown: at, data: { name, at, code, found, expected, level } },
          },
        };
    }
  },
} satisfies Check;
