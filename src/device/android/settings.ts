/**
 * Settings of an Android phone: how each is read, written and restored. A value of null is "has none": then it is deleted or reset,
 * not set.
 */
import type { BridgeLine } from '../bridge/bridge-line.ts';
import type { Setting } from '../device.ts';
import { Refused } from '../out-of-reach.ts';
import { grantedPermissions } from './app-on-phone.ts';
import { quoteShell } from './quote-shell.ts';

interface AndroidSetting {
  read(device: BridgeLine): Promise<string | null>;
  write(device: BridgeLine, value: string | null): Promise<void>;
  reset?(device: BridgeLine): Promise<void>;
}

/**
 * @param id `system/font_scale` and its like for the settings tables; or `night`, `density`, `size`, `wifi`, `data`, `battery`,
 *   `location`, `posture`, `locale APP`, `permission APP NAME`
 */
export function androidSetting(device: BridgeLine, id: string): Setting {
  const { read, reset, write } = settingNamed(id);
  return {
    read: () => read(device),
    write: (value) => write(device, value),
    ...(reset && { reset: () => reset(device) }),
  };
}

function settingNamed(id: string): AndroidSetting {
  const table = /^(system|global|secure)\/([\w.]+)$/.exec(id);
  if (table) return ofTable(table[1]!, table[2]!);
  const locale = /^locale ([\w.]+)$/.exec(id);
  if (locale) return appLocale(locale[1]!);
  const permission = /^permission ([\w.]+) ([\w.]+)$/.exec(id);
  if (permission) return ofPermission(permission[1]!, permission[2]!);
  const named = NAMED[id];
  if (!named) throw new TypeError(`no setting is called ${id}`);
  return named;
}

async function order(device: BridgeLine, line: string): Promise<string> {
  const ran = await device.run(line);
  if (ran.code !== 0) throw new Refused(device.serial, line, { code: ran.code, said: ran.err || ran.out });
  return ran.out;
}

const ofTable = (namespace: string, key: string): AndroidSetting => ({
  read: async (device) => {
    const value = (await order(device, `settings get ${namespace} ${key}`)).trim();
    return value === 'null' ? null : value;
  },
  write: async (device, value) => {
    await order(
      device,
      value === null
        ? `settings delete ${namespace} ${key}`
        : `settings put ${namespace} ${key} ${quoteShell(value)}`,
    );
  },
});

/** The app's own language, Android 13 on; an empty list follows the system. */
const appLocale = (appId: string): AndroidSetting => ({
  read: async (device) => {
    const out = await order(device, `cmd locale get-app-locales ${appId}`);
    return /\[([^\]]*)\]/.exec(out)?.[1]?.trim() || null;
  },
  write: async (device, value) => {
    await order(device, `cmd locale set-app-locales ${appId} --locales ${quoteShell(value ?? '')}`);
  },
});

/** `granted` or `denied`. */
const ofPermission = (appId: string, name: string): AndroidSetting => ({
  read: async (device) => ((await grantedPermissions(device, appId)).includes(name) ? 'granted' : 'denied'),
  write: async (device, value) => {
    await order(device, `pm ${value === 'granted' ? 'grant' : 'revoke'} ${appId} ${name}`);
  },
});

/** `wm size` and `wm density` tell an override in a second line. */
const windowManager = (what: 'size' | 'density'): AndroidSetting => ({
  read: async (device) => /Override \w+: (\S+)/.exec(await order(device, `wm ${what}`))?.[1] ?? null,
  write: async (device, value) => {
    await order(device, `wm ${what} ${value ?? 'reset'}`);
  },
});

const radio = (what: 'wifi' | 'data', key: string): AndroidSetting => ({
  read: async (device) =>
    (await order(device, `settings get global ${key}`)).trim() === '0' ? 'disable' : 'enable',
  write: async (device, value) => {
    await order(device, `svc ${what} ${value ?? 'enable'}`);
  },
});

const NAMED: Record<string, AndroidSetting> = {
  night: {
    read: async (device) => /Night mode: (\w+)/.exec(await order(device, 'cmd uimode night'))?.[1] ?? null,
    write: async (device, value) => {
      await order(device, `cmd uimode night ${value ?? 'no'}`);
    },
  },
  density: windowManager('density'),
  size: windowManager('size'),
  wifi: radio('wifi', 'wifi_on'),
  data: radio('data', 'mobile_data'),
  /** A level is faked; the battery itself has none to be restored. */
  battery: {
    read: async (device) => {
      const out = await order(device, 'dumpsys battery');
      return out.includes('UPDATES STOPPED') ? (/level: (\d+)/.exec(out)?.[1] ?? null) : null;
    },
    write: async (device, value) => {
      await order(
        device,
        value === null
          ? 'dumpsys battery reset'
          : `dumpsys battery unplug && dumpsys battery set level ${value}`,
      );
    },
  },
  location: {
    read: async (device) => (await order(device, 'cmd location is-location-enabled')).trim(),
    write: async (device, value) => {
      await order(device, `cmd location set-location-enabled ${value ?? 'true'}`);
    },
  },
  /** Of a foldable: an identifier of its postures. What it was is told by its hinge. */
  posture: {
    read: async (device) => (await order(device, 'cmd device_state print-state')).trim(),
    write: async (device, value) => {
      await order(device, `cmd device_state state ${value}`);
    },
    reset: async (device) => {
      await order(device, 'cmd device_state state reset');
    },
  },
};
