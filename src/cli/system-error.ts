/** What the operating system refuses (errno, POSIX.1-2017 section 2.3), in words, with what to do. */
const SAYS: Record<string, { found: string; todo: string }> = {
  ENOSPC: { found: 'no space is left on the disk', todo: 'Free some' },
  EDQUOT: { found: 'your share of the disk is used up', todo: 'Free some of it' },
  EROFS: { found: 'a disk that can only be read', todo: 'Name a place that can be written' },
  EACCES: { found: 'you have no permission', todo: 'Change its permissions, or name another place' },
  EPERM: { found: 'you have no permission', todo: 'Change its permissions, or name another place' },
  EMFILE: { found: 'too many files are open', todo: 'Raise the limit with ulimit -n' },
  ENFILE: { found: 'too many files are open on this computer', todo: 'End other programs' },
  EIO: { found: 'the disk does not answer', todo: 'Check it' },
  EFBIG: { found: 'a file that is larger than this disk can hold', todo: 'Name another place' },
  EISDIR: { found: 'a folder, where a file is expected', todo: 'Name the file' },
  ENOTDIR: { found: 'a file, where a folder is expected', todo: 'Name a folder' },
  ENOENT: { found: 'no such file or folder', todo: 'Check the name' },
  ENAMETOOLONG: { found: 'a name that is too long for this disk', todo: 'Choose a shorter one' },
  ELOOP: { found: 'links that lead to one another', todo: 'Name the file itself' },
  EBUSY: { found: 'a file that another program holds', todo: 'End that program' },
};

/** @returns undefined where it is no error of the operating system on a file */
export function formatSystemError(error: unknown): string | undefined {
  const { code = '', path } = error as NodeJS.ErrnoException;
  const says = Object.hasOwn(SAYS, code) ? SAYS[code] : undefined;
  if (!says) return undefined;
  // said of the place, not of what is written beside it
  const place = path?.replace(/\.incoming-[0-9a-f]+-\d+-\d+-/, '');
  return `${place ? `${place}: ` : ''}${says.found} (${code}). ${says.todo}, and run again; nothing was left half-written`;
}
