/** Files and folders: what people do with them over the bridge. */

import { CAPACITY_BYTES } from '../../os/phone-files.ts';
import { BLOCK_BYTES, told, within } from '../file-access.ts';
import { type Call, fileAt, letters, lines, type ShellCommand } from '../shell-command.ts';

const timeOf = (at: number): string => new Date(at).toISOString().slice(0, 16).replace('T', ' ');
const modeText = (mode: number, isFolder: boolean): string =>
  (isFolder ? 'd' : '-') +
  [6, 3, 0]
    .map((shift) => ['r', 'w', 'x'].map((letter, i) => ((mode >> shift) & (4 >> i) ? letter : '-')).join(''))
    .join('');

interface Entry {
  path: string;
  name: string;
  isFolder: boolean;
  sizeBytes: number;
  at: number;
  mode: number;
}

function entryAt({ os }: Call, path: string, name: string): Entry | undefined {
  const file = os.readFile(path);
  if (file)
    return {
      path,
      name,
      isFolder: false,
      sizeBytes: file.bytes.length,
      at: file.at,
      mode: os.files.get(path)?.mode ?? 0o644,
    };
  if (!os.files.isFolder(path)) return undefined;
  return { path, name, isFolder: true, sizeBytes: BLOCK_BYTES, at: os.files.folderAt(path), mode: 0o771 };
}

export const ls: ShellCommand = (call) => {
  const { flags, rest } = letters(call.args);
  const given = rest.length === 0 ? ['.'] : rest;
  let code = 0;
  const folders: Entry[] = [];
  const files: Entry[] = [];
  for (const name of given) {
    const entry = entryAt(call, call.path(name), name);
    if (!entry) {
      call.err(`ls: ${name}: No such file or directory\n`);
      code = 1;
    } else if (entry.isFolder && !flags.has('d')) folders.push(entry);
    else files.push(entry);
  }
  call.out(listed(files, flags));
  for (const [i, folder] of folders.entries())
    code = listFolder(call, folder, flags, given.length > 1 || flags.has('R'), i + files.length > 0) || code;
  return code;
};

function listFolder(
  call: Call,
  folder: Entry,
  flags: ReadonlySet<string>,
  isNamed: boolean,
  isLater: boolean,
): number {
  if (!call.os.files.mayRead(folder.path)) {
    call.err(`ls: ${folder.name}: Permission denied\n`);
    return 1;
  }
  const names = call.os.files
    .list(folder.path)!
    .filter((name) => flags.has('a') || flags.has('A') || !name.startsWith('.'));
  const entries = names.flatMap(
    (name) => entryAt(call, `${folder.path === '/' ? '' : folder.path}/${name}`, name) ?? [],
  );
  if (isNamed) call.out(`${isLater ? '\n' : ''}${folder.name}:\n`);
  const total = entries.reduce(
    (sum, { sizeBytes }) => sum + Math.ceil(sizeBytes / BLOCK_BYTES) * (BLOCK_BYTES / 1024),
    0,
  );
  if (flags.has('l')) call.out(`total ${total}\n`);
  call.out(listed(entries, flags));
  if (flags.has('R'))
    for (const entry of entries.filter(({ isFolder }) => isFolder))
      listFolder(
        call,
        { ...entry, name: `${folder.name.replace(/\/$/, '')}/${entry.name}` },
        flags,
        true,
        true,
      );
  return 0;
}

function listed(entries: readonly Entry[], flags: ReadonlySet<string>): string {
  const order = flags.has('t')
    ? (a: Entry, b: Entry) => b.at - a.at
    : flags.has('S')
      ? (a: Entry, b: Entry) => b.sizeBytes - a.sizeBytes
      : () => 0;
  const sorted = [...entries].sort(order);
  if (flags.has('r')) sorted.reverse();
  const width = Math.max(...sorted.map(({ sizeBytes }) => String(sizeBytes).length), 0);
  return lines(
    ...sorted.map((one) => {
      const name = one.name + (flags.has('p') && one.isFolder ? '/' : '');
      return flags.has('l')
        ? `${modeText(one.mode, one.isFolder)} ${one.isFolder ? 2 : 1} shell shell ${String(one.sizeBytes).padStart(width)} ${timeOf(one.at)} ${name}`
        : name;
    }),
  );
}

export const rm: ShellCommand = (call) => {
  const { flags, rest } = letters(call.args);
  const { files } = call.os;
  if (rest.length === 0 && !flags.has('f')) {
    call.err('rm: Needs 1 argument\n');
    return 1;
  }
  let isDone = true;
  for (const name of rest) {
    const path = call.path(name);
    if (!files.exists(path))
      isDone = (flags.has('f') || told(call, 'rm', name, 'No such file or directory')) && isDone;
    else if (!files.isFolder(path)) isDone = told(call, 'rm', name, files.remove(path)) && isDone;
    else if (!flags.has('r') && !flags.has('R')) isDone = told(call, 'rm', name, 'Is a directory') && isDone;
    else
      for (const one of [...within(call, path)].reverse()) {
        const trouble = files.isFolder(one.path) ? files.removeFolder(one.path) : files.remove(one.path);
        isDone = told(call, 'rm', name, trouble) && isDone;
        if (trouble) break;
      }
  }
  return Number(!isDone);
};

export const rmdir: ShellCommand = (call) => {
  const { rest } = letters(call.args);
  return Number(
    !rest
      .map((name) => told(call, 'rmdir', name, call.os.files.removeFolder(call.path(name))))
      .every(Boolean),
  );
};

export const mkdir: ShellCommand = (call) => {
  const { flags, rest } = letters(call.args, 'm');
  if (rest.length === 0) {
    call.err('mkdir: Needs 1 argument\n');
    return 1;
  }
  const made = rest.map((name) => {
    const trouble = call.os.files.makeFolder(call.path(name), flags.has('p'));
    if (trouble) call.err(`mkdir: '${name}': ${trouble}\n`);
    return trouble === undefined;
  });
  return Number(!made.every(Boolean));
};

const copying =
  (tool: 'cp' | 'mv'): ShellCommand =>
  (call) => {
    const { flags, rest } = letters(call.args);
    const { files } = call.os;
    const target = rest.pop();
    if (target === undefined || rest.length === 0) {
      call.err(`${tool}: Needs ${rest.length === 0 && target === undefined ? 2 : 2} arguments\n`);
      return 1;
    }
    const isInto = files.isFolder(call.path(target));
    if (rest.length > 1 && !isInto) {
      call.err(`${tool}: '${target}' not directory\n`);
      return 1;
    }
    let code = 0;
    for (const name of rest) {
      const from = call.path(name);
      const to = isInto ? `${call.path(target)}/${from.split('/').pop()}` : call.path(target);
      const isDeep = tool === 'mv' || flags.has('r') || flags.has('R') || flags.has('a');
      const trouble = copyAll(call, from, to, isDeep) ?? (tool === 'mv' ? removeAll(call, from) : undefined);
      if (trouble) {
        call.err(`${tool}: ${trouble.at === 'to' ? `'${to}'` : `bad '${name}'`}: ${trouble.why}\n`);
        code = 1;
      }
    }
    return code;
  };
export const cp = copying('cp');
export const mv = copying('mv');

type CopyTrouble = { at: 'from' | 'to'; why: string };

function copyAll(call: Call, from: string, to: string, isDeep: boolean): CopyTrouble | undefined {
  const { files } = call.os;
  if (files.isFolder(from) && !isDeep) return { at: 'from', why: 'Is a directory' };
  if (!files.isFolder(from)) {
    const bytes = fileAt(call, from);
    if (typeof bytes === 'string') return { at: 'from', why: bytes };
    const why = files.write(to, bytes, { mode: files.get(from)?.mode ?? 0o660 });
    return why && { at: 'to', why };
  }
  for (const { path } of [...within(call, from)]) {
    const inner = to + path.slice(from.length);
    const why = files.isFolder(path)
      ? files.makeFolder(inner, true)
      : files.write(inner, files.get(path)!.bytes);
    if (why) return { at: 'to', why };
  }
  return undefined;
}

function removeAll(call: Call, path: string): CopyTrouble | undefined {
  const { files } = call.os;
  for (const one of [...within(call, path)].reverse()) {
    const why = files.isFolder(one.path) ? files.removeFolder(one.path) : files.remove(one.path);
    if (why) return { at: 'from', why };
  }
  return undefined;
}

export const touch: ShellCommand = (call) => {
  const { rest } = letters(call.args, 'dt');
  return Number(
    !rest
      .map(
        (name) =>
          call.os.files.isFolder(call.path(name)) ||
          told(call, 'touch', name, call.os.files.touch(call.path(name), Date.now())),
      )
      .every(Boolean),
  );
};

export const chmod: ShellCommand = (call) => {
  const { rest } = letters(call.args.map((arg) => (/^-[rwx]/.test(arg) ? `a${arg}` : arg)));
  const [mode = '', ...names] = rest;
  const isDone = names.map((name) => {
    const before = call.os.files.get(call.path(name))?.mode ?? 0;
    return told(call, 'chmod', name, call.os.files.setMode(call.path(name), modeFrom(mode, before)));
  });
  return Number(!isDone.every(Boolean));
};

function modeFrom(text: string, before: number): number {
  if (/^[0-7]+$/.test(text)) return Number.parseInt(text, 8);
  let mode = before;
  for (const [, who = '', sign, what = ''] of text.matchAll(/([ugoa]*)([-+=])([rwx]*)/g)) {
    const bits = ['r', 'w', 'x'].reduce((sum, letter, i) => sum | (what.includes(letter) ? 4 >> i : 0), 0);
    for (const [i, group] of ['u', 'g', 'o'].entries()) {
      if (who !== '' && !who.includes('a') && !who.includes(group)) continue;
      const shift = 6 - 3 * i;
      if (sign === '=') mode &= ~(7 << shift);
      if (sign === '-') mode &= ~(bits << shift);
      else mode |= bits << shift;
    }
  }
  return mode;
}

export const stat: ShellCommand = (call) => {
  const { rest, values } = letters(call.args, 'c');
  let code = 0;
  for (const name of rest) {
    const entry = entryAt(call, call.path(name), name);
    if (!entry) {
      call.err(`stat: '${name}': No such file or directory\n`);
      code = 1;
      continue;
    }
    const kind = entry.isFolder ? 'directory' : 'regular file';
    const mode = (entry.mode & 0o777).toString(8);
    const forms: Record<string, string> = {
      n: name,
      s: String(entry.sizeBytes),
      a: mode,
      A: modeText(entry.mode, entry.isFolder),
      F: kind,
      U: 'shell',
      G: 'shell',
      u: '2000',
      g: '2000',
      Y: String(Math.floor(entry.at / 1000)),
      y: timeOf(entry.at),
      '%': '%',
    };
    const format = values.get('c');
    if (format !== undefined)
      call.out(`${format.replace(/%([a-zA-Z%])/g, (whole, letter: string) => forms[letter] ?? whole)}\n`);
    else
      call.out(
        lines(
          `  File: ${name}`,
          `  Size: ${entry.sizeBytes}\t Blocks: ${Math.ceil(entry.sizeBytes / 512)}\t IO Blocks: 512\t${kind}`,
          `Access: (0${mode}/${forms.A})\tUid: ( 2000/   shell)\tGid: ( 2000/   shell)`,
          `Modify: ${timeOf(entry.at)}`,
        ),
      );
  }
  return code;
};

export const du: ShellCommand = (call) => {
  const { flags, rest } = letters(call.args, 'd');
  const blocks = (path: string) => Math.ceil((call.os.readFile(path)?.bytes.length ?? 0) / BLOCK_BYTES) * 4;
  const say = (kib: number) => (flags.has('h') ? formatHuman(kib * 1024) : String(kib));
  for (const name of rest.length === 0 ? ['.'] : rest) {
    const root = call.path(name);
    if (!call.os.files.exists(root)) {
      call.err(`du: ${name}: No such file or directory\n`);
      return 1;
    }
    const all = [...within(call, root)].map(({ path }) => path);
    const sum = (folder: string) =>
      all
        .filter((path) => path === folder || path.startsWith(`${folder}/`))
        .reduce((total, path) => total + blocks(path), 4);
    const shown = flags.has('s') ? [root] : all.filter((path) => call.os.files.isFolder(path)).reverse();
    call.out(lines(...shown.map((path) => `${say(sum(path))}\t${name + path.slice(root.length)}`)));
  }
  return 0;
};

function formatHuman(bytes: number): string {
  const units = ['', 'K', 'M', 'G'];
  const level = Math.min(units.length - 1, Math.floor(Math.log2(Math.max(1, bytes)) / 10));
  const value = bytes / 1024 ** level;
  return `${value < 10 && level > 0 ? value.toFixed(1) : Math.round(value)}${units[level]}`;
}

export const df: ShellCommand = (call) => {
  const { flags } = letters(call.args);
  const kib = (bytes: number) => Math.floor(bytes / 1024);
  const used = call.os.files.usedBytes;
  const say = (bytes: number) => (flags.has('h') ? formatHuman(bytes) : String(kib(bytes)));
  call.out(
    lines(
      `Filesystem      ${flags.has('h') ? ' Size' : '1K-blocks'}  Used Available Use% Mounted on`,
      `/dev/block/dm-5 ${say(CAPACITY_BYTES)} ${say(used)} ${say(CAPACITY_BYTES - used)} ${Math.ceil((100 * used) / CAPACITY_BYTES)}% /data`,
      `/dev/fuse       ${say(CAPACITY_BYTES)} ${say(used)} ${say(CAPACITY_BYTES - used)} ${Math.ceil((100 * used) / CAPACITY_BYTES)}% /storage/emulated`,
    ),
  );
  return 0;
};

export const basename: ShellCommand = ({ args: [path = '', suffix = ''], out }) => {
  const name = path.replace(/\/+$/, '').split('/').pop() || '/';
  out(
    `${suffix !== '' && name !== suffix && name.endsWith(suffix) ? name.slice(0, -suffix.length) : name}\n`,
  );
  return 0;
};

export const dirname: ShellCommand = ({ args, out }) => {
  out(
    lines(
      ...args.map(
        (path) => path.replace(/\/+$/, '').replace(/\/*[^/]*$/, '') || (path.startsWith('/') ? '/' : '.'),
      ),
    ),
  );
  return 0;
};

export const realpath: ShellCommand = (call) => {
  const { rest } = letters(call.args);
  let code = 0;
  for (const name of rest) {
    if (call.os.files.exists(call.path(name))) call.out(`${call.path(name)}\n`);
    else {
      call.err(`realpath: ${name}: No such file or directory\n`);
      code = 1;
    }
  }
  return code;
};

export const readlink: ShellCommand = (call) => {
  const { flags, rest } = letters(call.args);
  if (!flags.has('f')) return 1;
  call.out(lines(...rest.map((name) => call.path(name))));
  return 0;
};

export const mktemp: ShellCommand = (call) => {
  const { flags } = letters(call.args, 'pt');
  const path = `/data/local/tmp/tmp.${Math.random().toString(36).slice(2, 12).padEnd(10, 'a')}`;
  if (flags.has('d')) call.os.files.makeFolder(path);
  else call.os.files.write(path, new Uint8Array());
  call.out(`${path}\n`);
  return 0;
};
