/** What is at fault with purchases over time, in words: six checks report it. */
import { z } from 'zod';
import type { Words } from '../../model/finding.ts';
import { type LedgerFaultCode, ledgerFaultCodes } from './ledger/ledger-report.ts';
import { type ScenarioId, scenarioIds, scenarios } from './ledger/scenarios.ts';

export const matters = [
  'granted-unpaid',
  'granted-twice',
  'kept',
  'missing',
  'not-restored',
  'sold-twice',
  'unfinished',
  'finished-twice',
  'finished-early',
] as const;
export type Matter = (typeof matters)[number];

export const matterSchema = z.strictObject({
  product: z.string(),
  matter: z.enum(matters),
  /** What was met: faults, or situations. */
  codes: z.array(z.enum([...ledgerFaultCodes, ...scenarioIds])),
  count: z.number(),
  /** ISO 8601, by the store's clock. */
  firstAt: z.string(),
  afterMin: z.number().optional(),
});
export type MatterData = z.infer<typeof matterSchema>;

export function matterWords({ afterMin, codes, count, firstAt, matter, product }: MatterData): Words {
  const { remedy, required, what, why } = MATTERS[matter];
  const often = count === 1 ? '' : `${count} times, first `;
  const at = firstAt.slice(0, 16).replace('T', ' ');
  return {
    what: `${product}: ${what}`,
    measured: `${codes.map(formatCode).join('; ')} (${often}at ${at} by the store’s clock${formatAfter(afterMin)})`,
    required,
    why,
    remedy,
  };
}

function formatAfter(minutes: number | undefined): string {
  if (minutes === undefined || minutes < 1) return '';
  if (minutes < 120) return `, after ${minutes} min`;
  return minutes < 2 * 24 * 60
    ? `, after ${Math.round(minutes / 60)} hours`
    : `, after ${Math.round(minutes / 60 / 24)} days`;
}

const MATTERS: Readonly<Record<Matter, Omit<Words, 'measured'>>> = {
  'granted-unpaid': {
    what: 'it is given although nothing was paid',
    required: 'nothing before the store says that it is bought',
    why: 'Who cancels, or waits for somebody’s consent, has it for nothing.',
    remedy: 'Give the goods when the transaction is there and verified, not when the button is touched.',
  },
  'granted-twice': {
    what: 'one sale is handed over twice',
    required: 'once for each transaction',
    why: 'A sale that is not finished comes back at every launch, and is given again each time.',
    remedy: 'Keep the numbers of transactions that were handed over, and finish each.',
  },
  kept: {
    what: 'it is still given after it ended',
    required: 'gone when it expires, is refunded or taken back',
    why: 'Who gets the money back, or stops to pay, keeps the goods.',
    remedy: 'Ask the store at each launch what is held now, and take away what is not among it.',
  },
  missing: {
    what: 'it is paid for, and not given',
    required: 'there at once, and after every relaunch',
    why: 'People paid and stand before a locked door.',
    remedy: 'Give it as soon as the transaction is there, and read what is held at each launch.',
  },
  'not-restored': {
    what: 'it is paid for, and restoring does not bring it back',
    required: 'there after restoring, on every device of the account',
    why: 'A new phone, or a purchase on the web, is the most common reason to write to support.',
    remedy: 'Give all that the store returns when it is asked to restore.',
  },
  'sold-twice': {
    what: 'it is sold to somebody who has it',
    required: 'no sale of what is owned',
    why: 'People pay twice, and get nothing for it.',
    remedy: 'Hide the button from owners, and ask the store before selling.',
  },
  unfinished: {
    what: 'its sales are never acknowledged',
    required: 'acknowledged once the goods were handed over, within three days on Android',
    why: 'The store hands them out again at every launch, and gives the money back after three days.',
    remedy: 'Finish (acknowledge, consume) the transaction after the goods were given.',
  },
  'finished-twice': {
    what: 'a sale is acknowledged twice',
    required: 'once',
    why: 'It was probably handed over twice as well.',
    remedy: 'Keep the numbers of transactions that were finished.',
  },
  'finished-early': {
    what: 'a sale is acknowledged before the goods are handed over',
    required: 'first the goods, then the acknowledgement',
    why: 'If the app ends in between, the store never tells it of the sale again.',
    remedy: 'Finish the transaction when the goods are stored.',
  },
};

const CODES: Readonly<Partial<Record<LedgerFaultCode | ScenarioId, string>>> = {
  'granted-unpaid': 'given with nothing paid',
  'granted-twice': 'handed over again',
  'granted-after-refund': 'given after a refund',
  'kept-after-refund': 'kept after a refund',
  'kept-after-expiry': 'kept after its end',
  'lost-too-early': 'lost while it is paid for',
  'not-granted': 'not given on the device that bought it',
  'not-restored': 'not given after restoring',
  'sold-twice': 'sold to an owner',
  unfinished: 'not finished',
  overdue: 'not finished in time',
  'finished-twice': 'finished again',
  'finished-early': 'finished before it was given',
  'at-once': 'not given until the app was opened again',
};

const formatCode = (code: LedgerFaultCode | ScenarioId): string =>
  CODES[code] ?? `wrong when it is ${scenarios[code as ScenarioId].name}`;
