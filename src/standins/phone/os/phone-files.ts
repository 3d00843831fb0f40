/** Files that the shell may see: its own folders, which it may write, and others that every phone has. */

interface PhoneFile {
  bytes: Uint8Array;
  /** Milliseconds since 1970. */
  at: number;
  mode: number;
}

export type FileTrouble =
  | 'No such file or directory'
  | 'Permission denied'
  | 'Is a directory'
  | 'Not a directory'
  | 'File exists'
  | 'Directory not empty'
  | 'Read-only file system'
  | 'No space left on device';

const FILE_MODE = 0o660;
/** Other names of one folder. */
const LINKS: readonly [from: string, to: string][] = [
  ['/sdcard', '/storage/emulated/0'],
  ['/storage/self/primary', '/storage/emulated/0'],
];
const WRITABLE = ['/storage/emulated/0', '/data/local/tmp'];
const CLOSED = ['/data/data', '/data/user', '/data/system', '/data/misc', '/root', '/metadata'];
const SHIPPED = [
  '/',
  '/acct',
  '/apex',
  '/bin',
  '/cache',
  '/data',
  '/data/app',
  '/data/data',
  '/data/local',
  '/data/local/tmp',
  '/data/misc',
  '/data/system',
  '/data/user',
  '/dev',
  '/etc',
  '/mnt',
  '/proc',
  '/product',
  '/storage',
  '/storage/emulated',
  '/storage/emulated/0',
  '/sys',
  '/system',
  '/system/bin',
  '/system/etc',
  '/system/framework',
  '/vendor',
  ...[
    'Alarms',
    'Android',
    'Android/data',
    'DCIM',
    'Documents',
    'Download',
    'Movies',
    'Music',
    'Notifications',
    'Pictures',
    'Podcasts',
    'Ringtones',
  ].map((name) => `/storage/emulated/0/${name}`),
];
/** What a phone of this size has room for here. */
export const CAPACITY_BYTES = 2 * 2 ** 30;

export class PhoneFiles {
  readonly #files = new Map<string, PhoneFile>();
  readonly #folders = new Map<string, number>(SHIPPED.map((path) => [path, 0]));
  #usedBytes = 0;

  get usedBytes(): number {
    return this.#usedBytes;
  }

  /** Without dots and double slashes, and by the folder's own name. */
  resolve(path: string, cwd = '/'): string {
    const parts: string[] = [];
    for (const part of (path.startsWith('/') ? path : `${cwd}/${path}`).split('/'))
      if (part === '..') parts.pop();
      else if (part !== '' && part !== '.') parts.push(part);
    const plain = `/${parts.join('/')}`;
    const link = LINKS.find(([from]) => plain === from || plain.startsWith(`${from}/`));
    return link ? link[1] + plain.slice(link[0].length) : plain;
  }

  get = (path: string): PhoneFile | undefined => this.#files.get(this.resolve(path));
  isFolder = (path: string): boolean => this.#folders.has(this.resolve(path));
  folderAt = (path: string): number => this.#folders.get(this.resolve(path)) ?? 0;
  exists = (path: string): boolean => this.get(path) !== undefined || this.isFolder(path);

  mayWrite(path: string): boolean {
    const plain = this.resolve(path);
    return WRITABLE.some((folder) => plain.startsWith(`${folder}/`));
  }
  mayRead(path: string): boolean {
    const plain = this.resolve(path);
    return !CLOSED.some((folder) => plain === folder || plain.startsWith(`${folder}/`));
  }

  /** Names in a folder, without those further down; undefined where it is none. */
  list(path: string): string[] | undefined {
    const plain = this.resolve(path);
    if (!this.#folders.has(plain)) return undefined;
    const within = plain === '/' ? '/' : `${plain}/`;
    const names = new Set<string>();
    for (const one of [...this.#files.keys(), ...this.#folders.keys()])
      if (one.startsWith(within) && one !== within) names.add(one.slice(within.length).split('/')[0]!);
    return [...names].sort();
  }

  /** @returns what is in the way */
  write(
    path: string,
    bytes: Uint8Array,
    { at = Date.now(), mode = FILE_MODE, makesFolders = false } = {},
  ): FileTrouble | undefined {
    const plain = this.resolve(path);
    const parent = plain.replace(/\/[^/]*$/, '') || '/';
    if (!this.mayWrite(plain)) return this.#refusalAt(plain);
    if (this.#folders.has(plain)) return 'Is a directory';
    if (makesFolders) {
      const trouble = this.makeFolder(parent, true);
      if (trouble) return trouble;
    }
    if (!this.#folders.has(parent))
      return this.#files.has(parent) ? 'Not a directory' : 'No such file or directory';
    const grown = bytes.length - (this.#files.get(plain)?.bytes.length ?? 0);
    if (this.#usedBytes + grown > CAPACITY_BYTES) return 'No space left on device';
    this.#usedBytes += grown;
    this.#files.set(plain, { bytes, at, mode });
    return undefined;
  }

  append(path: string, bytes: Uint8Array): FileTrouble | undefined {
    const before = this.get(path);
    if (!before) return this.write(path, bytes);
    const whole = new Uint8Array(before.bytes.length + bytes.length);
    whole.set(before.bytes);
    whole.set(bytes, before.bytes.length);
    return this.write(path, whole, { mode: before.mode });
  }

  touch(path: string, at: number): FileTrouble | undefined {
    const before = this.get(path);
    if (before) before.at = at;
    return before ? undefined : this.write(path, new Uint8Array(), { at });
  }

  makeFolder(path: string, withParents = false): FileTrouble | undefined {
    const plain = this.resolve(path);
    if (this.#folders.has(plain)) return withParents ? undefined : 'File exists';
    if (this.#files.has(plain)) return 'File exists';
    if (!this.mayWrite(plain)) return this.#refusalAt(plain);
    const parent = plain.replace(/\/[^/]*$/, '') || '/';
    if (!this.#folders.has(parent)) {
      if (!withParents) return 'No such file or directory';
      const trouble = this.makeFolder(parent, true);
      if (trouble) return trouble;
    }
    this.#folders.set(plain, Date.now());
    return undefined;
  }

  remove(path: string): FileTrouble | undefined {
    const plain = this.resolve(path);
    const file = this.#files.get(plain);
    if (!file) return this.#folders.has(plain) ? 'Is a directory' : 'No such file or directory';
    if (!this.mayWrite(plain)) return 'Permission denied';
    this.#usedBytes -= file.bytes.length;
    this.#files.delete(plain);
    return undefined;
  }

  removeFolder(path: string): FileTrouble | undefined {
    const plain = this.resolve(path);
    if (!this.#folders.has(plain))
      return this.#files.has(plain) ? 'Not a directory' : 'No such file or directory';
    if (!this.mayWrite(plain)) return 'Permission denied';
    if (this.list(plain)!.length > 0) return 'Directory not empty';
    this.#folders.delete(plain);
    return undefined;
  }

  setMode(path: string, mode: number): FileTrouble | undefined {
    const file = this.get(path);
    if (!file) return this.isFolder(path) ? undefined : 'No such file or directory';
    if (!this.mayWrite(path)) return 'Permission denied';
    file.mode = mode;
    return undefined;
  }

  #refusalAt(plain: string): FileTrouble {
    if (/^\/(system|product|vendor|apex|etc|bin)(\/|$)/.test(plain)) return 'Read-only file system';
    const parent = plain.replace(/\/[^/]*$/, '') || '/';
    return this.#folders.has(parent) ? 'Permission denied' : 'No such file or directory';
  }
}
