import { Button, NativeSelect } from '@mantine/core';
import { useState } from 'react';
import { testerOrders } from './model/tester-orders.ts';
import type { Playing } from './use-rehearsal.ts';

const OUTCOMES = [
  ['cancel', 'is cancelled'],
  ['fail', 'is refused'],
  ['defer', 'waits for somebody'],
] as const;

/** What the tester can let the store do. */
export function StoreEvents({ playing: { act, rehearsal } }: { playing: Playing }) {
  const { account, store } = rehearsal;
  const sold = store.catalogue.products.filter(({ isListed }) => isListed);
  const [chosen, setChosen] = useState(sold[0]?.id ?? '');
  return (
    <section className="events" aria-label="The store">
      <div className="events-head">
        <NativeSelect
          label="At the store, with"
          data={sold.map(({ id }) => id)}
          value={chosen}
          onChange={({ currentTarget }) => setChosen(currentTarget.value)}
        />
        <Button
          variant="default"
          onClick={() => act({ do: 'order', order: { do: 'reset', account } })}
          disabled={!store.transactions.some((one) => one.account === account && !one.isDeleted)}
        >
          Delete all purchases
        </Button>
      </div>
      <div className="keys">
        {testerOrders(rehearsal, chosen).map(({ label, order }) => (
          <Button
            key={label}
            variant="default"
            disabled={!order}
            onClick={() => order && act({ do: 'order', order })}
          >
            {label}
          </Button>
        ))}
      </div>
      <div className="keys">
        <span className="origin">The next purchase</span>
        {OUTCOMES.map(([outcome, label]) => (
          <Button
            key={outcome}
            variant="default"
            onClick={() => act({ do: 'order', order: { do: 'next', account, outcome, times: 1 } })}
          >
            {label}
          </Button>
        ))}
      </div>
    </section>
  );
}
