/** How an Android phone is set now. */
import type { Cell } from '../../core/model/cell.ts';
import type { BridgeLine } from '../bridge/bridge-line.ts';
import { nameOfDevice } from '../device.ts';

const MARKED = (name: string, line: string) => `echo "${name}=$(${line} 2>/dev/null)"`;

/** How the phone is set now, in the words of a capture. */
export async function settingsNow(
  device: BridgeLine,
  appId: string,
): Promise<Omit<Cell, 'screen' | 'procedure' | 'step'>> {
  const { out } = await device.run(
    [
      MARKED('scale', 'settings get system font_scale'),
      MARKED('night', 'cmd uimode night'),
      MARKED('own', `cmd locale get-app-locales ${appId}`),
      MARKED('chosen', 'getprop persist.sys.locale'),
      MARKED('shipped', 'getprop ro.product.locale'),
    ].join('; '),
  );
  const said = (name: string) => new RegExp(`^${name}=(.*)$`, 'm').exec(out)?.[1]?.trim() ?? '';
  const own = /are \[([^\],]+)/.exec(said('own'))?.[1];
  const scale = Number(said('scale'));
  return {
    device: nameOfDevice(device),
    locale: own?.trim() || said('chosen') || said('shipped') || 'en',
    theme: said('night').endsWith('yes') ? 'dark' : 'light',
    textScale: scale > 0 ? scale : 1,
    orientation: 'portrait',
  };
}

/** In dots per inch; an override stands in the last line. */
export async function densityOf(device: BridgeLine): Promise<number> {
  const density = /(?:Override|Physical) density: (\d+)\s*$/.exec((await device.run('wm density')).out)?.[1];
  return Number(density ?? device.info.densityDpi);
}
