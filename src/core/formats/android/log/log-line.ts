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

  read(text: string): LogLine | undefined {
    const line = text.endsWith('\r') ? text.slice(0, -1) : text;
    const common = threadTime(line);
    if (common) {
      this.#head = undefined;
      return common;
    }
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

const SPACE = 0x20;
const isDigit = (code: number): boolean => code >= 0x30 && code <= 0x39;

/** `11-30 12:00:00.123  4012  4020 D Tag     : message`, which nearly every log is made of, without a pattern to match. */
function threadTime(line: string): LogLine | undefined {
  if (line[2] !== '-' || line[5] !== ' ' || line[8] !== ':' || line[14] !== '.' || line[18] !== ' ')
    return undefined;
  let at = 18;
  const number = (): number => {
    while (line.charCodeAt(at) === SPACE) at += 1;
    let value = 0;
    const from = at;
    for (let code = line.charCodeAt(at); isDigit(code); code = line.charCodeAt(++at))
      value = value * 10 + code - 0x30;
    return at > from && line.charCodeAt(at) === SPACE ? value : -1;
  };
  const pid = number();
  const tid = number();
  if (pid < 0 || tid < 0 || line.charCodeAt(at + 2) !== SPACE) return undefined;
  const colon = line.indexOf(': ', at + 3);
  const end = colon < 0 && line.endsWith(':') ? line.length - 1 : colon;
  if (end < 0) return undefined;
  return {
    at: line.slice(0, 18),
    pid,
    tid,
    tag: line.slice(at + 3, end).trimEnd(),
    message: line.slice(end + 2),
  };
}
