import { Button, Switch } from '@mantine/core';
import { formatPeriod, parsePeriod } from 'fenlok';
import { useRef } from 'react';
import type { Act } from './model/acts.ts';
import type { Cover, Phone } from './model/phone.ts';
import type { Playing } from './use-rehearsal.ts';

interface Props {
  phone: Phone;
  number: 0 | 1;
  playing: Playing;
}

const STATES: Record<Phone['state'], string> = {
  absent: 'no app',
  closed: 'ended',
  front: 'in front',
  background: 'left',
};

/** One phone: what its user sees of the app, and what they can do to it. */
export function PhoneView({ number, phone, playing: { act, rehearsal } }: Props) {
  const { device, isOnline, state } = phone;
  const cover = phone.covers.at(-1);
  const display = useRef<HTMLDivElement>(null);
  /** What was touched is gone then, and the keyboard stays with the phone. */
  const touch = (one: Act) => {
    act(one);
    display.current?.focus();
  };
  return (
    <section className="phone" aria-label={device}>
      <div className="phone-head">
        <h2>
          {device} <span className="origin">{STATES[state]}</span>
        </h2>
        <Switch
          checked={isOnline}
          label="Online"
          aria-label={`${device} online`}
          onChange={({ currentTarget }) => act({ do: 'network', phone: number, isOn: currentTarget.checked })}
        />
      </div>
      <div className="display" ref={display} tabIndex={-1}>
        {state === 'front' ? (
          <>
            <Shop
              phone={phone}
              number={number}
              playing={{ act, rehearsal }}
              isCovered={cover !== undefined}
            />
            {cover && (
              <CoverView cover={cover} answer={(isYes) => touch({ do: 'answer', phone: number, isYes })} />
            )}
          </>
        ) : (
          <button type="button" className="icon" onClick={() => touch({ do: 'open', phone: number })}>
            <span aria-hidden>◆</span>
            {state === 'absent' ? 'Install and open' : 'Open'}
          </button>
        )}
      </div>
      <div className="phone-keys">
        <Button
          variant="default"
          disabled={state !== 'front'}
          onClick={() => act({ do: 'leave', phone: number })}
        >
          Leave
        </Button>
        <Button
          variant="default"
          disabled={state !== 'front' && state !== 'background'}
          onClick={() => act({ do: 'end', phone: number })}
        >
          End
        </Button>
        <Button
          variant="default"
          disabled={state === 'absent'}
          onClick={() => act({ do: 'remove', phone: number })}
        >
          Remove
        </Button>
      </div>
    </section>
  );
}

interface ShopProps {
  phone: Phone;
  number: 0 | 1;
  playing: Pick<Playing, 'act' | 'rehearsal'>;
  isCovered: boolean;
}

/** What the app offers and gives, and its ads. */
function Shop({ isCovered, number, phone, playing: { act, rehearsal } }: ShopProps) {
  const { intent } = rehearsal.project;
  const offers = phone.offers.length > 0 ? phone.offers : intent.purchases.products.map(({ id }) => ({ id }));
  return (
    <div className="shop" inert={isCovered}>
      <ul className="plain">
        {offers.map((offer) => (
          <li key={offer.id}>
            <span className="product">
              <b>{offer.id}</b>
              <span>
                <span className="origin">{'price' in offer ? offer.price : 'no price'}</span>{' '}
                {phone.gives.includes(offer.id) && <span className="given">✓ given</span>}
              </span>
            </span>
            <Button
              variant="light"
              aria-label={`Buy ${offer.id}`}
              onClick={() => act({ do: 'buy', phone: number, product: offer.id })}
            >
              Buy
            </Button>
          </li>
        ))}
      </ul>
      <div className="shop-keys">
        <Button variant="light" onClick={() => act({ do: 'restore', phone: number })}>
          Restore
        </Button>
        {intent.ads.placements
          .filter(({ id }) => phone.loaded.has(id))
          .map(({ id }) => (
            <Button
              key={id}
              variant="light"
              onClick={() => act({ do: 'show', phone: number, placement: id })}
            >
              Show {id}
            </Button>
          ))}
      </div>
    </div>
  );
}

function CoverView({ answer, cover }: { cover: Cover; answer(isYes: boolean): void }) {
  const [title, says, yes, no] = wordsOf(cover);
  return (
    <div className="cover" role="dialog" aria-label={title}>
      <b>{title}</b>
      <p>{says}</p>
      <Button autoFocus onClick={() => answer(true)}>
        {yes}
      </Button>
      {no && (
        <Button variant="outline" onClick={() => answer(false)}>
          {no}
        </Button>
      )}
    </div>
  );
}

function formatTerm(period: string | undefined): string {
  const parsed = period === undefined ? undefined : parsePeriod(period);
  return parsed ? ` for ${formatPeriod(parsed)}` : '';
}

function formatTrial(trial: string | undefined): string {
  const parsed = trial === undefined ? undefined : parsePeriod(trial);
  return parsed ? `free for ${formatPeriod(parsed)}, then ` : '';
}

function wordsOf(cover: Cover): [title: string, says: string, yes: string, no?: string] {
  switch (cover.is) {
    case 'sheet': {
      const { isTrial, offer, product } = cover;
      return [
        'The store asks',
        offer
          ? `${offer.name}, ${isTrial ? formatTrial(offer.trial) : ''}${offer.price}${formatTerm(offer.period)}`
          : product,
        'Pay',
        'Cancel',
      ];
    }
    case 'consent':
      return ['The app asks', 'May ad networks learn who you are?', 'Agree', 'Refuse'];
    case 'ad':
      return [`An ad, ${cover.placement}`, cover.words, 'Close the ad'];
    default:
      return cover satisfies never;
  }
}
