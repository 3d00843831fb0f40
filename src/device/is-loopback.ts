/** Whether an address `host:port` is of this computer: that of an emulator, a stand-in, or a port that a cable forwards. */
export const isLoopback = (address: string): boolean => /^(127\.|localhost:|\[::1\])/.test(address);
