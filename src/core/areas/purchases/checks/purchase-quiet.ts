/** With everything expired, and its user elsewhere, the app asks the store for nothing. */

import { z } from 'zod';
import type { LedgerLine } from '../../../model/ledger.ts';
import type { Assertion } from '../../check.ts';
import { defineCheck } from '../../check.ts';
import { entitlementsAt } from '../ledger/entitlements.ts';
import { readLedger } from '../ledger/ledger.ts';
import { judgedHistories } from '../purchase-history.ts';

const ASKS = ['store.listed', 'store.asked', 'store.restored'];
/** What was under way when the app was left may still arrive. */
const LAG_MS = 5_000;

const dataSchema = z.strictObject({ count: z.number(), first: z.string() });
type Data = z.infer<typeof dataSchema>;

export const purchaseQuiet = defineCheck({
  id: 'purchase-quiet',
  area: 'purchases',
  priority: 'harder',
  standard: 'Android and Apple, background work',
  basis: 'measured',
  needs: 'purchase-history',
  data: dataSchema,
  words: ({ count, first }) => ({
    what: 'The app goes on asking the store in the background, with everything expired',
    measured: `${count} requests after it was left, the first at ${first}`,
    required: 'none until it is opened again',
    why: 'It costs battery and data, and there is nothing that it could learn.',
    remedy: 'End the listener when the user leaves and nothing is active.',
  }),

  *run(facts, intent): Iterable<Assertion<Data>> {
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

  doc: {
    looksAt: 'What a device asks the store for after its user left the app, once nothing is owned any more',
    against: 'Nothing',
    matters: 'It costs battery and data, and there is nothing that the app could learn.',
    measured: 'What a device asks the store for after its user left the app, once nothing is owned any more.',
    errs: 'Nothing known.',
    fixes: [
      {
        where: 'Android',
        language: 'kotlin',
        code: 'override fun onStop() { super.onStop(); if (!access.ownsAnything) billing.endConnection() }',
      },
      {
        where: 'iOS',
        language: 'swift',
        code: '.onChange(of: scenePhase) { if $0 == .background && !access.ownsAnything { updates.cancel() } }',
      },
    ],
  },
});

/** Whether nothing is owned any more but what is used up. */
function endReader(lines: readonly LedgerLine[]): (atMs: number) => boolean {
  const ledger = readLedger(lines);
  return (atMs) =>
    entitlementsAt(ledger, atMs).every(({ transactions }) =>
      transactions.every((id) => ledger.transactions.get(id)?.sale?.productKind === 'consumable'),
    );
}
