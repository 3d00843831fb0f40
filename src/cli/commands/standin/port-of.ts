import { UsageError } from '../../io.ts';

export function portOf(text: string): number {
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65535)
    throw new UsageError(`--port ${text}: no TCP port`);
  if (port >= 5554 && port <= 5585)
    throw new UsageError(
      `--port ${text}: the bridge's server takes 5554 to 5585 for emulators; choose another`,
    );
  return port;
}
