/** A person at the phone, by Debian's own bridge client: starts the app, taps and types, with nothing of Fenlok in between. */
import { execFile } from 'node:child_process';
import { promisify } from 'node:util';
import type { Step } from '../../src/core/model/intent-parts.ts';

const run = promisify(execFile);

export const adb = async (serial: string, ...args: string[]): Promise<string> =>
  (await run('adb', ['-s', serial, ...args], { maxBuffer: 2 ** 26 })).stdout;

const dump = (serial: string): Promise<string> => adb(serial, 'exec-out', 'uiautomator', 'dump', '/dev/tty');

/** The middle of the first node that has the id, or shows the text. */
export function middleOf(xml: string, name: string): [number, number] | undefined {
  for (const [node] of xml.matchAll(/<node [^>]*>/g)) {
    const of = (key: string) => new RegExp(` ${key}="([^"]*)"`).exec(node)?.[1] ?? '';
    if (of('resource-id').split('/').at(-1) !== name && of('text') !== name) continue;
    const [left, top, right, bottom] = (of('bounds').match(/\d+/g) ?? []).map(Number);
    if (right! > left! && bottom! > top!) return [(left! + right!) / 2, (top! + bottom!) / 2];
  }
  return undefined;
}

/** Scrolls on where the element cannot be seen yet. */
async function tap(serial: string, name: string): Promise<void> {
  for (let tries = 0; tries < 8; tries++) {
    const xml = await dump(serial);
    const at = middleOf(xml, name);
    if (at) {
      await adb(serial, 'shell', 'input', 'tap', ...at.map((px) => String(Math.round(px))));
      return;
    }
    if (xml.includes('<hierarchy'))
      await adb(serial, 'shell', 'input', 'swipe', '540', '1700', '540', '1000', '300');
  }
  throw new Error(`nothing on the screen is called ${name}`);
}

/** The app from its icon, and then the steps. */
export async function goByThumb(serial: string, component: string, steps: readonly Step[]): Promise<void> {
  await adb(serial, 'shell', 'am', 'force-stop', component.split('/')[0]!);
  await adb(serial, 'shell', 'am', 'start', '-W', '-n', component);
  await stepByThumb(serial, steps);
}

export async function stepByThumb(serial: string, steps: readonly Step[]): Promise<void> {
  for (const step of steps) {
    if ('tap' in step) await tap(serial, step.tap);
    else if ('type' in step) {
      await tap(serial, step.into);
      await adb(serial, 'shell', 'input', 'text', step.type.replaceAll(' ', '%s'));
    } else if ('press' in step) await adb(serial, 'shell', 'input', 'keyevent', step.press.toUpperCase());
    else if ('scroll' in step) {
      const [from, to] = step.scroll === 'down' ? ['1700', '900'] : ['900', '1700'];
      await adb(serial, 'shell', 'input', 'swipe', '540', from, '540', to, '300');
    }
  }
}
