/** `fenlok hold --bar`: what is held stands in one line of the terminal, and a key changes each. */
import { columnsOf, fitColumns } from '../../../core/reports/columns.ts';
import type { Device } from '../../../device/device.ts';
import { holdableOf } from '../../../device/holdable.ts';
import type { LiveHold } from '../../../device/in-hand/holds.ts';
import type { Io } from '../../io.ts';

interface Knob {
  key: string;
  /** Of what can be held. */
  name: string;
  /** One after the other; after the last it is not held. */
  values: readonly string[];
}

const KNOBS: readonly Knob[] = [
  { key: 't', name: 'theme', values: ['dark', 'light'] },
  { key: 'l', name: 'locale', values: ['ar', 'de', 'ja'] },
  { key: 'b', name: 'bold', values: [''] },
  { key: 'c', name: 'contrast-text', values: [''] },
  { key: 'i', name: 'inversion', values: [''] },
  { key: 'g', name: 'correction', values: ['grey', 'deuteranomaly', 'protanomaly', 'tritanomaly'] },
  { key: 'r', name: 'rotation', values: ['sideways', 'upright'] },
  { key: 'a', name: 'animations', values: ['off'] },
  { key: 'n', name: 'network', values: ['off'] },
  { key: 'd', name: 'discard', values: [''] },
  { key: 's', name: 'show-taps', values: [''] },
];
const SCALES = ['0.85', '1', '1.15', '1.3', '1.5', '1.8', '2'];
const ENDS = ['q', '\u0003', '\u0004'];

export const barHelp = `${KNOBS.map(({ key, name }) => `${key} ${name}`).join('   ')}   + and - text-scale   0 nothing   q end`;

interface BarOptions {
  /** Whose languages are held; none where no app is in front. */
  appId: string | undefined;
  /** What is held from the beginning, by name. */
  first: readonly [name: string, value: string][];
}

/** Until a person ends it, or the call is stopped. */
export function runBar(device: Device, hold: LiveHold, { appId, first }: BarOptions, io: Io): Promise<void> {
  const chosen = new Map(first);
  let trouble = '';
  let widest = 0;
  const show = () => {
    const held = [...chosen].map(([name, value]) => (value ? `${name} ${value}` : name)).join('   ');
    const line = fitColumns(
      `held: ${held || 'nothing'}${trouble ? `   ▲ ${trouble}` : ''}`,
      io.columns - 1,
    ).trimEnd();
    widest = Math.max(widest, columnsOf(line));
    io.err(`\r${line}${' '.repeat(widest - columnsOf(line))}`);
  };
  const set = async (name: string, value: string | undefined) => {
    const holdable = holdableOf(device, name);
    if (!holdable) throw new RangeError(`${name} cannot be set on ${device.info.model}`);
    const { settings, sinceSdk } = holdable;
    if (sinceSdk !== undefined && device.info.sdk < sinceSdk)
      throw new RangeError(`${name} needs API ${sinceSdk}`);
    if (name === 'locale' && !appId) throw new RangeError('no app is in front');
    const of = { appId: appId ?? '', device };
    const wanted = settings(value ?? chosen.get(name) ?? '', of);
    if (value === undefined) await hold.drop(wanted.map(([setting]) => setting));
    else await hold.change(wanted);
    if (value === undefined) chosen.delete(name);
    else chosen.set(name, value);
  };
  const press = async (key: string) => {
    const knob = KNOBS.find((one) => one.key === key);
    if (knob) await set(knob.name, next(knob.values, chosen.get(knob.name)));
    else if (key === '+' || key === '-') {
      const at = SCALES.indexOf(chosen.get('text-scale') ?? '1') + (key === '+' ? 1 : -1);
      await set('text-scale', SCALES[Math.min(SCALES.length - 1, Math.max(0, at))]);
    } else if (key === '0') for (const name of [...chosen.keys()]) await set(name, undefined);
  };
  return new Promise((resolve) => {
    // one after the other, however fast they are pressed
    let work = Promise.resolve();
    const end = () => {
      stopHearing?.();
      void work.then(() => {
        io.err('\n');
        resolve();
      });
    };
    const stopHearing = io.keys?.((key) => {
      if (ENDS.includes(key)) {
        end();
        return;
      }
      work = work.then(async () => {
        trouble = '';
        await press(key).catch((error: Error) => {
          trouble = error.message;
        });
        show();
      });
    });
    io.signal.addEventListener('abort', end, { once: true });
    show();
  });
}

/** After the last one comes none. */
const next = (values: readonly string[], now: string | undefined): string | undefined =>
  now === undefined ? values[0] : values[values.indexOf(now) + 1];
