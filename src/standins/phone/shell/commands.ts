/** All commands of the phone's shell by name. */
import { am } from './commands/am.ts';
import { cmd } from './commands/cmd.ts';
import { dumpsys } from './commands/dumpsys.ts';
import { expr } from './commands/expr.ts';
import * as files from './commands/files.ts';
import { find } from './commands/find.ts';
import { egrep, fgrep, grep } from './commands/grep.ts';
import { input, screencap, svc, uiautomator, wm } from './commands/hardware.ts';
import { logcat } from './commands/logcat.ts';
import * as machine from './commands/machine.ts';
import { pm } from './commands/pm.ts';
import { getprop, pidof, ps, setprop } from './commands/processes.ts';
import { sed } from './commands/sed.ts';
import { settings } from './commands/settings.ts';
import * as tools from './commands/text-tools.ts';
import { lines, type ShellCommand } from './shell-command.ts';

const which: ShellCommand = ({ args, out }) => {
  const found = args.filter((name) => commandNamed(name));
  out(lines(...found.map((name) => `/system/bin/${name}`)));
  return found.length === args.length ? 0 : 1;
};

const { deviceConfig, runAs, ...machineCommands } = machine;

const COMMANDS: Record<string, ShellCommand> = {
  am,
  cmd,
  device_config: deviceConfig,
  dumpsys,
  egrep,
  expr,
  fgrep,
  find,
  getprop,
  grep,
  input,
  logcat,
  pidof,
  pm,
  ps,
  'run-as': runAs,
  screencap,
  sed,
  setprop,
  settings,
  svc,
  uiautomator,
  which,
  wm,
  ...files,
  ...machineCommands,
  ...tools,
};

export const commandNamed = (name: string): ShellCommand | undefined =>
  Object.hasOwn(COMMANDS, name) ? COMMANDS[name] : undefined;
