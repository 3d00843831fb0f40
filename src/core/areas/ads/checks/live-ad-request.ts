/** A device of a developer asks for test ads only, and is registered before the first request: accounts are suspended for less. */

import { z } from 'zod';
import type { AdLoadFact } from '../../../model/facts/ads.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { nameOfNetwork } from '../wiring.ts';

const dataSchema = z.strictObject({
  network: z.string(),
  placement: z.string(),
  fault: z.string(),
  at: z.string(),
});
type Data = z.infer<typeof dataSchema>;

export const liveAdRequest = defineCheck({
  id: 'live-ad-request',
  area: 'ads',
  priority: 'cannot-ship',
  standard: 'Policies of ad networks against invalid traffic',
  basis: 'either',
  needs: 'ad-load',
  reads: ['ad-session'],
  data: dataSchema,
  words: ({ at, fault, network, placement }) => ({
    what:
      fault === 'live'
        ? `${network} is asked for a live ad on a development device`
        : fault === 'unregistered'
          ? `The development device is not registered with ${network}`
          : `The app does not say whether it asks ${network} for test ads`,
    measured: `${placement} at ${at}`,
    required: 'test mode on, and the device registered by its advertising id, before the first request',
    why: 'Networks take views and touches of developers for fraud, and suspend the account.',
    remedy:
      fault === 'unregistered'
        ? 'Add the advertising id of this device to the test devices of the network.'
        : fault === 'live'
          ? 'Turn on test mode in every build that developers run.'
          : 'Let the app print "test": true with the request.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
    const seen = new Set<string>();
    for (const load of facts.of('ad-load')) {
      const { cell, isDevelopment, isRegistered, isTest, network } = load;
      if (isDevelopment === undefined) {
        yield { outcome: 'untested', cell, missingEvidence: 'lines "ad.device" that say whose device it is' };
        continue;
      }
      if (!isDevelopment) continue;
      if (isTest === true && isRegistered === undefined) {
        yield { outcome: 'untested', cell, because: ID_UNKNOWN };
        continue;
      }
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
        if (test && isRegistered === undefined) continue;
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

  doc: {
    looksAt:
      'Each request in a trace, as the app reports it and as the network saw it, on a device that `ad.device` calls one for development',
    against: 'Test mode, and the device registered with the network, before the request',
    matters: 'Networks suspend accounts whose developers look at their own live ads.',
    measured:
      'Each request in a trace, as the app reports it and as the network saw it, on a device that the trace calls one for development.',
    errs: "A device that the trace does not call one for development is taken for a user's.",
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'network.setTestDevices(listOf(BuildConfig.TEST_DEVICE))  // before the first request',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: 'network.testDeviceIdentifiers = [testDevice]  // before the first request',
      },
    ],
  },
});

const ID_UNKNOWN =
  'nobody knows the advertising id of this device, so no network could be told that it is one for tests';

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
  target: { kind: 'network' as const, id: network },
  basis: fault === 'unsaid' ? ('estimated' as const) : ('measured' as const),
  severity: fault === 'live' ? 3 : 2,
  digest: fault,
  occurrence: { evidence, cell, shown: placement, data: { network: name, placement, fault, at } },
});
