/** What the phone reports itself, and commands that run others. */
import type { Namespace } from '../../os/settings-table.ts';
import { letters, lines, type ShellCommand } from '../shell-command.ts';

const LONGEST_SLEEP_S = 3600;
const TIMED_OUT = 124;
const KILLED = 137;

const secondsOf = (text: string): number =>
  Number.parseFloat(text) * ({ m: 60, h: 3600, d: 86_400 }[text.at(-1) ?? ''] ?? 1);

export const sleep: ShellCommand = ({ args, err, signal }) => {
  const seconds = args.map(secondsOf).reduce((sum, one) => sum + one, 0);
  if (args.length === 0 || Number.isNaN(seconds)) {
    err(`sleep: ${args.length === 0 ? 'Needs 1 argument' : `not a number '${args[0]}'`}\n`);
    return 1;
  }
  return new Promise((resolve) => {
    const end = () => {
      clearTimeout(timer);
      resolve(0);
    };
    const timer = setTimeout(end, Math.min(seconds, LONGEST_SLEEP_S) * 1000);
    signal.addEventListener('abort', end, { once: true });
  });
};
export const usleep: ShellCommand = (call) =>
  sleep({ ...call, args: [String(Number(call.args[0] ?? 0) / 1e6)] });

/** `timeout [-s SIGNAL] SECONDS COMMAND …` */
export const timeout: ShellCommand = async (call) => {
  const begin = call.args.findIndex((arg) => /^[\d.]+[smhd]?$/.test(arg));
  const [limit, ...words] = begin < 0 ? [] : call.args.slice(begin);
  if (limit === undefined || words.length === 0) {
    call.err('timeout: Needs 2 arguments\n');
    return 125;
  }
  const ended = new AbortController();
  const timer = setTimeout(() => ended.abort(), secondsOf(limit) * 1000);
  const code = await call.run(words, call.input, AbortSignal.any([call.signal, ended.signal]));
  clearTimeout(timer);
  return ended.signal.aborted ? TIMED_OUT : code;
};

export const time: ShellCommand = async (call) => {
  const began = Date.now();
  const code = await call.run(call.args);
  const seconds = (Date.now() - began) / 1000;
  call.err(
    `real\t${Math.floor(seconds / 60)}m${(seconds % 60).toFixed(3)}s\nuser\t0m0.000s\nsys\t0m0.000s\n`,
  );
  return code;
};

const running: ShellCommand = (call) =>
  call.run(call.args.slice(call.args.findIndex((arg) => !arg.startsWith('-'))));
export const nohup = running;
export const setsid = running;

export const env: ShellCommand = (call) => {
  const begin = call.args.findIndex((arg) => !arg.includes('=') && !arg.startsWith('-'));
  const given = (begin < 0 ? call.args : call.args.slice(0, begin)).filter((arg) => arg.includes('='));
  if (begin >= 0) return call.run(call.args.slice(begin));
  call.out(lines(...[...call.environment].map(([name, value]) => `${name}=${value}`), ...given));
  return 0;
};
export const printenv: ShellCommand = ({ args, environment, out }) => {
  if (args.length === 0) out(lines(...[...environment].map(([name, value]) => `${name}=${value}`)));
  const found = args.flatMap((name) => environment.get(name) ?? []);
  if (found.length > 0) out(lines(...found));
  return Number(found.length < args.length);
};

const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const FULL_DAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

/** The phone's zone is UTC. */
export const date: ShellCommand = ({ args, err, os, out }) => {
  const { rest, values } = letters(args, 'dD');
  const given = values.get('d');
  const at =
    given === undefined
      ? new Date(os.log.now())
      : new Date(
          given.startsWith('@')
            ? Number(given.slice(1)) * 1000
            : `${given.replace(' ', 'T')}${/Z$/.test(given) ? '' : 'Z'}`,
        );
  if (Number.isNaN(at.getTime())) {
    err(`date: bad date '${given}'\n`);
    return 1;
  }
  const two = (value: number) => String(value).padStart(2, '0');
  const [year, month, day] = [at.getUTCFullYear(), at.getUTCMonth() + 1, at.getUTCDate()];
  const [hours, minutes, seconds] = [at.getUTCHours(), at.getUTCMinutes(), at.getUTCSeconds()];
  const forms: Record<string, string> = {
    Y: String(year),
    m: two(month),
    d: two(day),
    H: two(hours),
    M: two(minutes),
    S: two(seconds),
    y: two(year % 100),
    e: String(day).padStart(2),
    s: String(Math.floor(at.getTime() / 1000)),
    N: String(at.getTime() % 1000)
      .padStart(3, '0')
      .padEnd(9, '0'),
    a: WEEKDAYS[at.getUTCDay()]!,
    A: FULL_DAYS[at.getUTCDay()]!,
    b: MONTHS[month - 1]!,
    F: `${year}-${two(month)}-${two(day)}`,
    T: `${two(hours)}:${two(minutes)}:${two(seconds)}`,
    R: `${two(hours)}:${two(minutes)}`,
    D: `${two(month)}/${two(day)}/${two(year % 100)}`,
    Z: 'UTC',
    z: '+0000',
    u: String(at.getUTCDay() || 7),
    n: '\n',
    t: '\t',
    '%': '%',
  };
  const format = rest.find((arg) => arg.startsWith('+'))?.slice(1) ?? '%a %b %e %T %Z %Y';
  out(`${format.replace(/%([a-zA-Z%])/g, (whole, letter: string) => forms[letter] ?? whole)}\n`);
  return 0;
};

export const id: ShellCommand = ({ args, out }) => {
  const { flags } = letters(args);
  if (flags.has('u')) out(flags.has('n') ? 'shell\n' : '2000\n');
  else
    out(
      'uid=2000(shell) gid=2000(shell) groups=2000(shell),1004(input),1007(log),1011(adb),1015(sdcard_rw),3003(inet),3009(readproc) context=u:r:shell:s0\n',
    );
  return 0;
};
export const whoami: ShellCommand = ({ out }) => {
  out('shell\n');
  return 0;
};
export const groups: ShellCommand = ({ out }) => {
  out('shell input log adb sdcard_rw inet readproc\n');
  return 0;
};
export const hostname: ShellCommand = ({ out }) => {
  out('localhost\n');
  return 0;
};
export const uname: ShellCommand = ({ args, out }) => {
  const { flags } = letters(args);
  const parts: [string, string][] = [
    ['s', 'Linux'],
    ['n', 'localhost'],
    ['r', '6.1.75-android14-11'],
    ['v', '#1 SMP PREEMPT'],
    ['m', 'aarch64'],
    ['o', 'Toybox'],
  ];
  const shown = flags.has('a')
    ? parts
    : parts.filter(([letter]) => (flags.size === 0 ? letter === 's' : flags.has(letter)));
  out(`${shown.map(([, text]) => text).join(' ')}\n`);
  return 0;
};
export const uptime: ShellCommand = ({ os, out }) => {
  const seconds = Math.floor((Date.now() - os.processes.bootedAt) / 1000);
  const now = new Date().toISOString().slice(11, 19);
  out(` ${now} up ${Math.floor(seconds / 60)} min,  0 users,  load average: 0.52, 0.58, 0.59\n`);
  return 0;
};
export const nproc: ShellCommand = ({ out }) => {
  out('8\n');
  return 0;
};
export const getenforce: ShellCommand = ({ out }) => {
  out('Enforcing\n');
  return 0;
};
export const free: ShellCommand = ({ args, out }) => {
  const unit = letters(args).flags.has('m') ? 2 ** 20 : letters(args).flags.has('k') ? 1024 : 1;
  const say = (mib: number) => String(Math.floor((mib * 2 ** 20) / unit)).padStart(15);
  out(
    lines(
      `${' '.repeat(16)}${['total', 'used', 'free', 'shared', 'buffers'].map((name) => name.padStart(14)).join(' ')}`,
      `Mem:   ${[7600, 4100, 3500, 40, 6].map(say).join('')}`,
      `Swap:  ${[4000, 300, 3700].map(say).join('')}`,
    ),
  );
  return 0;
};

const matching = ({ args, os }: Parameters<ShellCommand>[0]) => {
  const { flags, rest } = letters(args, 's');
  const wanted = new RegExp(rest[0] ?? '', 'u');
  return {
    flags,
    found: os.processes.all().filter(({ name }) => (flags.has('x') ? name === rest[0] : wanted.test(name))),
  };
};
export const pgrep: ShellCommand = (call) => {
  const { flags, found } = matching(call);
  call.out(lines(...found.map(({ name, pid }) => (flags.has('l') ? `${pid} ${name}` : String(pid)))));
  return Number(found.length === 0);
};

/** The shell may end its own processes, and no other's. */
export const kill: ShellCommand = ({ args, err, os, out }) => {
  if (args[0] === '-l') {
    out('HUP INT QUIT ILL TRAP ABRT BUS FPE KILL USR1 SEGV USR2 PIPE ALRM TERM\n');
    return 0;
  }
  let code = 0;
  for (const text of args.filter((arg) => !/^-/.test(arg) && !/^[A-Z]+$/.test(arg))) {
    const process = os.processes.get(Number(text));
    if (process?.uid === 2000) os.processes.end(process, 'stop');
    else {
      err(`kill: ${text}: ${process ? 'Operation not permitted' : 'No such process'}\n`);
      code = 1;
    }
  }
  return code;
};
export const pkill: ShellCommand = (call) => {
  const { found } = matching({ ...call, args: call.args.filter((arg) => !/^-([0-9]+|[A-Z]+)$/.test(arg)) });
  for (const { pid, uid } of found) if (uid !== 2000) call.err(`pkill: pid ${pid} Operation not permitted\n`);
  return Number(found.length === 0 || found.some(({ uid }) => uid !== 2000));
};

export const top: ShellCommand = ({ os, out }) => {
  const rows = os.processes
    .all()
    .map(
      ({ name, pid, uid }) =>
        `${String(pid).padStart(5)} ${(uid >= 10_000 ? `u0_a${uid - 10_000}` : 'system').padEnd(12)} 20   0  12G 180M  90M S  0.0   1.2   0:01.00 ${name}`,
    );
  out(
    lines(
      `Tasks: ${rows.length} total,   1 running, ${rows.length - 1} sleeping,   0 stopped,   0 zombie`,
      '  Mem:  7600M total,  4100M used,  3500M free,     6M buffers',
      '  PID USER         PR  NI VIRT  RES  SHR S[%CPU] %MEM     TIME+ ARGS',
      ...rows,
    ),
  );
  return 0;
};

/** Only into apps that say that they may be debugged. */
export const runAs: ShellCommand = (call) => {
  const [appId = '', ...words] = call.args;
  const app = call.os.packages.get(appId);
  if (!app) {
    call.err(`run-as: unknown package: ${appId}\n`);
    return 1;
  }
  if (!app.opened.app.android?.manifest.application?.debuggable) {
    call.err(`run-as: package not debuggable: ${appId}\n`);
    return 1;
  }
  return call.run(words);
};

/** A user's build has no other user to become. */
export const reboot: ShellCommand = ({ os }) => {
  os.reboot();
  return KILLED;
};

/** `service list` and `service check NAME`. */
export const service: ShellCommand = ({ args: [verb, name = ''], out }) => {
  const services = [
    'activity',
    'alarm',
    'appops',
    'battery',
    'connectivity',
    'deviceidle',
    'display',
    'input',
    'locale',
    'location',
    'notification',
    'package',
    'power',
    'statusbar',
    'uimode',
    'window',
  ];
  if (verb === 'list')
    out(
      lines(
        `Found ${services.length} services:`,
        ...services.map((one, i) => `${i}\t${one}: [android.os.IBinder]`),
      ),
    );
  else if (verb === 'check') out(`Service ${name}: ${services.includes(name) ? 'found' : 'not found'}\n`);
  else out('Usage: service [-h|-?]\n       service list\n       service check SERVICE\n');
  return 0;
};

/** `ime list`: the one keyboard. */
export const ime: ShellCommand = ({ args: [verb, ...rest], out }) => {
  const keyboard = 'com.standin.keyboard/.KeyboardService';
  if (verb === 'list')
    out(
      rest.includes('-s')
        ? `${keyboard}\n`
        : lines(`mId=${keyboard} mSettingsActivityName=null mIsVrOnly=false`, '  mIsDefaultResId=0x0'),
    );
  else out(`Input method ${rest[0] ?? ''} ${verb === 'set' ? 'selected' : 'enabled'} for user #0\n`);
  return 0;
};

/** `monkey -p APP 1`, as people open an app with it; it throws nothing else. */
export const monkey: ShellCommand = async (call) => {
  const { values } = letters(call.args, 'pcs');
  const appId = values.get('p');
  const launcher = appId === undefined ? undefined : call.os.packages.launcherOf(appId);
  if (!appId || !launcher) {
    call.out(lines('** No activities found to run, monkey aborted.'));
    return 252;
  }
  await call.os.start({
    action: 'android.intent.action.MAIN',
    categories: ['android.intent.category.LAUNCHER'],
    appId,
    extras: {},
  });
  call.out(
    lines(
      'Events injected: 1',
      '## Network stats: elapsed time=12ms (0ms mobile, 0ms wifi, 12ms not connected)',
    ),
  );
  return 0;
};

export const ping: ShellCommand = ({ args, err, out }) => {
  const host = letters(args, 'cWi').rest[0] ?? '';
  if (!/^(localhost|127\.\d+\.\d+\.\d+)$/.test(host)) {
    err(`ping: unknown host ${host}\n`);
    return 2;
  }
  out(
    lines(
      `PING ${host} (127.0.0.1) 56(84) bytes of data.`,
      '64 bytes from 127.0.0.1: icmp_seq=1 ttl=64 time=0.041 ms',
      '',
      `--- ${host} ping statistics ---`,
      '1 packets transmitted, 1 received, 0% packet loss, time 0ms',
    ),
  );
  return 0;
};

/** `content query --uri content://settings/NAMESPACE`; of other providers the shell is told nothing. */
export const content: ShellCommand = ({ args, err, os, out }) => {
  const uri = args[args.indexOf('--uri') + 1] ?? '';
  const namespace = /^content:\/\/settings\/(system|secure|global)$/.exec(uri)?.[1] as Namespace | undefined;
  if (args[0] !== 'query' || !namespace) {
    err(`Error while accessing provider:${uri.split('/')[2] ?? ''}\n`);
    return 1;
  }
  out(
    lines(
      ...os.settings
        .list(namespace)
        .map(([name, value], i) => `Row: ${i} _id=${i + 1}, name=${name}, value=${value}`),
    ),
  );
  return 0;
};

/** No flag is set here. */
export const deviceConfig: ShellCommand = ({ args: [verb], err, out }) => {
  if (verb === 'get') out('null\n');
  else if (verb !== 'list') {
    err(`Invalid command: ${verb ?? ''}\n`);
    return 255;
  }
  return 0;
};
