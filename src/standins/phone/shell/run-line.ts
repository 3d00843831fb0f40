/** Runs a line of the phone's shell: finds the commands, joins them by pipes, hands on exit codes. */
import type { PhoneOs } from '../os/phone-os.ts';
import { commandNamed } from './commands.ts';
import { type Pipeline, parseLine, type SimpleCommand, SyntaxTrouble } from './parse-line.ts';
import type { Call } from './shell-command.ts';

export interface ShellStreams {
  input: AsyncIterable<Uint8Array>;
  out(bytes: Uint8Array): void;
  err(bytes: Uint8Array): void;
  signal: AbortSignal;
}

const NOT_FOUND = 127;
// stands where the exit code of the command before comes in, which is known only when the line runs
const LAST_CODE = '\u0000?';
const ENCODER = new TextEncoder();

/** @returns the exit code of the last command that ran */
export async function runLine(os: PhoneOs, line: string, streams: ShellStreams): Promise<number> {
  let code = 0;
  const say = (text: string) => streams.err(ENCODER.encode(`/system/bin/sh: ${text}\n`));
  let pipelines: Pipeline[];
  try {
    pipelines = parseLine(
      line,
      new Map([
        ['?', LAST_CODE],
        ['USER', 'shell'],
        ['HOME', '/'],
      ]),
    );
  } catch (error) {
    if (!(error instanceof SyntaxTrouble)) throw error;
    say(error.message);
    return 1;
  }
  for (const { commands, when } of pipelines) {
    if ((when === 'success' && code !== 0) || (when === 'failure' && code === 0)) continue;
    if (streams.signal.aborted) return code;
    code = await runPipeline(os, withCode(commands, code), streams, say);
  }
  return code;
}

async function runPipeline(
  os: PhoneOs,
  commands: readonly SimpleCommand[],
  streams: ShellStreams,
  say: (text: string) => void,
): Promise<number> {
  let input = streams.input;
  let code = 0;
  for (const [i, command] of commands.entries()) {
    const isLast = i === commands.length - 1;
    const kept: Uint8Array[] = [];
    const keep = (bytes: Uint8Array) => kept.push(bytes);
    const out = isLast && !command.writesTo ? streams.out : keep;
    if (command.readsFrom) {
      const file = os.files.get(command.readsFrom);
      if (!file) {
        say(`can't open ${command.readsFrom}: No such file or directory`);
        return 1;
      }
      input = once(file.bytes);
    }
    code = await runCommand(command, {
      os,
      args: [],
      input,
      out: (content) => out(typeof content === 'string' ? ENCODER.encode(content) : content),
      err: (text) => errorsOf(command, out, streams.err)(ENCODER.encode(text)),
      signal: streams.signal,
    });
    if (command.writesTo) writeFile(os, command.writesTo, kept);
    input = once(...kept);
  }
  return code;
}

const errorsOf = (
  { errors }: SimpleCommand,
  out: (bytes: Uint8Array) => void,
  err: (bytes: Uint8Array) => void,
): ((bytes: Uint8Array) => void) => (errors === 'to-output' ? out : errors === 'dropped' ? () => {} : err);

const withCode = (commands: readonly SimpleCommand[], code: number): SimpleCommand[] =>
  commands.map((command) => ({
    ...command,
    words: command.words.map((word) => word.replaceAll(LAST_CODE, String(code))),
  }));

/** Settings of the environment have nobody here who would read them. */
const isAssignment = (word: string): boolean => /^[A-Za-z_]\w*=/.test(word);

async function runCommand({ words }: SimpleCommand, call: Call): Promise<number> {
  const [name, ...args] = words.slice(words.findIndex((word) => word !== 'exec' && !isAssignment(word)));
  if (name === undefined || name === 'export' || isAssignment(name)) return 0;
  const command = commandNamed(name.replace(/^\/system\/bin\//, ''));
  if (!command) {
    call.err(`/system/bin/sh: ${name}: inaccessible or not found\n`);
    return NOT_FOUND;
  }
  return command({ ...call, args });
}

function writeFile(
  os: PhoneOs,
  { appends, path }: { path: string; appends: boolean },
  kept: Uint8Array[],
): void {
  if (path === '/dev/null') return;
  const before = appends ? [os.files.get(path)?.bytes ?? new Uint8Array()] : [];
  os.files.set(path, { bytes: Buffer.concat([...before, ...kept]), at: Date.now() });
}

async function* once(...pieces: Uint8Array[]): AsyncGenerator<Uint8Array> {
  yield* pieces;
}
