/** `app-ads.txt`: who may sell an app's ads (IAB Tech Lab, *Authorized Sellers for Apps* 1.0, by way of ads.txt 1.1, section 3). */
import type { AdSeller, AppAds } from '../../model/site-file.ts';

const MOST_PROBLEMS = 100;

/** Lines that cannot be read are told, and the rest is read on. */
export function readAppAds(file: string, text: string): AppAds {
  const read: AppAds = { sellers: [], variables: [], problems: [] };
  for (const [i, raw] of text
    .replace(/^\ufeff/, '')
    .split(/\r\n|\r|\n/)
    .entries()) {
    const line = (raw.split('#')[0] ?? '').trim();
    if (line === '') continue;
    // what follows a semicolon is for extensions
    const fields = (line.split(';')[0] ?? '').split(',').map((field) => field.trim());
    // no domain holds an equals sign, and a value may hold commas
    const [, name, value] = /^([a-z]+)\s*=\s*(.*)$/i.exec(line) ?? [];
    if (name && value !== undefined) {
      read.variables.push({ name: name.toLowerCase(), value, line: i + 1 });
      continue;
    }
    const problem = wrongWith(fields);
    if (!problem) read.sellers.push(sellerOf(fields, i + 1));
    else if (read.problems.length < MOST_PROBLEMS)
      read.problems.push({ code: 'app-ads.line', file, place: `line ${i + 1}`, ...problem });
  }
  return read;
}

const DOMAIN = /^(?=.{1,253}$)([a-z0-9]([a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z0-9-]{2,63}$/i;

function wrongWith([domain = '', account = '', relation = '']: readonly string[]) {
  if (!DOMAIN.test(domain)) return { found: `“${domain.slice(0, 60)}”`, expected: 'the domain of a network' };
  if (account === '') return { found: 'no account', expected: 'domain, account, DIRECT or RESELLER' };
  if (!/^(DIRECT|RESELLER)$/i.test(relation))
    return { found: `“${relation.slice(0, 60)}”`, expected: 'DIRECT or RESELLER' };
  return undefined;
}

const sellerOf = ([domain, account, relation, authority]: readonly string[], line: number): AdSeller => ({
  domain: domain!.toLowerCase(),
  account: account!,
  relation: relation!.toUpperCase() as AdSeller['relation'],
  ...(authority && { authority }),
  line,
});
