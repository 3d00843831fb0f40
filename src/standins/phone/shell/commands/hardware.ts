/** Display, keys, switches: what a hand does to a phone. */
import sharp from 'sharp';
import { frontWindow } from '../../os/front-window.ts';
import type { FocusMove } from '../../os/key-focus.ts';
import type { Key } from '../../os/phone-input.ts';
import { type Call, lines, type ShellCommand } from '../shell-command.ts';

const KEYS: Record<string, Key> = {
  '3': 'home',
  HOME: 'home',
  '4': 'back',
  BACK: 'back',
  '26': 'power',
  POWER: 'power',
  '67': 'delete',
  DEL: 'delete',
  '82': 'menu',
  MENU: 'menu',
  '83': 'notification',
  NOTIFICATION: 'notification',
  '187': 'recents',
  APP_SWITCH: 'recents',
  '223': 'sleep',
  SLEEP: 'sleep',
  '224': 'wakeup',
  WAKEUP: 'wakeup',
};

const MOVES: Record<string, FocusMove> = {
  '19': 'up',
  DPAD_UP: 'up',
  '20': 'down',
  DPAD_DOWN: 'down',
  '21': 'left',
  DPAD_LEFT: 'left',
  '22': 'right',
  DPAD_RIGHT: 'right',
  '61': 'forward',
  TAB: 'forward',
};
const ENTER = ['23', 'DPAD_CENTER', '66', 'ENTER'];

/** `input keyevent|tap|text|swipe` */
export const input: ShellCommand = async ({ args: [verb, ...args], err, os }) => {
  const numbers = args.map(Number);
  const complain = (why: string) => {
    err(`Error: ${why}\n`);
    return 255;
  };
  if (verb === 'tap' || verb === 'swipe') {
    const wanted = verb === 'tap' ? 2 : 4;
    if (numbers.length < wanted || numbers.some(Number.isNaN))
      return complain(`Invalid arguments for command: ${verb}`);
    const [x, y, toX, toY] = numbers as [number, number, number, number];
    await (verb === 'tap' ? os.input.tap(x, y) : os.input.swipe(x, y, toX, toY));
    return 0;
  }
  if (verb === 'text') {
    const text = args.join(' ').replaceAll('%s', ' ');
    // the platform's key map has no other characters, and its tool ends there
    if (/[^\x20-\x7e]/.test(text))
      return complain(
        "Attempt to invoke virtual method 'int android.view.KeyEvent[].length' on a null object reference",
      );
    os.input.type(text);
    return 0;
  }
  if (verb === 'keyevent') {
    for (const name of args.filter((arg) => !arg.startsWith('--'))) {
      const plain = name.replace(/^KEYCODE_/, '');
      const [key, move] = [KEYS[plain], MOVES[plain]];
      if (key) os.input.key(key);
      else if (move) await os.input.moveFocus(move);
      else if (ENTER.includes(plain)) await os.input.enter();
    }
    return 0;
  }
  return complain(`Unknown command: ${verb ?? ''}`);
};

/** `wm size [WxH|reset]`, `wm density [N|reset]`, `wm dismiss-keyguard` */
export const wm: ShellCommand = ({ args: [what, value], err, os, out }) => {
  const { shape } = os;
  if (what === 'dismiss-keyguard') {
    os.unlock();
    return 0;
  }
  if (what === 'size') {
    const size = /^(\d+)x(\d+)$/.exec(value ?? '');
    if (size)
      os.change(() => {
        os.sizePx = { widthPx: Number(size[1]), heightPx: Number(size[2]) };
      });
    else if (value === 'reset')
      os.change(() => {
        os.sizePx = undefined;
      });
    else if (value === undefined) {
      out(`Physical size: ${shape.widthPx}x${shape.heightPx}\n`);
      if (os.sizePx) out(`Override size: ${os.sizePx.widthPx}x${os.sizePx.heightPx}\n`);
    } else return wrong(err, `bad size ${value}`);
    return 0;
  }
  if (what === 'density') {
    const density = Number(value);
    if (value === 'reset')
      os.change(() => {
        os.densityDpi = undefined;
      });
    else if (value === undefined) {
      out(`Physical density: ${shape.densityDpi}\n`);
      if (os.densityDpi) out(`Override density: ${os.densityDpi}\n`);
    } else if (density >= 72)
      os.change(() => {
        os.densityDpi = density;
      });
    else return wrong(err, 'density must be >= 72');
    return 0;
  }
  return wrong(err, `unknown command '${what ?? ''}'`);
};

function wrong(err: Call['err'], why: string): number {
  err(`Error: ${why}\n`);
  return 255;
}

/** `svc wifi|data enable|disable` */
export const svc: ShellCommand = ({ args: [what, verb], err, os }) => {
  const key = { wifi: 'wifi_on', data: 'mobile_data' }[what ?? ''];
  if (!key || (verb !== 'enable' && verb !== 'disable')) return wrong(err, 'svc wifi|data enable|disable');
  os.settings.put('global', key, verb === 'enable' ? '1' : '0');
  return 0;
};

/** `uiautomator dump [FILE]`: the hierarchy of the window in front, once nothing moves. */
export const uiautomator: ShellCommand = async ({ args, err, os, out }) => {
  if (args[0] !== 'dump') return wrong(err, 'uiautomator dump [file]');
  const path = args.slice(1).find((arg) => !arg.startsWith('--')) ?? '/sdcard/window_dump.xml';
  if (os.isMoving()) {
    err('ERROR: could not get idle state.\n');
    return 0;
  }
  const window = await frontWindow(os);
  if (!window) {
    err('ERROR: null root node returned by UiTestAutomationBridge.\n');
    return 0;
  }
  const xml = window.screen.hierarchyXml(window.appId).replace(/\n */g, '');
  if (path === '/dev/tty') out(xml);
  else {
    const trouble = os.files.write(path, new TextEncoder().encode(xml));
    if (trouble) {
      err(`ERROR: ${path}: ${trouble}\n`);
      return 1;
    }
  }
  out(`UI hierchary dumped to: ${path}\n`);
  return 0;
};

export async function blackened(png: Uint8Array): Promise<Uint8Array> {
  const { height, width } = await sharp(png).metadata();
  return sharp({ create: { width, height, channels: 3, background: '#000' } })
    .png()
    .toBuffer();
}

/** Of the display that apps are shown on, as makers number it. */
export const DISPLAY_ID = '4619827677550801152';

/** `screencap -p [-d DISPLAY] [FILE]` */
export const screencap: ShellCommand = async ({ args, err, os, out }) => {
  const display = args.indexOf('-d');
  const path = args.find((arg, i) => !arg.startsWith('-') && (display < 0 || i !== display + 1));
  if (display >= 0 && args[display + 1] !== DISPLAY_ID) {
    err(`Display Id '${args[display + 1]}' is not valid.\n`);
    return 1;
  }
  const window = await frontWindow(os);
  if (!window) {
    err('screencap: the display is off\n');
    return 1;
  }
  if (!args.includes('-p') && !path?.endsWith('.png')) {
    err(lines('screencap: only PNG can be had here; use -p'));
    return 1;
  }
  const png = window.isSecure ? await blackened(await window.screen.png()) : await window.screen.png();
  const trouble = path === undefined ? out(png) : os.files.write(path, png);
  if (trouble) err(`Error opening file: ${path} (${trouble})\n`);
  return Number(trouble !== undefined);
};
