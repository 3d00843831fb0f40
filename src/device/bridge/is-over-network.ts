/** It is attached over a network that it must not be cut off from; a loopback address is that of an emulator or a stand-in. */
export const isOverNetwork = ({ serial }: { serial: string }): boolean =>
  /^(\[|[\w.-]+:\d+$)/.test(serial) && !/^(127\.|localhost:|\[::1\])/.test(serial);
