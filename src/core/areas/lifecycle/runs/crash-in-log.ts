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

/** What AndroidRuntime prints of an uncaught exception: `FATAL EXCEPTION`, the process, the exception, its frames. */
export function crashInLog(log: readonly LogLine[], appId: string): Crash | undefined {
  const lines = log.filter(({ tag }) => tag === 'AndroidRuntime').map(({ message }) => message);
  const from = lines.findIndex((line) => line.startsWith(`Process: ${appId}`));
  if (from < 0) return undefined;
  const [, exception = '', message = ''] = /^([\w.$]+)(?::\s*(.*))?$/s.exec(lines[from + 1] ?? '') ?? [];
  const frames = lines.slice(from + 2).flatMap((line) => /^\s*at\s+([\w.$<>]+)/.exec(line)?.[1] ?? []);
  return { exception, message, frame: frames.find((frame) => frame.startsWith(appId)) ?? frames[0] ?? '' };
}

/** `am_anr: [user,pid,process,flags,reason]`: the app did not answer to a touch in time. */
export const hangInLog = (log: readonly LogLine[], appId: string): boolean =>
  log.some(({ message, tag }) => tag === 'am_anr' && message.includes(appId));
