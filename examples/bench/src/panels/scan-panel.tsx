import { Button, Group, Kbd, NativeSelect, SegmentedControl } from '@mantine/core';
import {
  type ScanPattern,
  type ScanState,
  scanNext,
  scannedRows,
  scanSelect,
  scanStart,
  scanStops,
} from 'fenlok';
import { useEffect, useState } from 'react';
import { useKeys } from '../../../parts/keys.ts';
import type { PanelProps } from '../bench.tsx';
import { type Mark, ScreenPicture } from '../screen-picture.tsx';
import { formatStop } from './stop-line.tsx';

const PACES_S = ['0.5', '1', '1.5', '2', '3', '5'];

/** Switch scanning as it is lived: with two switches, or with one and a highlight that moves by itself. */
export function ScanPanel({ shown }: PanelProps) {
  const { stops, title } = shown.screen!;
  const [pattern, setPattern] = useState<ScanPattern>('linear');
  const [switches, setSwitches] = useState('2');
  const [pace, setPace] = useState('1.5');
  const [running, setRunning] = useState(false);
  const [state, setState] = useState<ScanState>(scanStart);
  const rows = scannedRows(stops, pattern);
  const scanned = scanStops(stops, pattern, Number(pace));
  const slowest = scanned.reduce((most, one) => Math.max(most, one.seconds), 0);

  useEffect(() => {
    if (!running || switches !== '1') return;
    const timer = setInterval(() => setState((now) => scanNext(rows, now)), Number(pace) * 1000);
    return () => clearInterval(timer);
  }, [running, switches, pace, rows]);
  const restart = () => {
    setState(scanStart);
    setRunning(false);
  };
  const next = () => setState(scanNext(rows, state));
  const select = () => {
    const after = scanSelect(rows, state);
    setState(after);
    if (after.activated) setRunning(false);
  };
  useKeys(switches === '2' ? { n: next, s: select } : { s: select });

  const highlighted =
    state.row < 0 ? [] : state.item === undefined ? rows[state.row]! : [rows[state.row]![state.item]!];
  const hit = state.activated && rows[state.activated.row]![state.activated.item]!;
  const marks: Mark[] = (hit ? [hit] : highlighted).map((stop, i) => ({
    id: `lit ${i}`,
    boundsPx: stop.boundsPx,
    tone: 'active',
  }));
  return (
    <>
      <ScreenPicture shown={shown} marks={marks} name={`${title}, what is highlighted outlined`} />
      <section className="side" aria-label="Switch scanning">
        <Group gap="sm" align="end">
          <SegmentedControl
            aria-label="Switches"
            data={[
              { value: '2', label: 'Two switches' },
              { value: '1', label: 'One switch' },
            ]}
            value={switches}
            onChange={(value) => {
              setSwitches(value);
              restart();
            }}
          />
          <SegmentedControl
            aria-label="Pattern"
            data={[
              { value: 'linear', label: 'One by one' },
              { value: 'rows', label: 'Row by row' },
            ]}
            value={pattern}
            onChange={(value) => {
              setPattern(value as ScanPattern);
              restart();
            }}
          />
          <NativeSelect
            label="Pace"
            data={PACES_S.map((value) => ({ value, label: `${value} s` }))}
            value={pace}
            onChange={({ currentTarget }) => setPace(currentTarget.value)}
          />
        </Group>
        <Group gap="xs">
          {switches === '2' ? (
            <Button variant="default" onClick={next}>
              Next
            </Button>
          ) : (
            <Button variant="default" onClick={() => setRunning(!running)}>
              {running ? 'Halt' : 'Start'}
            </Button>
          )}
          <Button onClick={select}>Select</Button>
          <Button variant="subtle" onClick={restart}>
            From the start
          </Button>
        </Group>
        <p className="note">
          {switches === '2' ? (
            <>
              <Kbd>N</Kbd> next, <Kbd>S</Kbd> select
            </>
          ) : (
            <>
              The highlight moves by itself every {pace} s; <Kbd>S</Kbd> select
            </>
          )}
        </p>
        <p role="status" className="spoken">
          {hit
            ? `Selected ${formatStop(hit)} with ${state.presses} presses, ${(state.presses * Number(pace)).toFixed(1)} s`
            : highlighted.length === 0
              ? 'Nothing is highlighted yet'
              : highlighted.length > 1
                ? `Row ${state.row + 1} of ${rows.length}: ${highlighted.length} controls`
                : formatStop(highlighted[0]!)}
        </p>
        <h3>Presses to each control; the last takes {slowest.toFixed(1)} s</h3>
        <ol className="lines numbers">
          {scanned.map(({ presses, seconds, stop }, i) => (
            <li key={i} aria-current={highlighted.includes(stop) || undefined}>
              <span className="number">{presses}</span>
              <span className="number">{seconds.toFixed(1)} s</span>
              <span dir="auto">{stop.name || <b className="failed">▲ no name</b>}</span>
            </li>
          ))}
        </ol>
      </section>
    </>
  );
}
