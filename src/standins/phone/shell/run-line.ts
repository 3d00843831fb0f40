/** Runs what comes over the bridge: a line, or a script that is sent. */
import type { PhoneOs } from '../os/phone-os.ts';
import { ByteInput } from './byte-streams.ts';
import { Interpreter } from './interpreter.ts';
import { parseScript, SyntaxTrouble } from './parse-script.ts';
import { textOf } from './shell-command.ts';
import { ShellState, type ShellStreams } from './shell-state.ts';

interface LineStreams {
  input: AsyncIterable<Uint8Array>;
  out(bytes: Uint8Array): void;
  err(bytes: Uint8Array): void;
  signal: AbortSignal;
}

const streamsOf = ({ err, input, out, signal }: LineStreams): ShellStreams => ({
  input: new ByteInput(input),
  sinks: new Map([
    [1, { write: out }],
    [2, { write: err }],
  ]),
  signal,
});

/** @returns the exit code of the last command that ran */
export const runLine = (os: PhoneOs, line: string, streams: LineStreams): Promise<number> =>
  new Interpreter(new ShellState(os)).run(line, streamsOf(streams));

/** A line; or, where there is none, the script that comes in. */
export const runScript = (os: PhoneOs, line: string, streams: LineStreams): Promise<number> =>
  line === '' ? runInput(os, streams) : runLine(os, line, streams);

/** Command by command, as they come in, until the input ends or the script leaves. */
export async function runInput(os: PhoneOs, given: LineStreams): Promise<number> {
  const streams = streamsOf(given);
  const shell = new Interpreter(new ShellState(os));
  let text = '';
  for (let line = await streams.input.line(); line; line = await streams.input.line()) {
    text += textOf(line);
    if (isUnfinished(text)) continue;
    try {
      await shell.evaluate(text, streams);
    } catch (error) {
      const code = shell.codeOf(error, streams);
      if (!(error instanceof SyntaxTrouble)) return code;
      shell.state.lastCode = code;
    }
    text = '';
  }
  return text === '' ? shell.state.lastCode : shell.run(text, streams);
}

function isUnfinished(text: string): boolean {
  try {
    parseScript(text);
    return /\\\n$/.test(text);
  } catch (error) {
    return error instanceof SyntaxTrouble && error.isUnfinished;
  }
}
