/**
 * What is paid for at a moment, by the plainest means there is: the events up to it are put in order and played one by one on a
 * list. Shares no code with the ledger.
 */
export interface OracleEvent {
  t: number;
  what: 'sale' | 'refund' | 'revoke' | 'expire' | 'unpaid' | 'reset';
  account: string;
  tx?: string;
  original?: string;
  product?: string;
  end?: number;
  replaces?: string;
}

interface Goods {
  account: string;
  product: string;
  tx: string;
  original: string;
  since: number;
  end: number;
  isGone: boolean;
  /** Kept for a while although its renewal is unpaid. */
  isGrace: boolean;
}

// what falls on one moment: sales come first, then what takes away, then what is left unpaid
const RANK = { sale: 0, refund: 1, revoke: 1, expire: 1, reset: 1, unpaid: 2 };

export function paidAt(events: readonly OracleEvent[], moment: number): string[] {
  const goods: Goods[] = [];
  const gone = new Set<string>();
  const seen = new Set<string>();
  const order = events
    .filter(({ t }) => t <= moment)
    .sort((a, b) => a.t - b.t || RANK[a.what] - RANK[b.what]);
  const drop = (which: (one: Goods) => boolean) => {
    for (const one of goods) if (which(one)) one.isGone = true;
  };
  for (const event of order) {
    const { account, end = Number.POSITIVE_INFINITY, original = '', product = '', t, tx = '', what } = event;
    if (what === 'sale') {
      if (event.replaces) {
        gone.add(event.replaces);
        drop((one) => one.tx === event.replaces);
      }
      if (seen.has(tx)) continue;
      seen.add(tx);
      goods.push({ account, product, tx, original, since: t, end, isGone: gone.has(tx), isGrace: false });
    } else if (what === 'refund' || what === 'revoke') {
      gone.add(tx);
      drop((one) => one.tx === tx);
    } else if (what === 'expire') drop((one) => one.original === original && one.since < t);
    else if (what === 'reset') drop((one) => one.account === account && one.since < t);
    else {
      const sales = goods.filter((one) => one.original === original && !one.isGrace);
      const [last] = sales.sort((a, b) => b.since - a.since || (b.tx > a.tx ? 1 : -1));
      if (last && !last.isGone) goods.push({ ...last, since: t, end, isGrace: true });
    }
  }
  const alive = goods.filter(({ end, isGone, since }) => !isGone && since <= moment && moment < end);
  return [...new Set(alive.map(({ account, product }) => `${account} ${product}`))].sort();
}
