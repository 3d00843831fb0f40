import type { Io } from '../../io.ts';

const ENDS = ['\u0003', '\u0004'];
const ERASE = ['\u007f', '\b'];

export interface Keys {
  /** The next key; undefined where the person or a signal ends it. */
  next(): Promise<string | undefined>;
  /** A line, as it is typed, until Enter. */
  line(prompt: string): Promise<string | undefined>;
  close(): void;
}

/** Keys one by one, none of them lost however fast they come. */
export function readKeys(io: Io): Keys {
  const heard: string[] = [];
  let isOver = false;
  let wake: (() => void) | undefined;
  const end = () => {
    isOver = true;
    wake?.();
  };
  const stop = io.keys!((key) => {
    if (ENDS.includes(key)) end();
    // a terminal may hand over several at once, or what was pasted
    else heard.push(...(key.startsWith('\u001b') ? [key] : key));
    wake?.();
  });
  io.signal.addEventListener('abort', end, { once: true });
  const next = async (): Promise<string | undefined> => {
    while (heard.length === 0) {
      if (isOver) return undefined;
      await new Promise<void>((resolve) => {
        wake = resolve;
      });
    }
    return heard.shift();
  };
  return {
    next,
    line: async (prompt) => {
      io.out(prompt);
      let typed = '';
      for (let key = await next(); key !== undefined; key = await next()) {
        if (key === '\r' || key === '\n') {
          io.out('\n');
          return typed.trim();
        }
        if (ERASE.includes(key)) {
          if (typed) io.out('\b \b');
          typed = [...typed].slice(0, -1).join('');
        } else if (!key.startsWith('\u001b') && key >= ' ') {
          typed += key;
          io.out(key);
        }
      }
      return undefined;
    },
    close: () => {
      stop();
      io.signal.removeEventListener('abort', end);
    },
  };
}
