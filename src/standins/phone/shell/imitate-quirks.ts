/** Commands as phones in the field answer them: see `quirks.ts`. */
import type { PhoneOs } from '../os/phone-os.ts';
import type { Quirk } from '../quirks.ts';
import { blackened } from './commands/hardware.ts';
import type { Call, ShellCommand } from './shell-command.ts';

const WARNING =
  '[Warning] Multiple displays were found, but no display id was specified! Defaulting to the first display found, however this default is not guaranteed to be consistent across captures. A display id should be specified.\n';
const REFUSED =
  'java.lang.SecurityException: Injecting input events requires the caller (or the source of the instrumentation, if any) to have the INJECT_EVENTS permission.\n';
const BROUGHT = 'Warning: Activity not started, its current task has been brought to the front\n';

const KEYBOARD = 'com.android.inputmethod.latin';
const KEYBOARD_XML = `<?xml version='1.0' encoding='UTF-8' standalone='yes' ?><hierarchy rotation="0"><node index="0" text="" resource-id="" class="android.widget.FrameLayout" package="${KEYBOARD}" content-desc="" checkable="false" checked="false" clickable="false" enabled="true" focusable="false" focused="false" scrollable="false" long-clickable="false" password="false" selected="false" bounds="[0,1500][1080,2400]" /></hierarchy>UI hierchary dumped to: /dev/tty\n`;
const SLOW_DUMP_MS = 5000;
const SLOW_COMMAND_MS = 3000;
const STAY_ON = 'stay_on_while_plugged_in';

/** How often a command was called, by phone and quirk. */
const calls = new WeakMap<PhoneOs, Map<Quirk, number>>();

const wait = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

const notIdle = ({ err }: Call): number => {
  err('ERROR: could not get idle state.\n');
  return 0;
};

type Imitation = (call: Call, command: ShellCommand) => number | Promise<number>;

/** Without a command it is of all. */
const IMITATIONS: Partial<Record<Quirk, { command?: string; run: Imitation }>> = {
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
      const isCut = countCall(call.os, 'cut-dump') % 2 === 1;
      const out = (content: string | Uint8Array) =>
        call.out(typeof content === 'string' ? content.slice(0, content.length * 0.6) : content);
      return command(isCut ? { ...call, out } : call);
    },
  },
  'busy-dump': {
    command: 'uiautomator',
    run: (call, command) => (countCall(call.os, 'busy-dump') % 3 === 0 ? command(call) : notIdle(call)),
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
  'other-display': {
    command: 'screencap',
    run: async (call, command) => {
      if (call.args.includes('-d')) return command(call);
      const pieces: Uint8Array[] = [];
      const out = (content: string | Uint8Array) => {
        if (typeof content !== 'string') pieces.push(content);
      };
      const code = await command({ ...call, out: (content) => void out(content) });
      call.err(WARNING);
      if (pieces.length > 0) call.out(await blackened(Buffer.concat(pieces)));
      return code;
    },
  },
  'slow-dump': {
    command: 'uiautomator',
    run: async (call, command) => {
      await wait(SLOW_DUMP_MS);
      return command(call);
    },
  },
  'other-window': {
    command: 'uiautomator',
    run: (call, command) => {
      if (countCall(call.os, 'other-window') % 3 !== 0) return command(call);
      call.out(KEYBOARD_XML);
      return 0;
    },
  },
  'old-ps': {
    command: 'ps',
    run: (call, command) => {
      if (call.args.length === 0) return command({ ...call, args: ['-A'] });
      // what stands behind it is taken for the name of a process
      call.out('USER     PID   PPID  VSIZE  RSS     WCHAN    PC        NAME\n');
      return 0;
    },
  },
  'locks-itself': {
    command: 'uiautomator',
    run: (call, command) => {
      const isKeptOn = Number(call.os.settings.get('global', STAY_ON) ?? 0) > 0;
      if (countCall(call.os, 'locks-itself') % 3 === 0 && !isKeptOn) call.os.sleep();
      return command(call);
    },
  },
  'slow-commands': {
    run: async (call, command) => {
      if (countCall(call.os, 'slow-commands') % 30 === 0) await wait(SLOW_COMMAND_MS);
      return command(call);
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

function countCall(os: PhoneOs, quirk: Quirk): number {
  const counts = calls.get(os) ?? new Map<Quirk, number>();
  const now = (counts.get(quirk) ?? 0) + 1;
  calls.set(os, counts.set(quirk, now));
  return now;
}

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
    if (inner && imitation && (imitation.command ?? name) === name)
      found = (call) => imitation.run(call, inner);
  }
  return found;
}
