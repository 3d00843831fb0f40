import { Kbd, SegmentedControl } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { useKeys } from '../../../parts/keys.ts';
import type { PanelProps } from '../bench.tsx';
import { type Mark, ScreenPicture } from '../screen-picture.tsx';
import type { BenchStop } from '../worker/bench-screen.ts';
import { formatStop, StopLine } from './stop-line.tsx';

const BY = {
  all: { label: 'All stops', takes: () => true },
  headings: { label: 'Headings', takes: ({ heading }: BenchStop) => heading },
  controls: { label: 'Controls', takes: ({ actionable }: BenchStop) => actionable },
};
type By = keyof typeof BY;

/** Where a screen reader stops, in its order, and what it has to say there. */
export function StopsPanel({ shown }: PanelProps) {
  const { stops, unreachable } = shown.screen!;
  const [by, setBy] = useState<By>('all');
  const [at, setAt] = useState(-1);
  const list = useRef<HTMLOListElement>(null);
  const numbered = stops.map((stop, i) => ({ stop, number: i + 1 }));
  const walked = numbered.filter(({ stop }) => BY[by].takes(stop));

  /** To the next stop of that kind, either way; round at the ends. */
  const step = (kind: By, by: 1 | -1) => {
    const among = numbered.filter(({ stop }) => BY[kind].takes(stop)).map(({ number }) => number - 1);
    const next =
      by > 0 ? (among.find((i) => i > at) ?? among[0]) : (among.findLast((i) => i < at) ?? among.at(-1));
    if (next !== undefined) setAt(next);
  };
  useKeys({
    ArrowDown: () => step(by, 1),
    ArrowUp: () => step(by, -1),
    h: () => step('headings', 1),
    c: () => step('controls', 1),
  });
  useEffect(() => {
    list.current?.querySelector('[aria-current]')?.scrollIntoView({ block: 'nearest' });
  }, [at]);

  const marks: Mark[] = [
    ...walked.map(
      ({ number, stop }): Mark => ({
        id: `stop ${number}`,
        boundsPx: stop.boundsPx,
        label: String(number),
        tone: number - 1 === at ? 'active' : stop.name ? 'quiet' : 'failed',
      }),
    ),
    ...unreachable.map(
      (stop, i): Mark => ({ id: `shut ${i}`, boundsPx: stop.boundsPx, label: '×', tone: 'failed' }),
    ),
  ];
  const current = stops[at];
  return (
    <>
      <ScreenPicture
        shown={shown}
        marks={marks}
        name={`${shown.screen!.title}, the stops outlined and numbered`}
      />
      <section className="side" aria-label="Stops in reading order">
        <SegmentedControl
          aria-label="Walk by"
          data={Object.entries(BY).map(([value, { label }]) => ({ value, label }))}
          value={by}
          onChange={(value) => setBy(value as By)}
        />
        <p className="note">
          <Kbd>Down</Kbd> <Kbd>Up</Kbd> next and previous, <Kbd>H</Kbd> next heading, <Kbd>C</Kbd> next
          control
        </p>
        <p role="status" className="spoken">
          {current ? `${at + 1} of ${stops.length}: ${formatStop(current)}` : `${stops.length} stops`}
        </p>
        <ol className="lines" ref={list}>
          {walked.map(({ number, stop }) => (
            <li key={number}>
              <button
                type="button"
                aria-current={number - 1 === at || undefined}
                onClick={() => setAt(number - 1)}
              >
                <span className="number">{number}</span>
                <StopLine stop={stop} />
              </button>
            </li>
          ))}
        </ol>
        {walked.length === 0 && (
          <p className="note">
            {by === 'headings'
              ? 'No stop is known as a heading. The OS’s own dump cannot carry headings; a capture of a UI test can.'
              : 'There is none.'}
          </p>
        )}
        {unreachable.length > 0 && (
          <>
            <h3 className="failed">▲ Not reached</h3>
            <ul className="plain">
              {unreachable.map((stop, i) => (
                <li key={i}>
                  <StopLine stop={stop} withOrigin={false} />
                </li>
              ))}
            </ul>
          </>
        )}
      </section>
    </>
  );
}
