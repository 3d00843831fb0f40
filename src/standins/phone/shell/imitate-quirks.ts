/** Commands as phones in the field answer them: see `quirks.ts`. */
import type { PhoneOs } from '../os/phone-os.ts';
import type { Quirk } from '../quirks.ts';
import type { Call, ShellCommand } from './shell-command.ts';

const WARNING =
  '[Warning] Multiple displays were found, but no display id was specified! Defaulting to the first display found, however this default is not guaranteed to be consistent across captures. A display id should be specified.\n';
const REFUSED =
  'java.lang.SecurityException: Injecting input events requires the caller (or the source of the instrumentation, if any) to have the INJECT_EVENTS permission.\n';
const BROUGHT = 'Warning: Activity not started, its current task has been brought to the front\n';

/** How many dumps were asked for, by phone. */
const dumps = new WeakMap<PhoneOs, number>();

const notIdle = ({ err }: Call): number => {
  err('ERROR: could not get idle state.\n');
  return 0;
};

type Imitation = (call: Call, command: ShellCommand) => number | Promise<number>;

const IMITATIONS: Partial<Record<Quirk, { command: string; run: Imitation }>> = {
  'two-displays': {
    command: 'screencap',
    run: (call, command) => {
      call.err(WARNING);
      return command(call);
    },
  },
  'cut-dump': {
    command: 'uiautomator',
    run: (call, command) => {
      const isCut = countDump(call.os) % 2 === 1;
      const out = (content: string | Uint8Array) =>
        call.out(typeof content === 'string' ? content.slice(0, content.length * 0.6) : content);
      return command(isCut ? { ...call, out } : call);
    },
  },
  'busy-dump': {
    command: 'uiautomator',
    run: (call, command) => (countDump(call.os) % 3 === 0 ? command(call) : notIdle(call)),
  },
  'never-idle': { command: 'uiautomator', run: notIdle },
  'task-brought': {
    command: 'am',
    run: (call, command) => {
      if (call.args[0] !== 'start') return command(call);
      call.err(BROUGHT);
      const out = (content: string | Uint8Array) =>
        call.out(
          typeof content === 'string'
            ? content.replace(/^(TotalTime|WaitTime|LaunchState): .*\n/gm, '')
            : content,
        );
      return command({ ...call, out });
    },
  },
  'input-refused': {
    command: 'input',
    run: ({ err }) => {
      err(REFUSED);
      return 255;
    },
  },
};

const countDump = (os: PhoneOs): number => {
  const count = (dumps.get(os) ?? 0) + 1;
  dumps.set(os, count);
  return count;
};

/** The command as a phone with these quirks has it. */
export function withQuirks(
  quirks: ReadonlySet<Quirk>,
  name: string,
  command: ShellCommand | undefined,
): ShellCommand | undefined {
  let found = command;
  for (const quirk of quirks) {
    const imitation = IMITATIONS[quirk];
    const inner = found;
    if (inner && imitation?.command === name) found = (call) => imitation.run(call, inner);
  }
  return found;
}
