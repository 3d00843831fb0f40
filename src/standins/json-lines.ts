import type { Socket } from 'node:net';

const LONGEST_LINE = 64 * 1024;

/** One object a line; whoever sends something else, or too much of it, is cut off. */
export function readLines<Line>(socket: Socket, onLine: (line: Line) => void, longest = LONGEST_LINE): void {
  let rest = '';
  socket.setEncoding('utf8');
  socket.on('data', (text: string) => {
    rest += text;
    const lines = rest.split('\n');
    rest = lines.pop()!;
    if (rest.length > longest) {
      socket.destroy();
      return;
    }
    for (const line of lines) {
      const read = objectIn(line);
      if (!read) {
        socket.destroy();
        return;
      }
      onLine(read as Line);
    }
  });
}

/** Undefined where a text is no JSON, or of something else. */
export function objectIn(text: string): object | undefined {
  try {
    const value: unknown = JSON.parse(text);
    return typeof value === 'object' && value !== null && !Array.isArray(value) ? value : undefined;
  } catch {
    return undefined;
  }
}
