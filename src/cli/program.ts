import { Command, CommanderError } from 'commander';
import { formatProblem, UnreadableError } from '../core/model/problem.ts';
import { printableText } from '../core/reports/escape.ts';
import { fenlokVersion } from '../node/own-files.ts';
import { addCommands, type CommandEntry } from './command-table.ts';
import { type ExitCode, exitCode } from './exit-code.ts';
import { type Io, ReaderGone, UsageError } from './io.ts';
import { formatSystemError } from './system-error.ts';

/** The order is that of the help. */
const COMMANDS: Record<string, CommandEntry> = {
  demo: {
    about: 'run the whole job on a made-up app: read its packages, drill it on stand-in phones, judge',
    load: async () => (await import('./commands/demo.ts')).demoCommand,
  },
  start: {
    about: 'write an intent file from what a package declares, with the questions that you must answer',
    load: async () => (await import('./commands/start.ts')).startCommand,
  },
  read: {
    about:
      'say what a package declares, what stands out first: signing, permissions, languages, links; or whether a signed sale holds',
    load: async () => (await import('./commands/read.ts')).readCommand,
  },
  drill: {
    about: 'run procedures on a device (capture screens, process death, rotation …) into the dossier',
    load: async () => (await import('./commands/drill.ts')).drillCommand,
  },
  look: {
    about:
      'look at the screen in front on a phone: what is wrong with it, what a screen reader meets; no files needed',
    load: async () => (await import('./commands/look.ts')).lookCommand,
  },
  walk: {
    about: 'walk the screen in front by a hardware keyboard, or by what is said of it alone; no files needed',
    load: async () => (await import('./commands/walk.ts')).walkCommand,
  },
  hold: {
    about: 'keep settings of a phone (text size, theme, language …) until Ctrl-C, or until a command ends',
    load: async () => (await import('./commands/hold.ts')).holdCommand,
  },
  restore: {
    about: 'restore the settings that a killed call left changed on a phone',
    load: async () => (await import('./commands/restore.ts')).restoreCommand,
  },
  add: {
    about:
      'take evidence in: a package, captures (JSON, or PNG with XML beside it), catalogues of texts, what sites serve about the app, push messages, signed sales, traces, files',
    load: async () => (await import('./commands/add.ts')).addCommand,
  },
  judge: {
    about: 'judge the candidate in the dossier against the checklist, and write the reports',
    load: async () => (await import('./commands/judge.ts')).judgeCommand,
  },
  compare: {
    about: 'hold a later candidate against the one before: what is new, worse, fixed, or not looked at again',
    load: async () => (await import('./commands/compare.ts')).compareCommand,
  },
  keep: {
    about: 'keep what a candidate came to, small enough for git, for a later comparison and the trend',
    load: async () => (await import('./commands/keep.ts')).keepCommand,
  },
  trend: {
    about:
      'the candidates that were kept, one after the other: towards green, open the longest, what comes back',
    load: async () => (await import('./commands/trend.ts')).trendCommand,
  },
  report: {
    about: 'write the last judgement in other forms: SARIF, JUnit, Markdown, CSV, EARL, JSON, HTML',
    load: async () => (await import('./commands/report.ts')).reportCommand,
  },
  merge: {
    about: 'bring the dossiers of machines that shared the work into one',
    load: async () => (await import('./commands/merge.ts')).mergeCommand,
  },
  rule: {
    about: 'decide on a finding: false alarm, accepted for a time, or real',
    load: async () => (await import('./commands/rule.ts')).ruleCommand,
  },
  patch: {
    about: 'show the change of a source file that fixes a finding, as a diff',
    load: async () => (await import('./commands/patch.ts')).patchCommand,
  },
  sign: {
    about: 'give your outcome for an item that no machine can decide',
    load: async () => (await import('./commands/sign.ts')).signCommand,
  },
  standin: {
    about:
      'run a stand-in: a small simulated phone that bridge clients can drive, the push services of iOS and Android, a test store, or ad networks',
    load: async () => (await import('./commands/standin.ts')).standinCommand,
  },
  try: {
    about: 'ask one of the calculators',
    load: async () => (await import('./commands/try.ts')).tryCommand,
  },
};

/** Runs one call. Everything that a user can cause ends in an exit code and one clear message. */
export async function runProgram(args: readonly string[], io: Io): Promise<ExitCode> {
  let code: ExitCode = exitCode.done;
  const finish = (result: ExitCode) => {
    code = result;
  };
  const program = new Command('fenlok')
    .description(
      'Checks a mobile release candidate against a pre-release checklist, and says why and what to do.',
    )
    .version(fenlokVersion(), '--version', 'print the version')
    .option('--debug', 'print stack traces of errors')
    .showHelpAfterError('(fenlok --help lists the commands)')
    .addHelpText(
      'after',
      '\nBegin with:  fenlok demo\nExit codes: 0 done or clear, 1 blocked, 2 wrong call, 3 a file that cannot be read or written, 4 open, 5 device or service out of reach',
    );
  await addCommands(program, COMMANDS, { io, finish, args });
  configure(program, io);
  try {
    await program.parseAsync(args as string[], { from: 'user' });
    return code;
  } catch (error) {
    return explain(error, io, program.opts<{ debug?: boolean }>().debug ?? false);
  }
}

function configure(command: Command, io: Io): void {
  command.exitOverride().configureOutput({
    writeOut: io.out,
    writeErr: io.err,
    getOutHelpWidth: () => io.columns,
    getErrHelpWidth: () => io.columns,
  });
  for (const child of command.commands) configure(child, io);
}

// by its name, so that no command waits for the bridge to load
const isOutOfReach = (error: unknown): error is Error =>
  error instanceof Error && error.name === 'OutOfReach';

function explain(error: unknown, io: Io, debug: boolean): ExitCode {
  // commander has said it already; help asked for is no error
  if (error instanceof CommanderError) return error.exitCode === 0 ? exitCode.done : exitCode.wrongCall;
  // what else went wrong is told, also when nobody reads the output any more
  if (error instanceof ReaderGone) return exitCode.done;
  if (io.signal.aborted) {
    io.err('\nfenlok: stopped; nothing was left half-written\n');
    return exitCode.interrupted;
  }
  if (debug && error instanceof Error) io.err(`${error.stack}\n`);
  if (error instanceof UnreadableError) {
    io.err(`fenlok: ${printableText(formatProblem(error.problem))}\n`);
    return exitCode.unreadable;
  }
  if (isOutOfReach(error)) {
    io.err(`fenlok: ${printableText(error.message)}\n`);
    return exitCode.outOfReach;
  }
  if (error instanceof UsageError) {
    io.err(`fenlok: ${error.message}\n`);
    return exitCode.wrongCall;
  }
  const refused = formatSystemError(error);
  if (refused !== undefined) {
    io.err(`fenlok: ${printableText(refused)}\n`);
    return exitCode.unreadable;
  }
  io.err(
    `fenlok: a defect in Fenlok itself: ${error instanceof Error ? error.message : String(error)}. Run again with --debug and report what it prints.\n`,
  );
  return exitCode.unreadable;
}
