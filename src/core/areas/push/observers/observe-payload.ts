import type { PayloadFact } from '../../../model/facts/push.ts';
import type { PayloadObserver } from '../../observer.ts';

/** A push message of the team, taken apart. */
export const observePayload = {
  id: 'payload',
  reads: 'payload',
  *observe({ digest, name, payload, platform }) {
    yield { kind: 'payload', platform, evidence: digest, name, payload } satisfies PayloadFact;
  },
} satisfies PayloadObserver;
