import type { Call, ShellCommand } from '../shell-command.ts';
import { splitOptions } from '../shell-command.ts';
import { am } from './am.ts';
import { deviceIdle } from './device-idle.ts';
import { pm } from './pm.ts';
import { settings } from './settings.ts';

const NO_SERVICE = 20;

/** `cmd SERVICE …`: the services that the stand-in has. */
export const cmd: ShellCommand = (call) => {
  const [service = '', ...args] = call.args;
  const run = SERVICES[service];
  if (
    !run ||
    (service === 'locale' && call.os.shape.sdk < 33) ||
    (service === 'device_state' && call.os.shape.sdk < 31)
  ) {
    call.err(`cmd: Can't find service: ${service}\n`);
    return NO_SERVICE;
  }
  return run({ ...call, args });
};

const wrong = ({ err }: Call, why: string): number => {
  err(`${why}\n`);
  return 255;
};

const uimode: ShellCommand = (call) => {
  const [verb, value] = call.args;
  const { os, out } = call;
  if (verb !== 'night') return wrong(call, `Unknown command: ${verb ?? ''}`);
  if (value === 'yes' || value === 'no')
    os.change(() => {
      os.night = value === 'yes';
    });
  else if (value !== undefined && value !== 'auto') return wrong(call, 'Error: mode must be yes, no or auto');
  out(`Night mode: ${os.night ? 'yes' : 'no'}\n`);
  return 0;
};

/** Per-app languages (Android 13 on). */
const locale: ShellCommand = (call) => {
  const [verb, ...args] = call.args;
  const { os, out } = call;
  const { options, rest } = splitOptions(args, ['--locales', '--user']);
  const app = os.packages.get(rest[0] ?? '');
  if (!app) return wrong(call, `Unknown package ${rest[0] ?? ''} for userId 0`);
  if (verb === 'set-app-locales') {
    os.change(() => {
      app.locales = (options.get('--locales')?.[0] ?? '').split(',').filter(Boolean);
    });
    return 0;
  }
  if (verb !== 'get-app-locales') return wrong(call, `Unknown command: ${verb ?? ''}`);
  out(`Locales for ${app.appId} for user 0 are [${app.locales.join(',')}]\n`);
  return 0;
};

const statusbar: ShellCommand = (call) => {
  const { os } = call;
  if (call.args[0] === 'expand-notifications') os.expandShade();
  else if (call.args[0] === 'collapse') os.collapseShade();
  else return wrong(call, `Unknown command: ${call.args[0] ?? ''}`);
  return 0;
};

/** Postures of a foldable: 0 closed, 2 open. */
const deviceState: ShellCommand = (call) => {
  const { os, out } = call;
  const [verb, value] = call.args;
  const isFoldable = os.shape.foldedPx !== undefined;
  const states = isFoldable ? ['0', '2'] : ['0'];
  if (verb === 'print-state') out(`${isFoldable && !os.isFolded ? 2 : 0}\n`);
  else if (verb === 'print-states')
    out(
      `Supported states: [\n${states.map((id) => `  DeviceState{identifier=${id}, name='${isFoldable && id === '0' ? 'CLOSED' : isFoldable ? 'OPENED' : 'DEFAULT'}'},\n`).join('')}]\n`,
    );
  else if (verb === 'state' && (value === 'reset' || states.includes(value ?? '')))
    os.change(() => {
      os.isFolded = isFoldable && value === '0';
    });
  else return wrong(call, `Error: unsupported state: ${value ?? verb ?? ''}`);
  return 0;
};

const connectivity: ShellCommand = (call) => {
  const { os, out } = call;
  const [verb, value] = call.args;
  if (verb !== 'airplane-mode') return wrong(call, `Unknown command: ${verb ?? ''}`);
  if (value === 'enable' || value === 'disable')
    os.settings.put('global', 'airplane_mode_on', value === 'enable' ? '1' : '0');
  else out(`${os.settings.get('global', 'airplane_mode_on') === '1' ? 'enabled' : 'disabled'}\n`);
  return 0;
};

const location: ShellCommand = (call) => {
  const { os, out } = call;
  const [verb, value] = call.args;
  if (verb === 'set-location-enabled')
    os.settings.put('secure', 'location_mode', value === 'true' ? '3' : '0');
  else if (verb === 'is-location-enabled') out(`${os.settings.get('secure', 'location_mode') !== '0'}\n`);
  else return wrong(call, `Unknown command: ${verb ?? ''}`);
  return 0;
};

/** `cmd wifi`, as far as the shell of a user's build may. */
const wifi: ShellCommand = (call) => {
  const { os, out } = call;
  const [verb, value] = call.args;
  const isOn = () => os.settings.get('global', 'wifi_on') === '1';
  if (verb === 'set-wifi-enabled') os.settings.put('global', 'wifi_on', value === 'enabled' ? '1' : '0');
  else if (verb === 'status')
    out(`Wifi is ${isOn() ? 'enabled' : 'disabled'}\n${isOn() ? 'Wifi is connected to "StandIn"\n' : ''}`);
  else return wrong(call, `Unknown command: ${verb ?? ''}`);
  return 0;
};

/** `cmd appops get|set APP OP [MODE]`; what is set is read back, and changes nothing in the app. */
const appops: ShellCommand = (call) => {
  const { os, out } = call;
  const { rest } = splitOptions(call.args, ['--user']);
  const [verb, appId = '', op, mode] = rest;
  const app = os.packages.get(appId);
  if (verb === 'reset') return 0;
  if (!app) return wrong(call, `Error: No UID for ${appId} in user 0`);
  if (verb === 'set' && op && /^(allow|deny|ignore|default|foreground)$/.test(mode ?? ''))
    app.appOps.set(op, mode!);
  else if (verb === 'get') {
    const known = [...app.appOps].filter(([name]) => op === undefined || name === op);
    out(known.length > 0 ? known.map(([name, how]) => `${name}: ${how}\n`).join('') : 'No operations.\n');
  } else return wrong(call, `Unknown command: ${verb ?? ''}`);
  return 0;
};

const notification: ShellCommand = (call) => {
  const [verb] = call.args;
  const known = [
    'allow_listener',
    'disallow_listener',
    'allow_dnd',
    'disallow_dnd',
    'set_dnd',
    'suspend_package',
    'unsuspend_package',
    'snooze',
    'unsnooze',
  ];
  if (verb === 'post') {
    const tag = call.args.at(-2) ?? '';
    const text = call.args.at(-1) ?? '';
    call.os.messages.notifications.createChannel('com.android.shell', 'shell_cmd', 'Shell command');
    call.os.messages.notifications.post({
      appId: 'com.android.shell',
      id: 2020,
      channel: 'shell_cmd',
      title: tag,
      text,
      actions: [],
      tap: { screen: '' },
    });
    call.out('posting:\n  Notification(channel=shell_cmd)\n');
    return 0;
  }
  if (verb === 'list')
    call.out(
      call.os.messages.notifications
        .list()
        .map(({ appId, id }) => `0|${appId}|${id}|null|10123\n`)
        .join(''),
    );
  else if (!known.includes(verb ?? '')) return wrong(call, `Unknown command: ${verb ?? ''}`);
  return 0;
};

const jobscheduler: ShellCommand = (call) => {
  const { rest } = splitOptions(call.args, ['-u', '-n', '--user']);
  const [verb, appId = '', job = ''] = rest;
  if (verb !== 'run') return wrong(call, `Unknown command: ${verb ?? ''}`);
  const app = call.os.packages.get(appId);
  return wrong(
    call,
    app ? `Could not find job ${job} in package ${appId} / user 0` : `Package not found: ${appId}`,
  );
};

/** Answers that need no state, by their first word. */
const answering =
  (answers: Readonly<Record<string, string>>): ShellCommand =>
  (call) => {
    const answer = answers[call.args[0] ?? ''];
    if (answer === undefined) return wrong(call, `Unknown command: ${call.args[0] ?? ''}`);
    call.out(answer);
    return 0;
  };

const SERVICES: Record<string, ShellCommand> = {
  appops,
  battery: (call) => call.run(['dumpsys', 'battery', ...call.args]),
  input: (call) => call.run(['input', ...call.args]),
  input_method: (call) => call.run(['ime', ...call.args]),
  jobscheduler,
  media_session: answering({
    dispatch: '',
    'list-sessions': 'Sessions:\n',
    volume: '[v] will get volume\n[v] volume is 5 in range [0..15]\n',
  }),
  notification,
  overlay: answering({ list: 'android\n[ ] com.android.internal.display.cutout.emulation.corner\n' }),
  power: answering({ 'set-mode': '', 'set-adaptive-power-saver-enabled': '' }),
  thermalservice: answering({ 'override-status': '', reset: '' }),
  wifi,
  window: (call) => call.run(['wm', ...call.args]),
  activity: am,
  connectivity,
  device_state: deviceState,
  deviceidle: deviceIdle,
  locale,
  location,
  package: pm,
  settings,
  statusbar,
  uimode,
};
