/** What the command line needs from its surroundings; handed in, so that it can be driven in-process. */
export interface Io {
  out(text: string): void;
  /** The same, for output in many pieces: resolves when the piece has gone out, so that they do not pile up. */
  outPiece(text: string): Promise<void>;
  err(text: string): void;
  /** What comes in on standard input, whole. @throws UsageError where it is more */
  input(maxBytes: number): Promise<Uint8Array>;
  cwd: string;
  env: Record<string, string | undefined>;
  outIsTerminal: boolean;
  errIsTerminal: boolean;
  columns: number;
  now(): Date;
  /** Hears every key that is pressed, until the function that it returns is called; only where a person sits at a terminal. */
  keys?: ((heard: (key: string) => void) => () => void) | undefined;
  /** Aborted by Ctrl-C and the like, and with `ReaderGone` as reason where nobody reads any more. */
  signal: AbortSignal;
}

/** A call that cannot be carried out as given: exit code 2. */
export class UsageError extends Error {}

/** Whoever read the output has gone (`| head`): the call ends without a word. */
export class ReaderGone extends Error {}

/** A line on stderr that is rewritten in a terminal, and said once at the end elsewhere. */
export function progress(io: Io, label: string): (done: number, total: number, detail?: string) => void {
  let said = false;
  let widest = 0;
  return (done, total, detail = '') => {
    if (io.errIsTerminal) {
      const width = 24;
      const filled = total === 0 ? width : Math.round((done / total) * width);
      const line =
        `${label}  ${'■'.repeat(filled)}${'·'.repeat(width - filled)} ${done}/${total}  ${detail}`.slice(
          0,
          io.columns,
        );
      widest = Math.max(widest, line.length);
      io.err(`\r${line.padEnd(widest)}${done === total ? '\n' : ''}`);
    } else if (done === total && !said) {
      said = true;
      io.err(`${label}  ${done}/${total}\n`);
    }
  };
}
