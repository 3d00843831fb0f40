import { Button, Group, Kbd } from '@mantine/core';
import { useState } from 'react';
import { useKeys } from '../../../parts/keys.ts';
import type { PanelProps } from '../bench.tsx';
import { type Mark, ScreenPicture } from '../screen-picture.tsx';
import type { BenchStop } from '../worker/bench-screen.ts';
import { formatStop } from './stop-line.tsx';

/** The picture is hidden: the way to a control is found by what is spoken alone, and shown at the end. */
export function UnseenPanel({ shown }: PanelProps) {
  const { stops, title } = shown.screen!;
  const goals = goalsOf(stops);
  const [round, setRound] = useState(0);
  const [trail, setTrail] = useState<number[]>([0]);
  const [pressed, setPressed] = useState('');
  const [over, setOver] = useState(false);
  const goal = goals[(round * 5 + (goals.length >> 1)) % Math.max(1, goals.length)];
  const at = trail.at(-1)!;
  const here = stops[at];

  const move = (by: 1 | -1) => {
    const next = at + by;
    if (over || !stops[next])
      return setPressed(over ? pressed : by > 0 ? 'That was the last stop.' : 'That was the first stop.');
    setPressed('');
    setTrail([...trail, next]);
  };
  const press = () => {
    if (over || !here) return;
    if (at === goal) setOver(true);
    setPressed(
      at === goal
        ? 'That is it.'
        : here.actionable
          ? 'Pressed, and it is another one.'
          : 'Nothing happens: it is no control.',
    );
  };
  const again = () => {
    setRound(round + 1);
    setTrail([0]);
    setPressed('');
    setOver(false);
  };
  useKeys({ ArrowDown: () => move(1), ArrowUp: () => move(-1), p: press });

  if (goal === undefined || !here)
    return (
      <p className="note">
        This screen has no control with something to read or hear on it, so there is none to look for.
      </p>
    );
  const wanted = sought(stops[goal]!);
  return (
    <>
      <ScreenPicture
        shown={shown}
        name={over ? `${title} with the way that was walked` : `${title}, the picture hidden`}
        marks={over ? trailMarks(stops, trail, goal) : []}
        curtain={over ? undefined : 'The picture is hidden'}
      />
      <section className="side" aria-label="Unseen walk">
        <h2>
          Find <q dir="auto">{wanted}</q> and press it
        </h2>
        <p className="note">
          <Kbd>Down</Kbd> <Kbd>Up</Kbd> next and previous stop, <Kbd>P</Kbd> press. There is nothing else to
          go by than what is spoken.
        </p>
        <p role="status" className="spoken large" dir="auto">
          {over ? '' : `${formatStop(here)}. `}
          {pressed}
        </p>
        <Group gap="xs">
          <Button variant="default" disabled={over} onClick={() => move(-1)}>
            Previous
          </Button>
          <Button variant="default" disabled={over} onClick={() => move(1)}>
            Next
          </Button>
          <Button disabled={over} onClick={press}>
            Press it
          </Button>
          <Button variant="subtle" onClick={over ? again : () => setOver(true)}>
            {over ? 'Another one' : 'Show me where I am'}
          </Button>
        </Group>
        {over && <p>{formatWay(stops, trail, goal, wanted)}</p>}
      </section>
    </>
  );
}

/** Controls that a person would look for. */
const goalsOf = (stops: readonly BenchStop[]): number[] =>
  stops.flatMap((stop, i) => (i > 0 && stop.actionable && stop.enabled && sought(stop) ? [i] : []));

/** What a sighted person calls it: what stands on it, else its name. */
const sought = ({ drawn, name }: BenchStop): string => drawn[0] ?? name;

function trailMarks(stops: readonly BenchStop[], trail: readonly number[], goal: number): Mark[] {
  const visited = [...new Set(trail)];
  return [
    ...visited.map(
      (stop): Mark => ({
        id: `trail ${stop}`,
        boundsPx: stops[stop]!.boundsPx,
        label: String(trail.lastIndexOf(stop)),
        tone: 'trail',
      }),
    ),
    { id: 'goal', boundsPx: stops[goal]!.boundsPx, tone: 'active' },
    ...(trail.at(-1) === goal
      ? []
      : [{ id: 'here', boundsPx: stops[trail.at(-1)!]!.boundsPx, label: 'you', tone: 'failed' } as Mark]),
  ];
}

function formatWay(
  stops: readonly BenchStop[],
  trail: readonly number[],
  goal: number,
  wanted: string,
): string {
  const steps = (count: number) => (count === 1 ? '1 step' : `${count} steps`);
  const end = trail.at(-1)!;
  return [
    `You made ${steps(trail.length - 1)}; “${wanted}” is ${steps(goal)} from the first stop.`,
    end === goal ? 'You were on it.' : `You were at “${formatStop(stops[end]!)}”.`,
    ...(stops[goal]!.name === '' ? ['It has no name, so nobody could have told it.'] : []),
  ].join(' ');
}
