import type { Process } from '../../os/process-table.ts';
import { lines, type ShellCommand, splitOptions } from '../shell-command.ts';

const FIELDS: Record<string, (process: Process, uptimeMs: number) => string> = {
  USER: ({ uid }) => formatUser(uid),
  PID: ({ pid }) => String(pid),
  PPID: ({ ppid }) => String(ppid),
  VSZ: ({ pid }) => String(10_000_000 + pid * 512),
  RSS: ({ pid }) => String(90_000 + (pid % 997) * 64),
  WCHAN: () => '0',
  ADDR: () => '0',
  S: () => 'S',
  ELAPSED: ({ startedMs }, uptimeMs) => formatElapsed(uptimeMs - startedMs),
  NAME: ({ name }) => name,
  CMDLINE: ({ name }) => name,
};
const ALIASES: Record<string, string> = { ETIME: 'ELAPSED', ARGS: 'NAME', CMD: 'NAME' };
const AS_SHIPPED = ['USER', 'PID', 'PPID', 'VSZ', 'RSS', 'WCHAN', 'ADDR', 'S', 'NAME'];

const formatUser = (uid: number): string =>
  uid >= 10_000 ? `u0_a${uid - 10_000}` : ({ 0: 'root', 1000: 'system', 2000: 'shell' }[uid] ?? String(uid));

function formatElapsed(ms: number): string {
  const seconds = Math.floor(ms / 1000);
  return `${String(Math.floor(seconds / 60)).padStart(2, '0')}:${String(seconds % 60).padStart(2, '0')}`;
}

/** `ps [-A] [-o FIELD,…] [-p PID]`; without `-A` only what belongs to this shell. */
export const ps: ShellCommand = ({ args, err, os, out }) => {
  const { options } = splitOptions(args, ['-o', '-p']);
  const wanted = options.get('-o')?.flatMap((list) => list.split(',')) ?? AS_SHIPPED;
  const fields = wanted.map((name) => ALIASES[name.toUpperCase()] ?? name.toUpperCase());
  const unknown = fields.find((name) => !FIELDS[name]);
  if (unknown) {
    err(`ps: bad -o ${unknown}\n`);
    return 1;
  }
  const pid = options.get('-p')?.[0];
  const shown = os.processes
    .all()
    .filter((process) => (pid ? String(process.pid) === pid : options.has('-A') || process.uid === 2000));
  const uptimeMs = Date.now() - os.processes.bootedAt;
  const rows = [fields, ...shown.map((process) => fields.map((name) => FIELDS[name]!(process, uptimeMs)))];
  const widths = fields.map((_, i) => Math.max(...rows.map((row) => row[i]!.length)));
  out(
    lines(
      ...rows.map((row) =>
        row
          .map((value, i) =>
            fields[i] === 'NAME' || fields[i] === 'USER'
              ? value.padEnd(widths[i]!)
              : value.padStart(widths[i]!),
          )
          .join(' '),
      ),
    ),
  );
  return 0;
};

export const pidof: ShellCommand = ({ args, os, out }) => {
  const pids = os.processes.all().flatMap(({ name, pid }) => (args.includes(name) ? [pid] : []));
  if (pids.length > 0) out(`${pids.join(' ')}\n`);
  return pids.length > 0 ? 0 : 1;
};

export const getprop: ShellCommand = ({ args, os, out }) => {
  const { model, name, release, sdk } = os.shape;
  const properties: Record<string, string> = {
    'ro.build.version.release': release,
    'ro.build.version.sdk': String(sdk),
    'ro.product.model': model,
    'ro.product.device': name,
    'ro.product.name': `standin_${name}`,
    'ro.serialno': os.serial,
    'ro.product.manufacturer': 'Fenlok',
    'ro.sf.lcd_density': String(os.shape.densityDpi),
    'persist.sys.locale': os.systemLocale,
    'sys.boot_completed': '1',
    'ro.build.type': 'user',
    ...Object.fromEntries(os.properties),
  };
  if (args[0]) out(`${properties[args[0]] ?? ''}\n`);
  else out(lines(...Object.entries(properties).map(([key, value]) => `[${key}]: [${value}]`)));
  return 0;
};

/** The system's language, and what is for debugging and logs, can be set; other properties belong to the build. */
export const setprop: ShellCommand = ({ args: [key = '', value = ''], err, os }) => {
  if (/^(debug|log)\./.test(key)) {
    os.properties.set(key, value);
    return 0;
  }
  if (key !== 'persist.sys.locale') {
    err(`Failed to set property '${key}' to '${value}'.\n`);
    return 1;
  }
  os.change(() => {
    os.systemLocale = value;
  });
  return 0;
};
