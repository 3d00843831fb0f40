/** Stacks as the runtime prints them (Java, `Throwable.printStackTrace`; Android prints the same). */
import type { StackFrame, Thrown } from '../../model/stack.ts';

const FRAME = /^\s*at (?:[\w.@]*\/{1,2})?([^\s(]+)\.([^\s(.]+)\(([^)]*)\)/;
const THROWN = /^(?:Caused by: |Suppressed: )?([\w$]+(?:\.[\w$-]+)+)(?:: (.*))?$/s;
const MAX_FRAMES = 200;
const MAX_CAUSES = 20;
const MAX_MESSAGE = 500;

/** `at example.Cart.total(Cart.kt:12)`; nothing where the line is no frame. */
export function readFrame(line: string): StackFrame | undefined {
  const [, className, method, place = ''] = FRAME.exec(line) ?? [];
  if (!className || !method) return undefined;
  const [, file = '', number] = /^(.*?)(?::(\d+))?$/.exec(place) ?? [];
  const isKnown = file !== 'Unknown Source' && file !== 'Native Method' && file !== 'SourceFile';
  return { className, method, file: isKnown ? file : '', ...(number && { line: Number(number) }) };
}

/** The exception and its causes, in the order of the text; what was suppressed is left out with its frames. */
export function readThrown(lines: readonly string[]): Thrown[] {
  const thrown: Thrown[] = [];
  let isSuppressed = false;
  for (const line of lines) {
    const frame = readFrame(line);
    const open = thrown.at(-1);
    if (frame) {
      if (open && !isSuppressed && open.frames.length < MAX_FRAMES) open.frames.push(frame);
      continue;
    }
    if (/^\s+Suppressed: /.test(line)) {
      isSuppressed = true;
      continue;
    }
    if (/^\s*\.\.\. \d+ more/.test(line)) continue;
    const isCause = line.startsWith('Caused by: ');
    const [, exception, message = ''] = THROWN.exec(line) ?? [];
    if (exception && (isCause || !open)) {
      if (thrown.length >= MAX_CAUSES) break;
      isSuppressed = false;
      thrown.push({ exception, message: message.slice(0, MAX_MESSAGE), frames: [] });
    } else if (open && open.frames.length === 0 && open.message.length < MAX_MESSAGE)
      // a message of several lines
      open.message = `${open.message}\n${line}`.slice(0, MAX_MESSAGE);
  }
  return thrown;
}
