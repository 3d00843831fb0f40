/** The channel or category that a message names is one that the app makes or registers. */
import { nearest } from '../../platform/text/nearest.ts';
import type { Assertion, Check } from '../check.ts';
import { payloadsOf } from './payloads-of.ts';

export const payloadTarget = {
  id: 'payload-target',
  area: 'push',
  needs: ['package', 'payload'],
  *run(facts, intent): Iterable<Assertion> {
    const { categories, channels } = intent.push;
    for (const one of payloadsOf(facts, intent)) {
      if ('lacking' in one) {
        yield { outcome: 'untested', lacking: one.lacking };
        continue;
      }
      const { evidence, name, payload } = one;
      const kind = payload.form === 'apple' ? 'category' : 'channel';
      const named = payload[kind];
      const known = kind === 'category' ? categories : channels;
      if (named === undefined) yield { outcome: 'inapplicable' };
      else if (known.includes(named)) yield { outcome: 'passed' };
      else
        yield {
          outcome: 'failed',
          draft: {
            identity: { subject: name, aspect: kind },
            basis: 'measured',
            severity: 1,
            digest: named,
            occurrence: {
              evidence,
              shown: named,
              data: { name, kind, named, known, nearest: nearest(named, known) ?? '' },
            },
          },
        };
    }
  },
} satisfies Check;
