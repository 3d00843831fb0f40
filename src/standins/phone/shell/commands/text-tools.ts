/** Small tools that people put behind a pipe, and files on the phone. */

import { type Call, lines, readAll, type ShellCommand, splitOptions } from '../shell-command.ts';
import { procFile } from './processes.ts';

const INPUT_LIMIT_BYTES = 256 * 2 ** 20;
const textOf = (bytes: Uint8Array): string => new TextDecoder().decode(bytes);
const inputText = async ({ input }: Call): Promise<string> => textOf(await readAll(input, INPUT_LIMIT_BYTES));
const linesOf = (text: string): string[] => text.replace(/\n$/, '').split('\n');

function fileBytes({ os }: Call, path: string): Uint8Array | undefined {
  const proc = procFile(path, os.processes.all(), os.processes.bootedAt);
  return proc === undefined ? os.readFile(path)?.bytes : new TextEncoder().encode(proc);
}

/** The texts of the files named, or what comes in. */
async function contents(call: Call, name: string, paths: readonly string[]): Promise<string[]> {
  if (paths.length === 0) return [await inputText(call)];
  return paths.flatMap((path) => {
    const bytes = fileBytes(call, path);
    if (!bytes) call.err(`${name}: ${path}: No such file or directory\n`);
    return bytes ? [textOf(bytes)] : [];
  });
}

export const echo: ShellCommand = ({ args, out }) => {
  const quiet = args[0] === '-n';
  out(args.slice(quiet ? 1 : 0).join(' ') + (quiet ? '' : '\n'));
  return 0;
};

export const cat: ShellCommand = async (call) => {
  if (call.args.length === 0) call.out(await readAll(call.input, INPUT_LIMIT_BYTES));
  let code = 0;
  for (const path of call.args) {
    const bytes = fileBytes(call, path);
    if (bytes) call.out(bytes);
    else {
      call.err(`cat: ${path}: No such file or directory\n`);
      code = 1;
    }
  }
  return code;
};

export const ls: ShellCommand = ({ args, err, os, out }) => {
  const { options, rest } = splitOptions(args, []);
  const folder = (rest[0] ?? '/').replace(/\/*$/, '/');
  const exact = os.files.get(rest[0] ?? '');
  const inside = [...os.files].filter(([path]) => path.startsWith(folder));
  if (!exact && inside.length === 0 && !['/', '/sdcard/', '/data/local/tmp/'].includes(folder)) {
    err(`ls: ${rest[0]}: No such file or directory\n`);
    return 1;
  }
  const shown = exact ? [[rest[0]!, exact] as const] : inside;
  const names = shown.map(([path, { bytes, at }]) => {
    const name = exact ? path : path.slice(folder.length).split('/')[0]!;
    const time = new Date(at).toISOString().slice(0, 16).replace('T', ' ');
    return options.has('-l') ? `-rw-rw---- 1 shell shell ${bytes.length} ${time} ${name}` : name;
  });
  out(lines(...new Set(names)));
  return 0;
};

export const rm: ShellCommand = ({ args, err, os }) => {
  const { options, rest } = splitOptions(args, []);
  const isForced = [...options.keys()].some((option) => option.includes('f'));
  const isDeep = [...options.keys()].some((option) => option.includes('r'));
  let code = 0;
  for (const path of rest) {
    const found = [...os.files.keys()].filter(
      (name) => name === path || (isDeep && name.startsWith(`${path}/`)),
    );
    for (const name of found) os.files.delete(name);
    if (found.length === 0 && !isForced) {
      err(`rm: ${path}: No such file or directory\n`);
      code = 1;
    }
  }
  return code;
};

export const mkdir: ShellCommand = () => 0;

export const grep: ShellCommand = async (call) => {
  const { options, rest } = splitOptions(call.args, ['-m', '-A', '-B']);
  const flags = [...options.keys()].join('');
  const [pattern = '', ...paths] = rest;
  const source = /F/.test(flags) ? pattern.replace(/[.*+?^${}()|[\]\\]/g, '\\$&') : pattern;
  let match: RegExp;
  try {
    match = new RegExp(source, /i/.test(flags) ? 'i' : '');
  } catch {
    call.err(`grep: bad REGEX '${pattern}'\n`);
    return 2;
  }
  const found = (await contents(call, 'grep', paths))
    .flatMap(linesOf)
    .filter((line) => match.test(line) !== /v/.test(flags));
  if (/c/.test(flags)) call.out(`${found.length}\n`);
  else if (!/q/.test(flags)) call.out(lines(...found));
  return found.length > 0 ? 0 : 1;
};

const someLines =
  (name: 'head' | 'tail'): ShellCommand =>
  async (call) => {
    const short = call.args.find((arg) => /^-\d+$/.test(arg));
    const { options, rest } = splitOptions(
      call.args.filter((arg) => arg !== short),
      ['-n'],
    );
    const count = Number(short?.slice(1) ?? options.get('-n')?.[0] ?? 10);
    for (const text of await contents(call, name, rest)) {
      const all = linesOf(text);
      call.out(lines(...(name === 'head' ? all.slice(0, count) : all.slice(-count))));
    }
    return 0;
  };
export const head = someLines('head');
export const tail = someLines('tail');

export const wc: ShellCommand = async (call) => {
  const { options, rest } = splitOptions(call.args, []);
  const text = (await contents(call, 'wc', rest)).join('');
  const counts = [
    text.split('\n').length - 1,
    text.split(/\s+/).filter(Boolean).length,
    Buffer.byteLength(text),
  ];
  const wanted = ['-l', '-w', '-c'].flatMap((option, i) =>
    options.size === 0 || options.has(option) ? [counts[i]] : [],
  );
  call.out(`${wanted.join(' ')}\n`);
  return 0;
};

export const sleep: ShellCommand = ({ args, signal }) =>
  new Promise((resolve) => {
    const end = () => {
      clearTimeout(timer);
      resolve(0);
    };
    const timer = setTimeout(end, Math.min(Number(args[0]) || 0, 3600) * 1000);
    signal.addEventListener('abort', end, { once: true });
  });

export const date: ShellCommand = ({ args, out }) => {
  const format = args.find((arg) => arg.startsWith('+'));
  const nowMs = Date.now();
  const seconds = String(Math.floor(nowMs / 1000));
  const nanoseconds = String((nowMs % 1000) * 1_000_000).padStart(9, '0');
  out(
    `${format ? format.slice(1).replace('%s', seconds).replace('%N', nanoseconds) : new Date(nowMs).toUTCString()}\n`,
  );
  return 0;
};

export const id: ShellCommand = ({ out }) => {
  out(
    'uid=2000(shell) gid=2000(shell) groups=2000(shell),1004(input),1007(log),3009(readproc) context=u:r:shell:s0\n',
  );
  return 0;
};

const yes: ShellCommand = () => 0;
const no: ShellCommand = () => 1;

export { no as false, yes as true };
