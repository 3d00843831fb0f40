import { Button, NativeSelect } from '@mantine/core';
import { useKeys } from '../../parts/keys.ts';
import type { Playing } from './use-rehearsal.ts';

const RATES: readonly [number, string][] = [
  [1, '1 s'],
  [60, '1 min'],
  [3600, '1 hour'],
  [86_400, '1 day'],
  [604_800, '1 week'],
];

const HOUR_MS = 3600_000;
const STEPS: readonly [number, string][] = [
  [HOUR_MS, '+ 1 hour'],
  [24 * HOUR_MS, '+ 1 day'],
  [7 * 24 * HOUR_MS, '+ 1 week'],
  [31 * 24 * HOUR_MS, '+ 31 days'],
];

/** The store's time: how fast it goes, steps, and the way back. */
export function ClockBar({ playing }: { playing: Playing }) {
  const { act, isPlaying, rate, rehearsal } = playing;
  const { nextMs, nowMs } = rehearsal;
  const toNext = () => nextMs !== undefined && act({ do: 'wait', ms: Math.max(0, nextMs - nowMs) });
  useKeys({
    n: toNext,
    d: () => act({ do: 'wait', ms: 24 * HOUR_MS }),
  });
  return (
    <header>
      <h1>Fenlok rehearsal</h1>
      <p className="clock">
        <time dateTime={new Date(nowMs).toISOString()}>{formatInstant(nowMs)}</time>
        <span>store’s time, UTC</span>
      </p>
      <Button
        variant={isPlaying ? 'filled' : 'outline'}
        aria-pressed={isPlaying}
        onClick={() => (isPlaying ? playing.pause() : playing.play())}
      >
        {isPlaying ? '❙❙ Pause' : '▶ Play'}
      </Button>
      <NativeSelect
        label="A second is"
        data={RATES.map(([value, label]) => ({ value: String(value), label }))}
        value={String(rate)}
        onChange={({ currentTarget }) => playing.setRate(Number(currentTarget.value))}
      />
      <Button
        variant="outline"
        disabled={nextMs === undefined}
        onClick={toNext}
        title={nextMs === undefined ? 'Nothing will happen by itself' : formatInstant(nextMs)}
      >
        To what comes next
      </Button>
      <Button.Group aria-label="Step the clock">
        {STEPS.map(([ms, label]) => (
          <Button key={label} variant="outline" onClick={() => act({ do: 'wait', ms })}>
            {label}
          </Button>
        ))}
      </Button.Group>
      <Button variant="subtle" disabled={!playing.canUndo} onClick={playing.undo}>
        Undo
      </Button>
      <Button variant="subtle" onClick={() => playing.begin(playing.testClock)}>
        Begin again
      </Button>
    </header>
  );
}

/** `2026-11-27 14:05:09` */
export const formatInstant = (ms: number): string =>
  new Date(ms).toISOString().slice(0, 19).replace('T', ' ');
