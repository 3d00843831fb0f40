/** A device or its bridge that cannot be reached, or that went away: exit code 5. */
export class OutOfReach extends Error {
  readonly code: OutOfReachCode;

  constructor(code: OutOfReachCode, message: string, options?: ErrorOptions) {
    super(message, options);
    this.name = 'OutOfReach';
    this.code = code;
  }
}

export type OutOfReachCode =
  /** No bridge server, or nothing listens at the address. */
  | 'no-answer'
  /** The phone has not been told to trust this computer. */
  | 'unauthorised'
  /** The server knows the device, and cannot talk to it. */
  | 'offline'
  /** Another process drives it. */
  | 'in-use'
  /** No such device, or several and none chosen. */
  | 'unknown'
  /** It went away while it was in use. */
  | 'gone'
  /** A command did not end in time. */
  | 'timeout'
  /** It refuses a command. */
  | 'refused'
  /** It gives no dump of its screen. */
  | 'no-dump';
