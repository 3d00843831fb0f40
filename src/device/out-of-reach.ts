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

/** The platform gave no dump, however often it was asked. */
export class NoDump extends OutOfReach {
  constructor(serial: string, said: string) {
    super(
      'no-dump',
      `${serial} gives no dump of its screen: ${said || 'nothing was printed'}${/idle/.test(said) ? ' Something on it moves without end: hold the animations off (fenlok hold --animations off), or stop what plays.' : ''}`,
    );
  }
}

const SAID_CHARACTERS = 300;

/** An order that the device refused. */
export class Refused extends OutOfReach {
  readonly line: string;
  readonly exitCode: number;
  /** What it said to that, in one line. */
  readonly said: string;
  constructor(serial: string, line: string, { code, said }: { code: number; said: string }) {
    super('refused', `${serial} refused "${line}": ${said.trim().split('\n')[0]}`);
    this.line = line;
    this.exitCode = code;
    this.said = said
      .trim()
      .replace(/\s*\n\s*/g, ' ')
      .slice(0, SAID_CHARACTERS);
  }
}
