import type { Command } from 'commander';
import type { ExitCode } from './exit-code.ts';
import type { Io } from './io.ts';

/** What a command is told when it is loaded. */
interface CommandContext {
  io: Io;
  finish(code: ExitCode): void;
  /** What stands behind its name in the call. */
  args: readonly string[];
}

/** Adds arguments, options and the action to a command, or its commands to a group. */
export type AddCommand = (command: Command, context: CommandContext) => void | Promise<void>;

/** One line of help, and how to load the rest, so that no call waits for what another command needs. */
export interface CommandEntry {
  about: string;
  load(): Promise<AddCommand>;
}

/** Names every command of a table, in its order, and loads the one that is called. */
export async function addCommands(
  parent: Command,
  table: Readonly<Record<string, CommandEntry>>,
  context: CommandContext,
): Promise<void> {
  const words = context.args.filter((arg) => !arg.startsWith('-'));
  const called = words[0] === 'help' ? words[1] : words[0];
  for (const [name, { about, load }] of Object.entries(table)) {
    const command = parent.command(name).description(about);
    if (name === called)
      await (await load())(command, { ...context, args: context.args.slice(context.args.indexOf(name) + 1) });
  }
}
