/** The site's app-ads.txt lists every network of the waterfalls, and can be read. */

import { z } from 'zod';
import type { AppAdsFact } from '../../../model/facts/ads.ts';
import type { Assertion, Draft } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { waterfallEntries } from '../wiring.ts';

const dataSchema = z.union([
  z.strictObject({ fault: z.literal('line'), line: z.string(), found: z.string(), expected: z.string() }),
  z.strictObject({
    fault: z.enum(['account', 'missing']),
    network: z.string(),
    seller: z.string(),
    host: z.string(),
    /** The account of the team; empty where nobody said it. */
    wanted: z.string(),
    found: z.string(),
  }),
]);
type Data = z.infer<typeof dataSchema>;

export const adSeller = defineCheck({
  id: 'ad-seller',
  area: 'ads',
  priority: 'harder',
  standard: 'IAB Tech Lab, app-ads.txt 1.0',
  basis: 'measured',
  needs: 'app-ads',
  data: dataSchema,
  words: (data) =>
    data.fault === 'account'
      ? {
          what: `app-ads.txt names another account with ${data.network} than yours`,
          measured: `${data.found} for ${data.seller} at ${data.host}`,
          required: data.wanted,
          why: 'Buyers compare the account: they do not bid for what a seller offers under another one.',
          remedy: 'Add the line with your own account, as the dashboard of the network shows it.',
        }
      : data.fault === 'line'
        ? {
            what: `A line of app-ads.txt cannot be read (${data.line})`,
            measured: data.found,
            required: data.expected,
            why: 'Buyers skip it, and whoever stands there counts as nobody.',
            remedy: 'Write: domain of the network, your account with it, DIRECT or RESELLER.',
          }
        : {
            what: `${data.network} does not stand in app-ads.txt`,
            measured: `no line for ${data.seller} at ${data.host}`,
            required: `${data.seller}, the account with it, DIRECT or RESELLER`,
            why: 'Buyers who look there do not bid for what a seller offers who is not listed.',
            remedy:
              'Add the line that the dashboard of the network shows, and serve the file at the root of the site.',
          },

  *run(facts, intent): Iterable<Assertion<Data>> {
    const used = new Map(waterfallEntries(intent).map(({ network }) => [network.id, network]));
    for (const site of facts.of('app-ads')) {
      for (const { line, found, expected } of site.faults)
        yield {
          outcome: 'failed',
          draft: draftOf(site, line, 'line', { fault: 'line', line, found, expected }),
        };
      for (const { id, name, seller, sellerAccount } of used.values()) {
        if (seller === undefined) continue;
        const accounts = site.sellers
          .filter(({ domain }) => domain === seller.toLowerCase())
          .map(({ account }) => account);
        const fault =
          accounts.length === 0
            ? 'missing'
            : sellerAccount !== undefined && !accounts.includes(sellerAccount)
              ? 'account'
              : undefined;
        const data = {
          network: name,
          seller,
          host: site.host,
          wanted: sellerAccount ?? '',
          found: accounts.join(', '),
        };
        yield fault
          ? { outcome: 'failed', draft: draftOf(site, `network ${id}`, fault, { fault, ...data }) }
          : { outcome: 'passed' };
      }
    }
  },

  doc: {
    looksAt: '`app-ads.txt` of the site, added as `HOST/app-ads.txt`',
    against:
      'IAB *app-ads.txt* 1.0: a line for the `seller` of every network, with its `sellerAccount` where that is given; lines that can be read',
    matters: 'Buyers do not bid for what a seller offers who is not listed, so the app earns less.',
    measured:
      'The lines of app-ads.txt at the site, against the seller and account of each network that is used.',
    errs: 'Whether the account is really yours, only the network knows.',
    fixes: [
      {
        where: 'app-ads.txt',
        language: 'text',
        code: 'brightbuoy.example, pub-4711, DIRECT, f08c47fec0942fa0',
      },
    ],
  },
});

const draftOf = (
  { evidence, host }: AppAdsFact,
  subject: string,
  aspect: string,
  data: Data,
): Draft<Data> => ({
  identity: { subject, aspect },
  basis: 'measured',
  severity: 1,
  digest: data.found,
  occurrence: { evidence, shown: host, data },
});
