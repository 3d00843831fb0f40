/** Lines of a device's log as `logcat` prints them, in each of its formats (Android developers, *Logcat command-line tool*). */

export interface LogLine {
  /** As the log writes it: without a year, or with one; with a time zone where it was asked for. */
  at: string;
  pid: number;
  /** Thread id; the process id where the format has none. */
  tid: number;
  tag: string;
  message: string;
}

const TIME = String.raw`(?:(?:\d{4}-)?\d\d-\d\d \d\d:\d\d:\d\d\.\d{3,9}(?: [+-]\d{4})?|\s*\d{6,}\.\d{3,9})`;
// threadtime, with or without the user that it came from
const THREAD = new RegExp(`^(${TIME})\\s+(?:[\\w-]+\\s+)??(\\d+)\\s+(\\d+) [VDIWEFA] (.*?) *: (.*)$`, 's');
const TIMED = new RegExp(`^(${TIME}) [VDIWEFA]/(.*?) *\\( *(\\d+)\\): (.*)$`, 's');
const BRIEF = /^[VDIWEFA]\/(.*?) *\( *(\d+)\): (.*)$/s;
const LONG = new RegExp(`^\\[ (${TIME})\\s+(?:[\\w-]+\\s*:\\s*)??(\\d+): *(\\d+) [VDIWEFA]/(.*?) *\\]$`);

/** Reads one line after the other; the long format puts a head before each message. */
export class LogLines {
  #head: Omit<LogLine, 'message'> | undefined;
  #wanted: ReadonlySet<string>;

  /** @param wanted tags whose lines are asked for: of the others it is only told that they are lines */
  constructor(wanted: ReadonlySet<string>) {
    this.#wanted = wanted;
  }

  /** @returns `other` for a line of another tag, undefined for what is no line */
  read(text: string): LogLine | 'other' | undefined {
    const common = this.#common(text);
    if (common) {
      this.#head = undefined;
      return common;
    }
    const line = this.#read(text.endsWith('\r') ? text.slice(0, -1) : text);
    return line && (this.#wanted.has(line.tag) ? line : 'other');
  }

  /**
   * `11-30 12:00:00.123  4012  4020 D Tag     : message`, which nearly every log is made of: its parts stand at their places, and
   * no pattern has to be matched.
   */
  #common(line: string): LogLine | 'other' | undefined {
    const isCommon =
      line[2] === '-' &&
      line[8] === ':' &&
      line[14] === '.' &&
      line[18] === ' ' &&
      line[24] === ' ' &&
      line[30] === ' ' &&
      line[32] === ' ';
    if (!isCommon) return undefined;
    const end = line.indexOf(': ', 33);
    if (end < 0) return undefined;
    const tag = line.slice(33, end).trimEnd();
    if (!this.#wanted.has(tag)) return 'other';
    const pid = Number(line.slice(19, 24));
    const tid = Number(line.slice(25, 30));
    if (!(pid >= 0 && tid >= 0)) return undefined;
    const message = line.endsWith('\r') ? line.slice(end + 2, -1) : line.slice(end + 2);
    return { at: line.slice(0, 18), pid, tid, tag, message };
  }

  #read(line: string): LogLine | undefined {
    const thread = THREAD.exec(line);
    if (thread) return this.#plain(thread[1]!, thread[2]!, thread[3]!, thread[4]!, thread[5]!);
    const timed = TIMED.exec(line);
    if (timed) return this.#plain(timed[1]!, timed[3]!, timed[3]!, timed[2]!, timed[4]!);
    const brief = BRIEF.exec(line);
    if (brief) return this.#plain('', brief[2]!, brief[2]!, brief[1]!, brief[3]!);
    const long = LONG.exec(line);
    if (long) {
      this.#head = { at: long[1]!, pid: Number(long[2]), tid: Number(long[3]), tag: long[4]! };
      return undefined;
    }
    if (line === '') this.#head = undefined;
    return this.#head && { ...this.#head, message: line };
  }

  #plain(at: string, pid: string, tid: string, tag: string, message: string): LogLine {
    this.#head = undefined;
    return { at: at.trim(), pid: Number(pid), tid: Number(tid), tag, message };
  }
}
