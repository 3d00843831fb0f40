import { isLoopback } from '../is-loopback.ts';

/** It is attached over a network that it must not be cut off from. */
export const isOverNetwork = ({ serial }: { serial: string }): boolean =>
  /^(\[|[\w.-]+:\d+$)/.test(serial) && !isLoopback(serial);
