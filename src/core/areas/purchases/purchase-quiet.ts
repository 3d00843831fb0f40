/** With everything expired, and its user elsewhere, the app asks the store for nothing. */
import type { LedgerLine } from '../../model/ledger.ts';
import { entitlementsAt } from '../../platform/purchases/entitlements.ts';
import { readLedger } from '../../platform/purchases/ledger.ts';
import type { Assertion, Check } from '../check.ts';
import { judgedHistories } from './purchase-history.ts';

const ASKS = ['store.listed', 'store.asked', 'store.restored'];
/** What was under way when the app was left may still arrive. */
const LAG_MS = 5_000;

export const purchaseQuiet = {
  id: 'purchase-quiet',
  area: 'purchases',
  needs: ['purchase-history'],
  *run(facts, intent): Iterable<Assertion> {
    for (const { fact } of facts.once(judgedHistories, intent)) {
      const { cell, evidence, lines } = fact;
      const isOver = endReader(lines);
      for (const left of lines) {
        if (left.kind !== 'app.left') continue;
        const leftMs = Date.parse(left.at);
        // what is still had may be looked after
        if (!isOver(leftMs)) continue;
        const own = lines.filter(({ at, device }) => device === left.device && Date.parse(at) > leftMs);
        const opened = own.findIndex(({ kind }) => kind === 'app.opened');
        const asked = own
          .slice(0, opened < 0 ? undefined : opened)
          .filter(({ at, kind }) => ASKS.includes(kind) && Date.parse(at) > leftMs + LAG_MS);
        yield asked.length === 0
          ? { outcome: 'passed', cell }
          : {
              outcome: 'failed',
              cell,
              draft: {
                identity: { screen: 'app', subject: 'store in the background' },
                basis: 'measured',
                severity: asked.length,
                digest: [...new Set(asked.map(({ kind }) => kind))].sort().join(' '),
                occurrence: {
                  evidence,
                  cell,
                  shown: 'the store',
                  data: { count: asked.length, first: asked[0]!.at },
                },
              },
            };
      }
    }
  },
} satisfies Check;

/** Whether nothing is had any more but what is used up. */
function endReader(lines: readonly LedgerLine[]): (atMs: number) => boolean {
  const ledger = readLedger(lines);
  return (atMs) =>
    entitlementsAt(ledger, atMs).every(({ transactions }) =>
      transactions.every((id) => ledger.transactions.get(id)?.sale?.productKind === 'consumable'),
    );
}
