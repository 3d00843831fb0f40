import type { TraceLine } from 'fenlok';

const WORDS: Readonly<Record<string, string>> = {
  'app.opened': 'is opened',
  'app.left': 'is left',
  'access.now': 'gives',
  'purchase.granted': 'hands over',
  'purchase.withdrawn': 'takes away',
  'purchase.restoring': 'restores',
  'purchase.cancelled': 'knows of a purchase that was cancelled,',
  'purchase.failed': 'knows of a purchase that failed,',
  'purchase.deferred': 'knows of a purchase that waits,',
  'purchase.planned': 'knows of a plan for later,',
  'store.asked': 'asks the store for',
  'store.listed': 'is told what is for sale',
  'store.restored': 'is told what was bought',
  'store.bought': 'sells',
  'store.renewed': 'renews',
  'store.finished': 'finished',
  'store.cancelled': 'was cancelled,',
  'store.failed': 'refuses',
  'store.deferred': 'waits for somebody to agree to',
  'store.planned': 'plans for the end of the period',
  'store.refunded': 'refunds',
  'store.revoked': 'takes back',
  'store.expired': 'ends',
  'store.unpaid': 'is not paid for',
  'store.reset': 'forgets all purchases',
  'store.away': 'cannot reach the store',
  'store.back': 'reaches the store again',
  'consent.asked': 'asks for consent',
  'consent.given': 'has its consent',
  'consent.refused': 'is refused consent',
  'ad.device': 'is a device for development, registered at',
  'ad.initialised': 'initialised',
  'ad.requested': 'asks for an ad,',
  'ad.asked': 'was seen by',
  'ad.loaded': 'loaded',
  'ad.failed': 'did not load',
  'ad.showed': 'shows',
  'ad.closed': 'closes',
  'log.line': 'logs',
};

/** One line of a trace in words: who, what, and of what. */
export function formatLine(line: TraceLine): string {
  const { kind } = line;
  const who = line.device ?? 'the store';
  return `${who} ${WORDS[kind] ?? kind} ${formatRest(line)}`.trimEnd();
}

function formatRest(line: TraceLine): string {
  const {
    message,
    network,
    original,
    placement,
    products,
    product,
    reason,
    registered,
    tag,
    test,
    transaction,
    until,
  } = line as Record<string, unknown>;
  const parts = [
    tag,
    message,
    placement,
    network,
    product,
    products && ((products as string[]).join(', ') || 'nothing'),
    registered && ((registered as string[]).join(', ') || 'no network'),
    test === false && 'a live one',
    reason,
    product === undefined ? (transaction ?? original) : undefined,
    until && `until ${String(until).slice(0, 16).replace('T', ' ')}`,
  ];
  return parts.filter(Boolean).join(' · ');
}
