interface LogLine {
  tag: string;
  message: string;
}

interface Crash {
  exception: string;
  message: string;
  /** The topmost frame of the app's own, without its file; of others where it has none. */
  frame: string;
}

/** In the place of an exception, where the system tells no more than that the app is not there. */
export const ENDED_BY_ITSELF = 'ended by itself';
export const ENDED = { exception: ENDED_BY_ITSELF, message: 'the app is not running any more', frame: '' };

const THROWN = /^(?:Caused by: )?([\w.$]+)(?::\s*(.*))?$/s;

/**
 * What AndroidRuntime prints of an uncaught exception: `FATAL EXCEPTION`, the process, the exception, its frames, then those of its
 * causes. The last cause is the first thing that went wrong.
 */
export function crashInLog(log: readonly LogLine[], appId: string): Crash | undefined {
  const lines = log.filter(({ tag }) => tag === 'AndroidRuntime').map(({ message }) => message);
  const from = lines.findIndex((line) => line.startsWith(`Process: ${appId}`));
  if (from < 0) return undefined;
  const next = lines.indexOf('FATAL EXCEPTION: main', from);
  const own = lines.slice(from + 1, next < 0 ? undefined : next);
  const at = Math.max(
    0,
    own.findLastIndex((line) => line.startsWith('Caused by: ')),
  );
  const [, exception = '', message = ''] = THROWN.exec(own[at] ?? '') ?? [];
  const framesIn = (some: readonly string[]) =>
    some.flatMap((line) => /^\s*at\s+([\w.$<>]+)/.exec(line)?.[1] ?? []);
  const frames = framesIn(own.slice(at));
  const isOwn = (frame: string) => frame.startsWith(appId);
  return {
    exception,
    message,
    frame: frames.find(isOwn) ?? framesIn(own).find(isOwn) ?? frames[0] ?? '',
  };
}

/** `am_anr: [user,pid,process,flags,reason]`: the app did not answer to a touch in time. */
export const hangInLog = (log: readonly LogLine[], appId: string): boolean =>
  log.some(({ message, tag }) => tag === 'am_anr' && message.includes(appId));
