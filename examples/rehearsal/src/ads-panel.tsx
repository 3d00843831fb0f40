import { Button, NativeSelect, TextInput } from '@mantine/core';
import { type Finding, type OutcomeTable, rowsWith, type TraceLine } from 'fenlok';
import { type ResponseMode, responseModes } from 'fenlok/standins/models';
import { useState } from 'react';
import { OutcomeTableView } from './outcome-table-view.tsx';
import { formatLine } from './say-line.ts';
import type { Playing } from './use-rehearsal.ts';

const MODES: Partial<Record<ResponseMode, string>> = {
  fill: 'fills',
  'no-fill': 'has nothing to show',
  live: 'sends live ads',
  malformed: 'answers half',
  huge: 'answers 10 MB',
  drop: 'hangs up',
};

interface Props {
  playing: Playing;
  lines: readonly TraceLine[];
  table: OutcomeTable;
  findings: readonly Finding[];
}

/** Placements by networks, how each network behaves, and what the libraries logged. */
export function AdsPanel({ findings, lines, playing: { act, rehearsal }, table: whole }: Props) {
  const { exchange, phones } = rehearsal;
  const [words, setWords] = useState('');
  const table = rowsWith(whole, words.trim().split(/\s+/));
  const [at, setAt] = useState<[row: number, column: number]>([0, table.columns.length - 1]);
  const isOpen = phones.some(({ state }) => state === 'front');
  const [placement, network] = table.rows[at[0]]?.name.split(' · ') ?? [];
  if (whole.rows.length === 0) return <p className="note">The intent file names no placements of ads.</p>;
  return (
    <>
      <div className="keys">
        <Button disabled={!isOpen} onClick={() => act({ do: 'load-all' })}>
          Load all
        </Button>
        <Button variant="default" onClick={() => act({ do: 'register' })}>
          Register both phones for tests
        </Button>
        <TextInput
          label="Rows with"
          value={words}
          onChange={({ currentTarget }) => setWords(currentTarget.value)}
        />
      </div>
      <div className="keys">
        {exchange.networks.map((one) => (
          <NativeSelect
            key={one}
            label={one}
            data={responseModes.flatMap((mode) => (MODES[mode] ? [{ value: mode, label: MODES[mode] }] : []))}
            value={exchange.modeOf(one)}
            onChange={({ currentTarget }) =>
              act({ do: 'mode', network: one, mode: currentTarget.value as ResponseMode })
            }
          />
        ))}
      </div>
      {!isOpen && <p className="note">Ads are loaded by an app in front: open it on a phone.</p>}
      <OutcomeTableView
        table={table}
        findings={findings}
        corner="placement · network"
        at={at}
        onChoose={setAt}
      >
        <ul className="log">
          {logOf(lines, placement, network).map((line, i) => (
            <li key={i}>
              <time>{line.at.slice(11, 19)}</time> {formatLine(line)}
            </li>
          ))}
        </ul>
      </OutcomeTableView>
    </>
  );
}

const LINES_SHOWN = 12;

/** What was said last of one placement and one network. */
function logOf(
  lines: readonly TraceLine[],
  placement: string | undefined,
  network: string | undefined,
): TraceLine[] {
  let isAsked = false;
  const own = lines.filter((line) => {
    if (!line.kind.startsWith('ad.') && line.kind !== 'log.line') return false;
    if (line.kind === 'ad.requested') isAsked = line.placement === placement && line.network === network;
    const isOwn = isAsked || (line.kind === 'ad.initialised' && line.network === network);
    if (line.kind === 'ad.loaded' || line.kind === 'ad.failed') isAsked = false;
    return isOwn;
  });
  return own.slice(-LINES_SHOWN);
}
