/** What is looked at on the right: the rehearsal as it is played, or a trace from a device. */
import { decodeTrace, isLedgerLine, type TraceLine } from 'fenlok';
import { STORE } from './model/bands.ts';
import type { Rehearsal } from './model/rehearsal.ts';

export interface LookedAt {
  lines: readonly TraceLine[];
  account: string;
  devices: readonly string[];
  nowMs: number;
  /** Of the file. */
  name?: string;
}

export const played = ({ account, lines, nowMs, phones }: Rehearsal): LookedAt => ({
  lines,
  account,
  devices: phones.map(({ device }) => device),
  nowMs,
});

const LARGEST_BYTES = 64 * 1024 * 1024;

/** @throws Error with what is wrong with the file, and where */
export async function openTrace(file: File): Promise<LookedAt> {
  const { name, size } = file;
  if (size > LARGEST_BYTES)
    throw new Error(`${name}: ${size} bytes; more than ${LARGEST_BYTES} are not read`);
  const lines = await decodeTrace(name, await file.text());
  const told = lines.filter(isLedgerLine);
  if (told.length === 0)
    throw new Error(`${name}: no line reports a purchase; expected such as store.bought`);
  const devices = told.flatMap(({ device }) => device ?? []).filter((device) => device !== STORE);
  return {
    name,
    lines,
    account: told.find((line) => line.account !== undefined)?.account ?? '',
    devices: [...new Set(devices)],
    nowMs: Math.max(
      ...lines.slice(-1).map(({ at }) => Date.parse(at)),
      ...told.map(({ at }) => Date.parse(at)),
    ),
  };
}
