/** The log that the platform keeps: lines in buffers, the oldest dropped. */
export const logBuffers = ['main', 'system', 'events', 'crash'] as const;
export type LogBuffer = (typeof logBuffers)[number];
export type Priority = 'V' | 'D' | 'I' | 'W' | 'E' | 'F';

export interface LogLine {
  /** Milliseconds since the epoch. */
  at: number;
  buffer: LogBuffer;
  pid: number;
  priority: Priority;
  tag: string;
  message: string;
}

export class DeviceLog {
  #lines: LogLine[] = [];
  #listeners = new Set<(line: LogLine) => void>();
  /** Of all buffers together. */
  keptLines = 20_000;
  /** Of the phone's clock, against this machine's. */
  clockAheadMs = 0;

  now = (): number => Date.now() + this.clockAheadMs;

  write(buffer: LogBuffer, pid: number, priority: Priority, tag: string, message: string): void {
    const line = { at: this.now(), buffer, pid, priority, tag, message };
    this.#lines.push(line);
    if (this.#lines.length > this.keptLines) this.#lines.splice(0, Math.ceil(this.keptLines / 10));
    for (const listener of this.#listeners) listener(line);
  }

  /** A line of the events buffer, its values in brackets as the platform prints them. */
  event(pid: number, tag: string, values: readonly (string | number)[]): void {
    this.write('events', pid, 'I', tag, `[${values.join(',')}]`);
  }

  lines(buffers: ReadonlySet<LogBuffer>): LogLine[] {
    return this.#lines.filter(({ buffer }) => buffers.has(buffer));
  }

  clear(buffers: ReadonlySet<LogBuffer>): void {
    this.#lines = this.#lines.filter(({ buffer }) => !buffers.has(buffer));
  }

  /** @returns ends the listening */
  follow(listener: (line: LogLine) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }
}
