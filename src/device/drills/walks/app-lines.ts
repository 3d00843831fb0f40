/** Lines that an app printed under the tag Fenlok, read on from where reading stopped. */
import { LOG_TAG } from '../../../core/model/log-tag.ts';
import type { Device, LogLine } from '../../device.ts';

export interface LogReader {
  /** What the app, and everybody else, printed since the last time. */
  next(): Promise<LogLine[]>;
}

/** @param fromS lines before it are not read */
export function logReader(device: Device, fromS: number): LogReader {
  let readTo = fromS;
  /** Lines of that very moment that were read. */
  let readThen = 0;
  return {
    async next() {
      const log = (await device.logSince(readTo.toFixed(3), 'main')).filter(({ epoch }) => epoch >= readTo);
      const fresh = log.slice(readThen);
      const lastS = log.at(-1)?.epoch;
      if (lastS !== undefined) {
        readTo = lastS;
        readThen = log.filter(({ epoch }) => epoch === lastS).length;
      }
      return fresh;
    },
  };
}

/** What stands in a line of the app as JSON; nothing where it is none. */
export function toldIn({ message, tag }: LogLine): object | undefined {
  if (tag !== LOG_TAG) return undefined;
  try {
    const value: unknown = JSON.parse(message);
    return typeof value === 'object' && value !== null ? value : undefined;
  } catch {
    return undefined;
  }
}
