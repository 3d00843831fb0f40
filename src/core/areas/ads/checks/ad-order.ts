/** Consent comes before the first request, and each network is initialised before it is asked. */

import { z } from 'zod';
import type { AdLoadFact } from '../../../model/facts/ads.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { nameOfNetwork } from '../wiring.ts';

const dataSchema = z.strictObject({
  network: z.string(),
  placement: z.string(),
  fault: z.string(),
  consent: z.enum(['none', 'given', 'refused', 'asked']),
  at: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const adOrder = defineCheck({
  id: 'ad-order',
  area: 'ads',
  priority: 'wrong',
  standard: 'GDPR, Art. 7; the description of each network',
  basis: 'measured',
  needs: 'ad-load',
  data: dataSchema,
  words: ({ at, consent, fault, network, placement }) =>
    fault === 'consent'
      ? {
          what: `${network} is asked for an ad before its user has agreed`,
          measured: `${consent === 'asked' ? 'the question was still open' : 'nobody was asked'} at ${at} (${placement})`,
          required: 'consent given or refused before the first request',
          why: 'The request itself carries data of the user, and no later answer takes it back.',
          remedy: 'Wait for the answer before any network is asked.',
        }
      : {
          what: `${network} is asked for an ad before it is initialised`,
          measured: `requested at ${at} (${placement}), and not initialised before`,
          required: 'initialised first',
          why: 'The first ad of each start is lost, and with some networks every one.',
          remedy: 'Load when the network has said that it is ready.',
        },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const seen = new Set<string>();
    for (const load of facts.of('ad-load')) {
      const { cell, consent, isInitialised, network } = load;
      const faults = [
        ...(consent === 'none' || consent === 'asked' ? ['consent'] : []),
        ...(isInitialised ? [] : ['initialised']),
      ];
      if (faults.length === 0) yield { outcome: 'passed', cell };
      for (const fault of faults) {
        const key = `${network} ${fault}`;
        if (seen.has(key)) continue;
        seen.add(key);
        yield { outcome: 'failed', cell, draft: draftOf(load, fault, nameOfNetwork(intent, network)) };
      }
    }
  },

  doc: {
    looksAt: 'What stands in the trace before each request',
    against: 'Consent given or refused; the network initialised',
    matters: 'A request before the answer about consent is against the law in many countries.',
    measured: 'What stands in the trace before each request, consent and initialisation.',
    errs: 'What the app does not tell in its trace is not seen.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'consent.ask { answer -> network.initialize(answer) { placement.load() } }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: `let answer = await consent.ask()
await network.initialize(answer)
placement.load()`,
      },
    ],
  },
});

const draftOf = (
  { at, cell, consent, evidence, network, placement }: AdLoadFact,
  fault: string,
  name: string,
) => ({
  identity: { subject: `network ${network}`, aspect: fault },
  target: { kind: 'network' as const, id: network },
  basis: 'measured' as const,
  severity: fault === 'consent' ? 2 : 1,
  digest: consent,
  occurrence: { evidence, cell, shown: placement, data: { network: name, placement, fault, consent, at } },
});
