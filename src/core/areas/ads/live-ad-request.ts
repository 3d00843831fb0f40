/** A device of a developer asks for test ads only, and is registered before the first request: accounts are suspended for less. */
import type { AdLoadFact } from '../../model/facts/ads.ts';
import type { Assertion, Check } from '../check.ts';
import { nameOfNetwork } from './wiring.ts';

export const liveAdRequest = {
  id: 'live-ad-request',
  area: 'ads',
  needs: ['ad-load'],
  *run(facts, intent): Iterable<Assertion> {
    const seen = new Set<string>();
    for (const load of facts.of('ad-load')) {
      const { cell, isDevelopment, isRegistered, isTest, network } = load;
      if (isDevelopment === undefined) {
        yield { outcome: 'untested', cell, lacking: 'lines "ad.device" that say whose device it is' };
        continue;
      }
      if (!isDevelopment) continue;
      const fault =
        isTest === true ? (isRegistered ? undefined : 'unregistered') : isTest === false ? 'live' : 'unsaid';
      if (!fault) yield { outcome: 'passed', cell };
      else if (!seen.has(`${network} ${fault}`)) {
        seen.add(`${network} ${fault}`);
        yield {
          outcome: fault === 'unsaid' ? 'cantTell' : 'failed',
          cell,
          draft: draftOf(load, fault, nameOfNetwork(intent, network)),
        };
      }
    }
    // an app may say one thing, and its library ask for another
    for (const session of facts.of('ad-session')) {
      if (!session.isDevelopment) continue;
      for (const { isRegistered, network, test } of session.asked) {
        const fault = test ? (isRegistered ? undefined : 'unregistered') : 'live';
        if (!fault || seen.has(`${network} ${fault}`)) continue;
        seen.add(`${network} ${fault}`);
        yield {
          outcome: 'failed',
          cell: session.cell,
          draft: draftOf(
            { ...session, network, placement: 'a request' },
            fault,
            nameOfNetwork(intent, network),
          ),
        };
      }
    }
  },
} satisfies Check;

const draftOf = (
  {
    at,
    cell,
    evidence,
    network,
    placement,
  }: Pick<AdLoadFact, 'at' | 'cell' | 'evidence' | 'network' | 'placement'>,
  fault: string,
  name: string,
) => ({
  identity: { subject: `network ${network}`, aspect: fault },
  basis: fault === 'unsaid' ? ('estimated' as const) : ('measured' as const),
  severity: fault === 'live' ? 3 : 2,
  digest: fault,
  occurrence: { evidence, cell, shown: placement, data: { network: name, placement, fault, at } },
});
